/** FNV-1a (G. Fowler, L. C. Noll, K.-P. Vo): quick sums that tell one text from another, not a secret from a guess. */
export const FNV_BASIS = 0x811c9dc5;
export const FNV_PRIME = 0x01000193;

/** Over UTF-16 units. */
function fnv(text: string, basis = FNV_BASIS): number {
  let h = basis | 0;
  for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), FNV_PRIME);
  return h >>> 0;
}

/** Over every `step`th of a list of numbers. */
export function fnvOf(list: ArrayLike<number>, step = 1, basis = FNV_BASIS): number {
  let h = basis | 0;
  for (let i = 0; i < list.length; i += step) h = Math.imul(h ^ (list[i] as number), FNV_PRIME);
  return h >>> 0;
}

const BASES = [1, 2, 3, 4].map((seed) => FNV_BASIS ^ Math.imul(seed, 0x9e3779b9));
const hex = (n: number): string => n.toString(16).padStart(8, '0');

/** 32 hexadecimal digits that depend on a text alone. */
export const digestOf = (text: string): string => BASES.map((basis) => hex(fnv(text, basis))).join('');
export const digestOfBytes = (bytes: Uint8Array): string =>
  BASES.map((basis) => hex(fnvOf(bytes, 1, basis))).join('');

/** A digest in the form of a UUID (RFC 9562 §5.8, version 8). */
export const uuidOf = (digest: string): string =>
  `${digest.slice(0, 8)}-${digest.slice(8, 12)}-8${digest.slice(13, 16)}-a${digest.slice(17, 20)}-${digest.slice(20, 32)}`;

const ONE = new Int32Array(1);
/**
 * A 64-bit sum over 32-bit numbers that come one after the other: two lanes of MurmurHash3 (A. Appleby; its constants from
 * memory). Unlike FNV every bit of a number reaches every bit of the sum.
 */
export class Sum {
  private a = 0x9747b28c | 0;
  private b = 0x3c6ef372 | 0;
  private count = 0;

  add(n: number): void {
    ONE[0] = n;
    this.each(ONE, 0, 1);
  }
  /** From each of `times` stretches of a list, `step` apart, its first `some` numbers. */
  each(list: Int32Array | Uint8Array, from: number, some: number, times = 1, step = some): void {
    let { a, b } = this;
    for (let t = 0, start = from; t < times; t++, start += step)
      for (let i = start; i < start + some; i++) {
        const n = list[i] as number;
        let k = Math.imul(n, 0xcc9e2d51);
        k = Math.imul((k << 15) | (k >>> 17), 0x1b873593);
        a ^= k;
        a = (Math.imul((a << 13) | (a >>> 19), 5) + 0xe6546b64) | 0;
        k = Math.imul(n, 0x239b961b);
        k = Math.imul((k << 16) | (k >>> 16), 0xab0e9789);
        b ^= k;
        b = (Math.imul((b << 19) | (b >>> 13), 5) + 0x561ccd1b) | 0;
      }
    this.a = a;
    this.b = b;
    this.count = (this.count + some * times) | 0;
  }
  text(s: string): void {
    this.add(s.length);
    for (let i = 0; i < s.length; i++) this.add(s.charCodeAt(i));
  }
  /** 16 hexadecimal digits. */
  digits(): string {
    const end = (h: number): number => {
      let x = h ^ this.count;
      x = Math.imul(x ^ (x >>> 16), 0x85ebca6b);
      x = Math.imul(x ^ (x >>> 13), 0xc2b2ae35);
      return (x ^ (x >>> 16)) >>> 0;
    };
    return hex(end(this.a)) + hex(end(this.b ^ this.a));
  }
}
