/** How the text of a part is encoded (XML 1.0 §4.3.3, Appendix F). */

export function isUtf8(bytes: Uint8Array): boolean {
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    return true;
  } catch {
    return false;
  }
}

/** By the first bytes; UTF-8 where they say nothing. */
export function encodingOf(bytes: Uint8Array): 'utf-8' | 'utf-16le' | 'utf-16be' | 'utf-32' {
  const [a, b, c, d] = bytes;
  if ((a === 0xff && b === 0xfe) || (a === 0x3c && b === 0 && c === 0x3f && d === 0)) return 'utf-16le';
  if ((a === 0xfe && b === 0xff) || (a === 0 && b === 0x3c && c === 0 && d === 0x3f)) return 'utf-16be';
  return a === 0 && b === 0 && c === 0 && d === 0x3c ? 'utf-32' : 'utf-8';
}

/** What cannot be read as that becomes U+FFFD. */
export function textIn(bytes: Uint8Array): string {
  const encoding = encodingOf(bytes);
  return new TextDecoder(encoding === 'utf-32' ? 'utf-8' : encoding).decode(bytes);
}
