/** The faces of a design, cut down to a book's signs, as an ebook brings them with it. */
import { readFileSync } from 'node:fs';
import type { Book, ReflowEdition } from '@pagina/core/book';
import { designOf } from '@pagina/core/design';
import type { EmbeddedFace } from '@pagina/core/epub';
import { startSubsetter, type Subsetter } from '@pagina/core/type';
import { facePath, licencePath, wasmPath } from './places';

const CUTS = [
  ['', 400, false],
  [' Italic', 400, true],
  [' Bold', 700, false],
  [' Bold Italic', 700, true],
] as const;

let subsetter: Promise<Subsetter> | null = null;

/** Every cut of the design's families: a reader can ask for any of them, in a heading of its own making too. */
export async function facesFor(book: Book, edition: ReflowEdition): Promise<EmbeddedFace[]> {
  const { text } = designOf(edition);
  subsetter ??= startSubsetter(readFileSync(wasmPath('harfbuzz-subset')));
  const cutter = await subsetter;
  const signs = signsOf(book, edition);
  return [...new Set([text.family, text.display])].flatMap((family) =>
    CUTS.map(([cut, weight, italic]) => ({
      family,
      weight,
      italic,
      name: (family + cut).toLowerCase().replace(/\W+/g, '-'),
      bytes: cutter.subsetFor(readFileSync(facePath(family + cut)), signs),
      licence: readFileSync(licencePath(family), 'utf8'),
    })),
  );
}

/** Faces by their names, each cut down to the characters that are set in it; every one is a family of its own. */
export async function facesByName(used: ReadonlyMap<string, string>): Promise<EmbeddedFace[]> {
  subsetter ??= startSubsetter(readFileSync(wasmPath('harfbuzz-subset')));
  const cutter = await subsetter;
  return [...used]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([face, signs]) => ({
      family: face,
      weight: 400,
      italic: false,
      name: face.toLowerCase().replace(/\W+/g, '-'),
      bytes: cutter.subsetFor(readFileSync(facePath(face)), signs),
      licence: readFileSync(licencePath(face.replace(/( Bold)?( Italic)?$/, '')), 'utf8'),
    }));
}

/** Basic Latin, Latin-1, Latin Extended-A and General Punctuation: most words that the house itself adds are written in them. */
const HOUSE = [
  [0x20, 0x7e],
  [0xa0, 0x17f],
  [0x2010, 0x2030],
] as const;
/** A book that is written in another alphabet has its chapters named in it too. */
const ALPHABETS = [
  [/\p{Script=Greek}/u, 0x386, 0x3ce],
  [/\p{Script=Cyrillic}/u, 0x400, 0x45f],
] as const;

/** Every sign that a book can show, each once, in both cases: a style sheet may ask for capitals. */
function signsOf(book: Book, edition: ReflowEdition): string {
  const signs = new Set<string>();
  const add = (text: string): void => {
    for (const sign of text) signs.add(sign);
  };
  for (const [from, to] of HOUSE) for (let c = from; c <= to; c++) add(String.fromCodePoint(c));
  for (const s of book.sections) {
    add(s.title + s.subtitle);
    add(s.content.textContent);
    s.content.descendants((n) =>
      add(
        Object.values(n.attrs)
          .filter((v) => typeof v === 'string')
          .join(''),
      ),
    );
  }
  // The record, the index, ornaments of the design: whatever else the book says of itself.
  add(JSON.stringify([book.record, book.indexSee, designOf(edition)]));
  const text = [...signs].join('');
  for (const [script, from, to] of ALPHABETS)
    if (script.test(text)) for (let c = from; c <= to; c++) add(String.fromCodePoint(c));
  add(text.toUpperCase() + text.toLowerCase());
  return [...signs].sort().join('');
}
