import { beforeAll, describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { zipSync, unzipSync, type Zippable } from 'fflate';
import { OdtDocument } from 'odf-kit';
import { makeEbook, makePrint } from '@pagina/make';
import { readManuscript } from '../src/intake';
import { prose, threeChapters } from './fixtures/books';
import { styledManuscript } from './fixtures/manuscript';
import { oldDocument } from './fixtures/old-doc';

/** One sound file of each kind that is bytes and not words. */
const files = new Map<string, Uint8Array>();
beforeAll(async () => {
  files.set('a.docx', await styledManuscript());
  const odt = new OdtDocument();
  odt.addHeading('Chapter One', 1).addParagraph(prose(60)).addList(['a', 'b']);
  files.set('a.odt', await odt.save());
  const ebook = await makeEbook(threeChapters(), 'ebook', { pictures: () => null, print: null });
  const print = await makePrint(threeChapters(), 'paperback', { pictures: () => null });
  if (!ebook.ok || !print.ok) throw new Error('the fixtures cannot be made');
  files.set('a.epub', ebook.value.bytes);
  files.set('a.pdf', print.value.bytes);
  files.set('a.doc', oldDocument(['Chapter One', prose(60)], ['A note.']));
  const rtf = `{\\rtf1\\ansi{\\fonttbl{\\f0 Times;}}{\\stylesheet{\\s1\\outlinelevel0 heading 1;}}\\pard\\s1 One\\par\\pard ${prose(60)}{\\footnote A note.}\\par\\trowd\\intbl a\\cell b\\cell\\row}`;
  files.set('a.rtf', new TextEncoder().encode(rtf));
  files.set(
    'a.html',
    new TextEncoder().encode(
      `<!doctype html><h1>One</h1><p>${prose(40)}<sup><a id=r href=#n>1</a></sup><ol><li id=n>N <a href=#r>b</a></ol>`,
    ),
  );
  files.set(
    'a.md',
    new TextEncoder().encode(`# One\n\n${prose(40)}[^1]\n\n| a |\n|---|\n| b |\n\n[^1]: N\n`),
  );
  files.set('a.txt', new TextEncoder().encode(`CHAPTER ONE\n\n${prose(80)}\n`));
});

/** Whatever comes of it, it is a book with every word accounted for, or a sentence; never an exception. */
async function answers(bytes: Uint8Array, name: string): Promise<void> {
  const r = await readManuscript(bytes, name);
  if (!r.ok) {
    expect(r.refusal.code).toMatch(/^[a-z]+\/[a-z-]+$/);
    expect(r.refusal.message).toMatch(/^[A-Z].{10,}[.]$/s);
    return;
  }
  const { wordsIn, wordsOut, setAside } = r.value;
  expect(wordsOut + setAside.reduce((n, s) => n + s.words, 0)).toBe(wordsIn);
}
const NAMES = ['a.docx', 'a.odt', 'a.epub', 'a.pdf', 'a.doc', 'a.rtf', 'a.html', 'a.md', 'a.txt'];

// A damaged PDF is tried in a process of its own (cli/test): the library lets go of more than it answers.
const HERE = NAMES.filter((n) => n !== 'a.pdf');

describe('a damaged manuscript', () => {
  it.each(HERE)(
    '%s with bytes changed is read or refused',
    async (name) => {
      const sound = files.get(name) as Uint8Array;
      await fc.assert(
        fc.asyncProperty(
          fc.array(fc.record({ at: fc.nat(sound.length - 1), byte: fc.nat(255) }), {
            minLength: 1,
            maxLength: 12,
          }),
          async (changes) => {
            const bytes = sound.slice();
            for (const { at, byte } of changes) bytes[at] = byte;
            await answers(bytes, name);
          },
        ),
        { numRuns: 60 },
      );
    },
    120_000,
  );
  it.each(HERE)(
    '%s cut short is read or refused',
    async (name) => {
      const sound = files.get(name) as Uint8Array;
      for (const share of [0.02, 0.1, 0.3, 0.5, 0.8, 0.95, 0.999])
        await answers(sound.slice(0, Math.floor(sound.length * share)), name);
    },
    60_000,
  );
  it.each(NAMES)(
    '%s under every other name is read or refused',
    async (name) => {
      for (const other of NAMES) await answers(files.get(name) as Uint8Array, other);
    },
    60_000,
  );
  it.each([
    ['a.docx', 'word/document.xml'],
    ['a.odt', 'content.xml'],
    ['a.epub', 'EPUB/package.opf'],
  ])(
    '%s whose %s is changed inside is read or refused',
    async (name, part) => {
      const parts = unzipSync(files.get(name) as Uint8Array);
      const inside = Object.keys(parts).includes(part)
        ? part
        : (Object.keys(parts).find((p) => p.endsWith('.opf')) as string);
      const xml = new TextDecoder().decode(parts[inside]);
      await fc.assert(
        fc.asyncProperty(
          fc.nat(xml.length - 2),
          fc.nat(40),
          fc.constantFrom(
            '',
            '<',
            '</p>',
            '&x;',
            '"',
            '\u0000',
            '<!DOCTYPE a [<!ENTITY x SYSTEM "file:///etc/passwd">]>',
          ),
          async (at, length, by) => {
            const changed = xml.slice(0, at) + by + xml.slice(at + length);
            const again: Zippable = { ...parts, [inside]: new TextEncoder().encode(changed) };
            await answers(zipSync(again), name);
          },
        ),
        { numRuns: 60 },
      );
    },
    120_000,
  );
});

it('a .docx any two parts of which cannot be unpacked is answered once, and nothing is let go of', async () => {
  // Found by chance, as a rejection nobody waited for. A deflated part whose first block is of the reserved type 3 (RFC 1951 §3.2.3).
  const parts = unzipSync(files.get('a.docx') as Uint8Array);
  const part = new TextEncoder().encode(prose(20));
  const sound = zipSync({ ...parts, 'word/endnotes.xml': part, 'word/comments.xml': part });
  const view = new DataView(sound.buffer, sound.byteOffset);
  const starts: number[] = [];
  for (let at = 0; view.getUint32(at, true) === 0x04034b50;) {
    starts.push(at + 30 + view.getUint16(at + 26, true) + view.getUint16(at + 28, true));
    at = (starts.at(-1) ?? 0) + view.getUint32(at + 18, true);
  }
  expect(starts.length).toBeGreaterThan(5);
  for (const a of starts)
    for (const b of starts) {
      const bytes = sound.slice();
      bytes[a] = bytes[b] = 0x07;
      await answers(bytes, 'a.docx');
    }
});

it('an old document whose sectors lead in a circle is refused, and not followed for ever', async () => {
  // Found by chance: the table of sectors ([MS-CFB] §2.3) lies in the file's first sector, its chains are made circles.
  const sound = files.get('a.doc') as Uint8Array;
  const at = 512 * (new DataView(sound.buffer, sound.byteOffset).getUint32(0x4c, true) + 1);
  for (let sector = 0; sector < 20; sector++) {
    const bytes = sound.slice();
    new DataView(bytes.buffer).setUint32(at + sector * 4, sector, true);
    const r = await readManuscript(bytes, 'a.doc');
    expect(r.ok ? '' : r.refusal.code).toBe('intake/damaged');
  }
});

it.each([
  ['FAT', 0x2c],
  ['mini FAT', 0x40],
  ['DIFAT', 0x48],
])(
  'an old document that claims a %s larger than itself is refused, and no room is made for it',
  async (_, at) => {
    // Found by chance, as the end of a test's process ([MS-CFB] §2.2: counts of the header). The old way needed gigabytes.
    for (const sectors of [40, 4_194_305, 0xffffffff]) {
      const bytes = (files.get('a.doc') as Uint8Array).slice();
      new DataView(bytes.buffer).setUint32(at, sectors, true);
      const r = await readManuscript(bytes, 'a.doc');
      expect(r.ok ? '' : r.refusal.code).toBe('intake/damaged');
    }
  },
);

describe('text of any sort', () => {
  it.each(['a.txt', 'a.md', 'a.html', 'a.rtf'])(
    'as %s is read or refused',
    async (name) => {
      const head = name === 'a.rtf' ? '{\\rtf1 ' : '';
      const piece = fc.oneof(
        fc.string({ maxLength: 20 }),
        fc.constantFrom(
          '<p>',
          '</',
          '<h1>',
          '<table><tr><td>',
          '{',
          '}',
          '\\par ',
          "\\'e",
          '\\u-3 ',
          '{\\footnote ',
          '{\\pict ',
          '# ',
          '```\n',
          '[^1]',
          '[^1]: ',
          '\f',
          '\n\n',
          '***',
          '<a href="#x">',
          '<li id=x>',
          '&#0;',
          '<!--',
          '\\row ',
          '\\cell ',
        ),
      );
      await fc.assert(
        fc.asyncProperty(fc.array(piece, { maxLength: 40 }), async (parts) => {
          await answers(new TextEncoder().encode(head + parts.join('')), name);
        }),
        { numRuns: 250 },
      );
    },
    120_000,
  );
});
