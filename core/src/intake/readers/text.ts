/**
 * Plain text as a manuscript. Its encoding is told from its bytes; whether lines are paragraphs or only wrapped, and
 * whether blank lines or indents part paragraphs, from the whole of it.
 */
import { done, refused, type Outcome } from '../../base';
import { schema } from '../../book';
import { rawManuscript, rawParagraph, type RawManuscript, type RawParagraph } from '../raw';

/** UTF-8, UTF-16 by its mark, else Windows-1252, which old editors write. */
export function decodeText(bytes: Uint8Array): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return new TextDecoder('utf-16be').decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return windows1252(bytes);
  }
}

/** Bytes 80 to 9F of Windows-1252 (WHATWG Encoding, index windows-1252); the rest is Latin-1. */
const HIGH =
  '\u20ac\u0081\u201a\u0192\u201e\u2026\u2020\u2021\u02c6\u2030\u0160\u2039\u0152\u008d\u017d\u008f\u0090\u2018\u2019\u201c\u201d\u2022\u2013\u2014\u02dc\u2122\u0161\u203a\u0153\u009d\u017e\u0178';
const windows1252 = (bytes: Uint8Array): string =>
  new TextDecoder('latin1')
    .decode(bytes)
    .replace(/[\u0080-\u009f]/g, (c) => HIGH.charAt(c.charCodeAt(0) - 0x80));

/** Errors: `intake/binary` for what holds signs that no text has. */
export function readText(bytes: Uint8Array): Outcome<RawManuscript> {
  const text = decodeText(bytes)
    .replace(/^\ufeff/, '')
    .replace(/\r\n?/g, '\n');
  const odd = text.match(/[\u0000-\u0008\u000e-\u001b\ufffd]/g)?.length ?? 0;
  if (odd > text.length / 500)
    return refused('intake/binary', 'This isn’t a text file, and Pagina can’t read it.');
  const m = rawManuscript();
  m.blocks = paragraphsOfText(text);
  return done(m);
}

/** Share of lines near the longest that tells wrapped text from one line a paragraph. */
const WRAPPED = 0.3;

function paragraphsOfText(text: string): RawParagraph[] {
  const pages = text.split('\f');
  const lines = text.split(/[\n\f]/);
  const wrapped = isWrapped(lines);
  const width = Math.min(
    100,
    lines.reduce((n, l) => Math.max(n, l.trimEnd().length), 0),
  );
  const out: RawParagraph[] = [];
  pages.forEach((page, index) => {
    let breakBefore = index > 0;
    /** The paragraph that is open: its lines, and whether it began with an indent. */
    let open: { lines: string[]; indent: boolean } | null = null;
    const put = (text: string, indented: boolean, align: RawParagraph['align']): void => {
      const p = rawParagraph({ breakBefore, indented, align });
      p.inline = emphasised(text);
      p.text = p.inline.map((n) => n.text).join('');
      breakBefore = false;
      out.push(p);
    };
    const close = (): void => {
      if (open) {
        const [first = ''] = open.lines;
        const align = open.lines.length === 1 && centred(first, width) ? 'centre' : 'left';
        // A word parted by a hyphen at a line's end stays parted: in typed text the hyphen is the author's.
        put(open.lines.map((l) => l.trim()).join(' '), open.indent, align);
      }
      open = null;
    };
    for (const line of page.split('\n')) {
      if (line.trim() === '') {
        close();
        out.push(rawParagraph({ breakBefore }));
        breakBefore = false;
        continue;
      }
      const indent = /^[ \t\u00a0]{2,}/.test(line);
      if (!wrapped) {
        put(line.trim(), indent, centred(line, width) ? 'centre' : 'left');
        continue;
      }
      // An indented line after full lines begins a paragraph.
      const now = open as { lines: string[]; indent: boolean } | null;
      if (now && indent && !now.indent) {
        close();
        open = { lines: [line], indent: false };
      } else if (now) now.lines.push(line);
      else open = { lines: [line], indent };
    }
    close();
  });
  while (out.length > 0 && out.at(-1)?.text === '') out.pop();
  return out;
}

function isWrapped(lines: readonly string[]): boolean {
  const lengths = lines.map((l) => l.trimEnd().length).filter((n) => n > 0);
  const longest = lengths.reduce((a, b) => Math.max(a, b), 0);
  if (longest > 140 || lengths.length < 4) return false;
  const full = lengths.filter((n) => n > longest * 0.8).length;
  return full / lengths.length > WRAPPED;
}

/** Spaces on the left that leave as much on the right as a centred line would. */
function centred(line: string, width: number): boolean {
  const left = line.length - line.trimStart().length;
  return left >= 8 && Math.abs(left - (width - line.trim().length) / 2) <= 4;
}

/** "_word_" is how emphasis is typed where there is none (common practice). */
function emphasised(line: string): RawParagraph['inline'] {
  const out: RawParagraph['inline'] = [];
  const mark = schema.marks.emphasis!.create();
  line.split(/(?<![\p{L}\p{N}_])_([^_\n]+)_(?![\p{L}\p{N}_])/u).forEach((part, i) => {
    if (part !== '') out.push(schema.text(part, i % 2 === 1 ? [mark] : []));
  });
  return out;
}
