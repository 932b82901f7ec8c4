/** The stations of a title's route, and which findings wait at each. */
import type { Finding } from '@pagina/core/base';
import { isPictured, type Book } from '@pagina/core/book';

export const STATIONS: {
  key: string;
  name: string;
  /** Other views of the same station. */
  views?: readonly string[];
  waits: (f: Finding) => boolean;
}[] = [
  {
    key: 'order',
    name: 'Running order',
    waits: (f) =>
      /^book\/(no-title-page|no-copyright-page|empty-section|untitled-chapter|doubled-number)/.test(f.rule),
  },
  {
    key: 'manuscript',
    name: 'Manuscript',
    views: ['pages'],
    waits: (f) => /^(book\/(no-alt|placeholder)|type\/)/.test(f.rule),
  },
  { key: 'design', name: 'Design', waits: () => false },
  { key: 'proof', name: 'Proof', waits: () => false },
  { key: 'record', name: 'Record', waits: (f) => f.rule.startsWith('agree/') },
  { key: 'editions', name: 'Editions', waits: () => false },
  { key: 'outlets', name: 'Outlets', waits: () => false },
];

/** Where a section’s words are worked on: in the text of the book, or on its picture pages. */
export const viewOf = (book: Pick<Book, 'sections'>, section: string | undefined): 'manuscript' | 'pages' => {
  const found = book.sections.find((s) => s.id === section);
  return found && isPictured(found.content) ? 'pages' : 'manuscript';
};
