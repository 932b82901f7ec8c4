/** The size of a JPEG, out of its frame header (ISO/IEC 10918-1, B.2.2). */
import type { FileFacts } from './filefacts';

export interface CoverFacts extends FileFacts {
  kind: 'cover';
  width: number;
  height: number;
}

export function readJpeg(bytes: Uint8Array): CoverFacts {
  const facts: CoverFacts = { kind: 'cover', width: 0, height: 0, text: '', fault: 'it is no JPEG' };
  if (bytes[0] !== 0xff || bytes[1] !== 0xd8) return facts;
  const two = (at: number): number => (bytes[at] ?? 0) * 256 + (bytes[at + 1] ?? 0);
  for (let at = 2; at + 9 < bytes.length; at += 2 + two(at + 2)) {
    const marker = bytes[at + 1] ?? 0;
    const isFrame = marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker);
    if (isFrame) return { ...facts, height: two(at + 5), width: two(at + 7), fault: '' };
  }
  return facts;
}
