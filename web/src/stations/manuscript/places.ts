/** Places of the book that a link or a reference can lead to. */
import type { Book } from '@pagina/core/book';
import { noteMarks, onOneLine } from '@pagina/core/book';
import { captionNumbers, forCaptions, headingsOf } from '@pagina/core/order';
import type { Choice } from '@/ui/Select';

const LONGEST = 60;
const short = (t: string): string => (t.length > LONGEST ? `${t.slice(0, LONGEST)} …` : t);

/** Sections, and their subheads. */
export function placesOf(book: Book): Choice[] {
  const headings = headingsOf(book.sections, book);
  return book.sections.flatMap((s) => {
    const subheads: Choice[] = [];
    s.content.forEach((x) => {
      if (x.type.name === 'subhead')
        subheads.push({ value: `${s.id}#${x.attrs.id as string}`, name: `\u2003${short(onOneLine(x))}` });
    });
    return [{ value: s.id, name: headings.get(s.id)?.label ?? '' }, ...subheads];
  });
}

/** Those, and figures, tables and notes. */
export function allPlacesOf(book: Book): Choice[] {
  const numbers = captionNumbers(book.sections, book);
  const figures: Choice[] = [];
  const tables: Choice[] = [];
  const notes: Choice[] = [];
  for (const s of book.sections) {
    const add = (to: Choice[], group: string, id: string, words: string): void =>
      void to.push({ value: `${s.id}#${id}`, name: short(words.replace(/\s+/g, ' ').trim()), group });
    forCaptions(s.content, (caption, table) => {
      const id = caption.attrs.id as string;
      const words = [numbers.get(id)?.number, onOneLine(caption)].filter(Boolean).join(' ');
      add(table ? tables : figures, table ? 'Tables' : 'Figures', id, words);
    });
    const called = noteMarks(s.content, false);
    s.content.forEach((x) => {
      const number = x.type.name === 'noteBody' ? called.get(x.attrs.id as string) : undefined;
      if (number) add(notes, 'Notes', x.attrs.id as string, `${number} ${onOneLine(x)}`);
    });
  }
  const sections = placesOf(book).map((p) => ({ ...p, group: 'Sections' }));
  return [...sections, ...figures, ...tables, ...notes];
}
