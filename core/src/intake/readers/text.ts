/**
 * Plain text as a manuscript. Its encoding is told from its bytes; whether lines are paragraphs or only wrapped, and
 * whether blank lines or indents part paragraphs, from the whole of it.
 */
import { done, refused, type Outcome } from '../../base';
import { schema } from '../../book';
import { Vocabulary, rawManuscript, rawParagraph, type RawManuscript, type RawParagraph } from '../raw';
import { indentOf, isWrapped, layoutOf, paragraphsOfLines, type TypedParagraph } from './text-lines';

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

function paragraphsOfText(text: string): RawParagraph[] {
  const pages = text.split('\f').map((page) => page.split('\n'));
  const lines = pages.flat();
  const layout = layoutOf(lines);
  const wrapped = isWrapped(lines);
  const words = new Vocabulary(() => lines);
  const out: RawParagraph[] = [];
  pages.forEach((page, index) => {
    const typed = wrapped
      ? paragraphsOfLines(page, layout)
      : page.map((line): TypedParagraph => ({
          lines: line.trim() === '' ? [] : [line],
          indented: indentOf(line) >= 2,
          centred: layout.isCentred(line),
          verse: false,
        }));
    typed.forEach((t, i) => out.push(paragraph(t, words, i === 0 && index > 0)));
  });
  while (out.length > 0 && out.at(-1)?.text === '') out.pop();
  return out;
}

function paragraph(t: TypedParagraph, words: Vocabulary, breakBefore: boolean): RawParagraph {
  const p = rawParagraph({ breakBefore, indented: t.indented, align: t.centred ? 'centre' : 'left' });
  const kept = t.centred || t.verse;
  const least = Math.min(...t.lines.map(indentOf));
  const lines = kept
    ? t.lines.map((l) => (t.verse ? l.slice(least).trimEnd() : l.trim()))
    : [t.lines.reduce((text, l) => (text === '' ? l.trim() : words.joined(text, l.trim())), '')];
  lines.forEach((line, i) => {
    if (i > 0) p.inline.push(schema.node('lineBreak'));
    p.inline.push(...emphasised(line));
  });
  p.text = p.inline.map((n) => n.text ?? '\n').join('');
  return p;
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
