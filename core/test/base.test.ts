import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { zipSync } from 'fflate';
import {
  descendants,
  countWords,
  fromRoman,
  fromWords,
  numberInWords,
  openZip,
  parseLength,
  parseTrim,
  parseXml,
  pictureInfo,
  ptString,
  toRoman,
  writeZip,
} from '../src/base';
import { png } from './fixtures/manuscript';

describe('lengths', () => {
  // 1 in = 72 pt = 6 picas = 25.4 mm: ISO 32000-1 §8.3.2.3 and common practice.
  it.each([
    ['5.5in', 396_000],
    ['140 mm', 396_850],
    ['11pt', 11_000],
    ['33p', 396_000],
    ['33p6', 402_000],
    ['0,25 in', 18_000],
    ['8½', null],
    ['', null],
    ['wide', null],
  ])('reads %s', (text, mp) => expect(parseLength(text)).toBe(mp));
  it('reads trims with one unit or two', () => {
    expect(parseTrim('5.5x8.5in')).toEqual({ width: 396_000, height: 612_000 });
    expect(parseTrim('140 mm × 210 mm')).toEqual({ width: 396_850, height: 595_276 });
    expect(parseTrim('large')).toBeNull();
  });
  it('writes points without needless zeros', () =>
    expect([306_000, 13_200, -5, 0].map(ptString)).toEqual(['306', '13.2', '-0.005', '0']));
});

describe('numbers in words', () => {
  it('goes to roman and back for every number a book can have', () => {
    for (let n = 1; n < 4000; n++) expect(fromRoman(toRoman(n))).toBe(n);
    expect(fromRoman('IIII')).toBeNull();
  });
  it('goes to English words and back', () => {
    for (let n = 1; n < 1000; n++) expect(fromWords(numberInWords(n))).toBe(n);
    expect([numberInWords(21), numberInWords(115)]).toEqual(['Twenty-One', 'One Hundred Fifteen']);
    expect(fromWords('boat')).toBeNull();
  });
  it('counts as words what stands between spaces and holds a letter or a figure', () => {
    // By patterns alone, over the white space and the letters of the Unicode Standard.
    const plainly = (text: string): number =>
      text.split(/\s+/u).filter((w) => /[\p{L}\p{N}]/u.test(w)).length;
    const sign = fc.oneof(
      fc.constantFrom(
        ' ',
        '\n',
        '\t',
        '\v',
        '\u00a0',
        '\u2003',
        '\u202f',
        '\u3000',
        '\ufeff',
        '\u200b',
        '\u0085',
      ),
      fc.constantFrom('a', 'Z', '7', 'é', 'ß', 'Ж', '½', '٣', '𝔄', '😀', '—', '’', '.', '*', '\ud800'),
      fc.string({ minLength: 1, maxLength: 1, unit: 'binary' }),
    );
    fc.assert(
      fc.property(fc.array(sign, { maxLength: 60 }), (signs) => {
        const text = signs.join('');
        expect(countWords(text)).toBe(plainly(text));
      }),
      { numRuns: 2_000 },
    );
  });
  it('counts words, not signs', () => expect(countWords('Call me — Ishmael. 1857 * * *')).toBe(4));
});

describe('zip containers', () => {
  const parts = [
    { name: 'mimetype', bytes: new TextEncoder().encode('application/epub+zip'), stored: true },
    { name: 'a.txt', bytes: new TextEncoder().encode('x'.repeat(5000)) },
  ];
  it('are the same to the byte each time and read back', () => {
    const a = writeZip(parts);
    expect(Buffer.from(a).equals(Buffer.from(writeZip(parts)))).toBe(true);
    const zip = openZip(a);
    if (!zip.ok) throw new Error(zip.refusal.message);
    expect(new TextDecoder().decode(zip.value.read('a.txt') ?? new Uint8Array())).toBe('x'.repeat(5000));
    expect(zip.value.entries[0]).toMatchObject({ name: 'mimetype', method: 0, offset: 0, localExtra: 0 });
  });
  it('are refused when they would unpack to more than any book', () => {
    const bomb = zipSync({ big: new Uint8Array(3_000_000) });
    const opened = openZip(bomb, { entries: 10, total: 1_000_000 });
    expect(opened.ok ? '' : opened.refusal.code).toBe('zip/bomb');
  });
  it('that lie about a size are not inflated past it', () => {
    const zip = zipSync({ big: new Uint8Array(100_000) });
    const view = new DataView(zip.buffer);
    for (let i = 0; i < zip.length - 4; i++)
      if (view.getUint32(i, true) === 0x02014b50) view.setUint32(i + 24, 10, true);
    const opened = openZip(zip);
    if (!opened.ok) throw new Error('refused');
    let size = -1;
    try {
      size = opened.value.read('big')?.length ?? -1;
    } catch {
      size = 0;
    }
    expect(size).toBeLessThanOrEqual(10);
  });
  it.each([
    ['cut short', 40],
    ['empty', 0],
  ])('%s are refused', (_name, length) => expect(openZip(writeZip(parts).slice(0, length)).ok).toBe(false));
});

describe('XML', () => {
  it('keeps line and column of a fault', () =>
    expect(parseXml('<a>\n  <b></c></a>').fault).toMatchObject({ line: 2 }));
  it('names the line and column where an element begins', () => {
    const { root } = parseXml('<a>\r\n  <b\n  c="1"\n>&#8212;<d/>\ud83d\ude00<e/></b></a>');
    const at = (name: string) => descendants(root!, name).map((e) => [e.line, e.column])[0];
    expect([at('a'), at('b'), at('d'), at('e')]).toEqual([
      [1, 1],
      [2, 3],
      [4, 9],
      [4, 15],
    ]);
  });
  it('knows the names of characters in XHTML 1.1 alone', () => {
    // XHTML 1.0, appendix A.2: its DTDs declare them; XML 1.0 §4.6 has five, and EPUB 3.3 §3.3 forbids other DTDs.
    const body = '<a>&nbsp;&eacute;</a>';
    expect(parseXml(body).fault).not.toBeNull();
    expect(parseXml(`<!DOCTYPE html>${body}`).fault).not.toBeNull();
    const dtd =
      '<!DOCTYPE html PUBLIC "-//W3C//DTD XHTML 1.1//EN" "http://www.w3.org/TR/xhtml11/DTD/xhtml11.dtd">';
    expect(parseXml(`${dtd}\n${body}`).root?.children).toEqual(['\u00a0é']);
  });
  it('never resolves an external entity', () => {
    const r = parseXml('<!DOCTYPE a [<!ENTITY x SYSTEM "file:///etc/passwd">]><a>&x;</a>');
    expect(r.root === null || !JSON.stringify(r.root).includes('root:')).toBe(true);
  });
});

it('tells a picture’s size from its first bytes', () => {
  expect(pictureInfo(png(1, 1))).toEqual({ type: 'image/png', width: 1, height: 1 });
  expect(pictureInfo(png(640, 40))).toEqual({ type: 'image/png', width: 640, height: 40 });
  expect(pictureInfo(new Uint8Array([1, 2, 3]))).toBeNull();
});
