/** Containers written by a library not ours, read with Node's inflater. */
import { beforeAll, describe, expect, it } from 'vitest';
import { zipSync } from 'fflate';
import { openZip, type Zip } from '@pagina/core/base';
import { inflateByHost } from '@pagina/make';

const text = Uint8Array.from({ length: 200_000 }, (_, i) => 97 + ((i * i) % 23));
const opened = (bytes: Uint8Array): Zip => {
  const zip = openZip(bytes);
  if (!zip.ok) throw new Error(zip.refusal.message);
  return zip.value;
};
/** What the directory says of the size of the first entry is made another (PKWARE APPNOTE 6.3.3 §4.3.12). */
function saying(size: number): Uint8Array {
  const bytes = zipSync({ text });
  const view = new DataView(bytes.buffer);
  for (let i = 0; i < bytes.length - 4; i++)
    if (view.getUint32(i, true) === 0x02014b50) view.setUint32(i + 24, size, true);
  return bytes;
}

describe('the inflater of the host', () => {
  beforeAll(inflateByHost);
  it('gives what was packed, and nothing for what is empty', () => {
    const zip = opened(zipSync({ text, none: new Uint8Array(0) }));
    expect(Buffer.from(zip.read('text') ?? []).equals(Buffer.from(text))).toBe(true);
    expect(zip.read('none')).toHaveLength(0);
    expect(zip.read('absent')).toBeNull();
  });
  it('gives bytes of their own, whose copies are copies', () => {
    const bytes = opened(zipSync({ text })).read('text')!;
    expect(Buffer.isBuffer(bytes)).toBe(false);
    bytes.slice()[0] = 0;
    expect(bytes[0]).toBe(text[0]);
  });
  it.each([0, 10, 199_999])('stops at the size that the directory says: %i', (size) =>
    expect(() => opened(saying(size)).read('text')).toThrow(),
  );
  it('throws on damaged data', () => {
    const bytes = zipSync({ text });
    bytes.fill(0xff, 40, 80);
    expect(() => opened(bytes).read('text')).toThrow();
  });
});
