/** The impression of pages that Pagina sets: everything that is drawn on each, by what it is and where. */
import { Sum } from '../base';
import type { Book } from '../book';
import {
  DisplayIndex,
  displayList,
  drawnPage,
  ENGINE,
  FURNITURE,
  GLYPH,
  INK,
  INK_LENGTH,
  LINE_START,
  PICT,
  PICT_LENGTH,
  readableLines,
  RULE,
  RULE_LENGTH,
  TEXT_HEAD,
  WINDOW,
  WINDOW_LENGTH,
  type Composition,
  type DisplayList,
} from '../compose';
import type { Impression, View } from './impression';

/** A length in points, to the thousandth. */
const rounded = (points: number): number => Math.round(points * 1000) / 1000;

export function impressionOfPages(c: Composition, book: Pick<Book, 'pictures' | 'editions'>): Impression {
  const edition = book.editions.find((e) => e.id === c.edition);
  const inks = edition?.form === 'print' ? edition.inks : 'colour';
  const files = new Map(book.pictures.map((p) => [p.id, p.sha256 ?? p.id]));
  return {
    version: 1,
    engine: ENGINE,
    width: c.interior.trim.width / 1000,
    height: c.interior.trim.height / 1000,
    views: c.pages.map((page) => {
      const index = new DisplayIndex();
      const list = displayList(drawnPage(c, page), c.words, index);
      const lines = readableLines(list);
      return {
        ...marksOf(list, {
          faces: index.faces.map((n) => c.words.faces[n]?.name ?? ''),
          pictures: index.pictures.map((id) => `${inks} ${files.get(id) ?? id}`),
        }),
        label: page.label,
        path: '',
        words: lines.map((l) => l.text),
        places: lines.map((l) => [
          rounded(l.x),
          rounded(l.y),
          rounded(l.width),
          rounded(l.size),
          l.part.startsWith('heads.') ? 1 : 0,
        ]),
      };
    }),
  };
}

/**
 * Sums over everything that is drawn, and over what is drawn without its place. Blocks and offsets are left out of both:
 * they say where words come from, and are not seen.
 */
function marksOf(
  { ops, width, height }: DisplayList,
  names: { faces: readonly string[]; pictures: readonly string[] },
): Pick<View, 'mark' | 'matter'> {
  const [mark, matter] = [new Sum(), new Sum()];
  mark.add(width);
  mark.add(height);
  const some = (from: number, length: number): void => mark.each(ops, from, length);
  for (let at = 0; at < ops.length;) {
    const op = ops[at] as number;
    mark.add(op);
    if (op === RULE || op === WINDOW || op === INK) {
      const length = op === RULE ? RULE_LENGTH : op === WINDOW ? WINDOW_LENGTH : INK_LENGTH;
      some(at + 1, length - 1);
      if (op === INK) matter.add(ops[at + 1] as number);
      at += length;
    } else if (op === PICT) {
      const picture = names.pictures[ops[at + 1] as number] ?? '';
      mark.text(picture);
      matter.text(picture);
      some(at + 2, PICT_LENGTH - 2);
      matter.each(ops, at + 4, PICT_LENGTH - 4);
      at += PICT_LENGTH;
    } else {
      const count = ops[at + 5] as number;
      const face = names.faces[ops[at + 1] as number] ?? '';
      const flags = ops[at + 8] as number;
      mark.text(face);
      some(at + 2, 4);
      mark.add(ops[at + 9] as number);
      if (!(flags & FURNITURE)) {
        if (flags & LINE_START) matter.add(LINE_START);
        matter.text(face);
        matter.add(ops[at + 2] as number);
      }
      // Glyph, advance and shift; of how many characters a glyph stands for nothing is seen.
      mark.each(ops, at + TEXT_HEAD, 4, count, GLYPH);
      if (!(flags & FURNITURE)) matter.each(ops, at + TEXT_HEAD, 1, count, GLYPH);
      at += TEXT_HEAD + count * GLYPH;
    }
  }
  return { mark: mark.digits(), matter: matter.digits() };
}
