/**
 * Tracked changes of Rich Text taken back (specification 1.9.1, "Track changes"): what was put in becomes hidden text, which
 * no reader shows, and what was deleted is text like any other.
 */
const WORD = /\\(?:(revised|deleted)(-?\d+)?(?![a-z\d]) ?|bin(\d+) ?|[^])/g;

export function withoutRtfChanges(bytes: Uint8Array): Uint8Array {
  const file = new TextDecoder('latin1').decode(bytes);
  let out = '';
  let at = 0;
  WORD.lastIndex = 0;
  for (let m = WORD.exec(file); m; m = WORD.exec(file)) {
    const [all, word, on = '', binary] = m;
    // Bytes that follow are no text.
    if (binary) WORD.lastIndex += Number(binary);
    if (!word) continue;
    out += file.slice(at, m.index) + (word === 'revised' ? `\\v${on} ` : '');
    at = m.index + all.length;
  }
  out += file.slice(at);
  return Uint8Array.from(out, (c) => LATIN.get(c) ?? c.charCodeAt(0));
}

/** What the decoder of browsers, which takes Latin-1 for Windows-1252, makes of the bytes from 80 to 9F. */
const LATIN = new Map(
  Array.from({ length: 32 }, (_, i) => [new TextDecoder('latin1').decode(Uint8Array.of(128 + i)), 128 + i]),
);
