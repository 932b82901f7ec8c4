/** Names, references and white space of XML 1.0 (§2.2, §2.3, §4.1), found at a place of a text. */

const START =
  ':A-Z_a-z\\u{C0}-\\u{D6}\\u{D8}-\\u{F6}\\u{F8}-\\u{2FF}\\u{370}-\\u{37D}\\u{37F}-\\u{1FFF}\\u{200C}\\u{200D}\\u{2070}-\\u{218F}\\u{2C00}-\\u{2FEF}\\u{3001}-\\u{D7FF}\\u{F900}-\\u{FDCF}\\u{FDF0}-\\u{FFFD}\\u{10000}-\\u{EFFFF}';
const NAME_SOURCE = `[${START}][${START}\\-.0-9\\u{B7}\\u{300}-\\u{36F}\\u{203F}\\u{2040}]*`;
/* eslint-disable no-misleading-character-class -- the ranges of XML 1.0 §2.3 as they stand there */
const NAME = new RegExp(NAME_SOURCE, 'uy');
const REFERENCE = new RegExp(`&(?:#x([0-9a-fA-F]+)|#([0-9]+)|(${NAME_SOURCE}));`, 'uy');
/* eslint-enable no-misleading-character-class */
const FORBIDDEN =
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;
const SUSPECT = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff\ud800-\udfff]/;
/** Characters of names within ASCII, and those that begin one. */
const PLAIN = new Uint8Array(65_536);
const PLAIN_START = new Uint8Array(128);
for (let c = 0; c < 128; c++) {
  PLAIN[c] = /[-.:\w]/.test(String.fromCharCode(c)) ? 1 : 0;
  PLAIN_START[c] = /[:A-Z_a-z]/.test(String.fromCharCode(c)) ? 1 : 0;
}

/** The name that begins there; '' where none does. */
export function nameAt(text: string, at: number): string {
  let end = at;
  for (let c = text.charCodeAt(end); PLAIN[c] === 1; c = text.charCodeAt(++end));
  // Names are of plain letters nearly always, and are read faster one by one.
  if (end > at && text.charCodeAt(end) < 128 && PLAIN_START[text.charCodeAt(at)] === 1)
    return text.slice(at, end);
  NAME.lastIndex = at;
  return NAME.exec(text)?.[0] ?? '';
}

/** Where white space that begins there ends. */
export function spaceAt(text: string, at: number): number {
  let end = at;
  for (let c = text.charCodeAt(end); c === 32 || c === 10 || c === 13 || c === 9; c = text.charCodeAt(++end));
  return end;
}

/** The reference that begins there; null where none does. */
export function referenceAt(text: string, at: number): RegExpExecArray | null {
  REFERENCE.lastIndex = at;
  return REFERENCE.exec(text);
}

/** Where characters stand that no XML holds (§2.2). */
export const forbiddenIn = (text: string): Iterable<RegExpExecArray> =>
  SUSPECT.test(text) ? text.matchAll(FORBIDDEN) : [];
