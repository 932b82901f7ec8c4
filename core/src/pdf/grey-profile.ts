/**
 * An ICC profile (ICC.1:2001-04, version 2) of printing in one black: a monochrome output profile of a single tone
 * curve. It is made here from the dot gain alone, so that files may carry it without anybody's licence.
 */
export const GREY_CONDITION = 'One black on uncoated paper, dot gain 20 %';

/** By how much a dot of half tone grows on the paper (common practice for uncoated stock). */
const GAIN = 0.2;
const STEPS = 256;
/** Reflectance of the solid black and of the paper, as shares of a perfect white. */
const BLACK = 0.02;

/** Reflectance for a grey value from 0, the solid, to 1, the bare paper. The dot grows most in the middle. */
function reflectance(grey: number): number {
  const dot = 1 - grey;
  const grown = Math.min(1, dot + 4 * GAIN * dot * (1 - dot));
  return 1 - grown * (1 - BLACK);
}

export function greyProfile(): Uint8Array {
  const tags: [string, Uint8Array][] = [
    ['desc', description(GREY_CONDITION)],
    ['cprt', textTag('No rights are reserved')],
    // The media's white, as the profile connection space has it: D50.
    ['wtpt', xyz(0.9642, 1, 0.8249)],
    ['kTRC', curve()],
  ];
  const head = 128 + 4 + tags.length * 12;
  const sizes = tags.map(([, t]) => (t.length + 3) & ~3);
  const total = head + sizes.reduce((a, b) => a + b, 0);
  const out = new Uint8Array(total);
  const v = new DataView(out.buffer);
  const sign = (at: number, text: string): void => {
    for (let i = 0; i < 4; i++) out[at + i] = text.charCodeAt(i);
  };
  v.setUint32(0, total);
  v.setUint32(8, 0x02100000);
  sign(12, 'prtr');
  sign(16, 'GRAY');
  sign(20, 'XYZ ');
  // 1 January 2026, midnight.
  [2026, 1, 1, 0, 0, 0].forEach((n, i) => v.setUint16(24 + i * 2, n));
  sign(36, 'acsp');
  v.setUint32(64, 1);
  [0.9642, 1, 0.8249].forEach((n, i) => v.setInt32(68 + i * 4, Math.round(n * 65_536)));
  v.setUint32(128, tags.length);
  let at = head;
  tags.forEach(([name, bytes], i) => {
    sign(132 + i * 12, name);
    v.setUint32(136 + i * 12, at);
    v.setUint32(140 + i * 12, bytes.length);
    out.set(bytes, at);
    at += sizes[i] as number;
  });
  return out;
}

function tag(type: string, length: number): { bytes: Uint8Array; view: DataView } {
  const bytes = new Uint8Array(8 + length);
  for (let i = 0; i < 4; i++) bytes[i] = type.charCodeAt(i);
  return { bytes, view: new DataView(bytes.buffer) };
}
const put = (bytes: Uint8Array, at: number, text: string): void => {
  for (let i = 0; i < text.length; i++) bytes[at + i] = text.charCodeAt(i);
};
function textTag(text: string): Uint8Array {
  const { bytes } = tag('text', text.length + 1);
  put(bytes, 8, text);
  return bytes;
}
/** textDescriptionType: the text in ASCII, then empty forms in Unicode and for old systems. */
function description(text: string): Uint8Array {
  const { bytes, view } = tag('desc', 4 + text.length + 1 + 8 + 3 + 67);
  view.setUint32(8, text.length + 1);
  put(bytes, 12, text);
  return bytes;
}
function xyz(...values: number[]): Uint8Array {
  const { bytes, view } = tag('XYZ ', 12);
  values.forEach((n, i) => view.setInt32(8 + i * 4, Math.round(n * 65_536)));
  return bytes;
}
function curve(): Uint8Array {
  const { bytes, view } = tag('curv', 4 + STEPS * 2);
  view.setUint32(8, STEPS);
  for (let i = 0; i < STEPS; i++)
    view.setUint16(12 + i * 2, Math.round(reflectance(i / (STEPS - 1)) * 65_535));
  return bytes;
}
