/** What the book’s references say in the edition that is shown. */
import { printOf, sectionsOf, type Book } from '@pagina/core/book';
import { designOf, numberingWith } from '@pagina/core/design';
import {
  captionLabel,
  captionNumbers,
  notePlaces,
  References,
  type Folios,
  type Reference,
} from '@pagina/core/order';
import type { Composed } from '@/workers/messages';

export interface Pointing {
  says(r: Reference): string;
  /** What stands before a caption; '' for nothing. */
  labelOf(block: string): string;
}

/** Without a composition, pages are not known and chapters are named in their place. */
export function pointingIn(book: Book, edition: string, composed: Composed | null): Pointing {
  const print = printOf(book, edition);
  const sections = print ? sectionsOf(book, print.id) : book.sections;
  const numbering = print ? numberingWith(book.numbering, designOf(print)) : book.numbering;
  const naming = { ...book, numbering };
  const noted = print ? notePlaces(sections, designOf(print).notes) : null;
  const references = new References(sections, naming, noted?.signs);
  const numbers = captionNumbers(sections, naming);
  const folios = print && composed ? foliosOf(composed, references) : null;
  return {
    says: (r) => references.says(r, folios),
    labelOf(block) {
      const number = numbers.get(block);
      return number ? captionLabel(number, book.record.language) : '';
    },
  };
}

function foliosOf({ pages, places, ends }: Composed, references: References): Folios {
  const shown = (target: string): readonly string[] =>
    references.linesOf(target).filter((id) => places[id] !== undefined);
  const ofSection = (target: string) => {
    const [id] = target.split('#');
    return pages.filter((p) => p.section === id && !p.blank);
  };
  return {
    first: (target) => places[shown(target)[0] ?? '']?.[1] ?? ofSection(target)[0]?.label,
    last(target) {
      const id = shown(target).at(-1);
      return id === undefined ? ofSection(target).at(-1)?.label : (ends[id] ?? places[id]?.[1]);
    },
  };
}

let last: { book: Book; composed: Composed; pointing: Pointing } | null = null;

/** The same for all sections of one composition. */
export function pointingOf(book: Book, composed: Composed): Pointing {
  if (last?.book !== book || last.composed !== composed)
    last = { book, composed, pointing: pointingIn(book, composed.edition, composed) };
  return last.pointing;
}
