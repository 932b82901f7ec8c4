/** A book as it goes to every outlet: whatever one of them asks for is given. */
import type { Book, Placing } from '@pagina/core/book';
import { placingSchema, sampleEditionSchema } from '@pagina/core/book';
import { prose, section, threeChapters } from '../../core/test/fixtures/books';

export const OUTLETS_REACHED = [
  'lanternquay',
  'marram',
  'packstone',
  'pocketfell',
  'shelfmoor',
  'quayhead',
] as const;
export const EBOOK_ISBN = '978-92-95055-12-4';
export const PRINT_ISBN = '978-0-306-40615-7';

export function placedBook(): Book {
  const b = threeChapters();
  const placing: Placing = placingSchema.parse({ chosen: true, rights: true, preview: 15, copies: 10 });
  return {
    ...b,
    record: {
      ...b.record,
      subtitle: 'A Story of Two Villages',
      description:
        'Mud, carts, and a causeway that was not there the day before. Two villages that have not spoken since the flood find a road between them, and nobody can say who laid it, what it cost, or which of them is to keep it dry in the winter that follows.',
      shortDescription: 'Two villages, one road, and nobody who will say who laid it.',
      keywords: ['causeways', 'villages', 'winter'],
      subjects: ['FBA', 'FS'],
      published: '2026-01-15',
      publisher: 'Shingle Street Books',
      place: 'Aldmouth',
      price: { minor: 499, currency: 'GBP' },
      libraryPrice: { minor: 1_499, currency: 'GBP' },
    },
    sections: [
      ...b.sections,
      section('c9', 'chapter', [prose(6_000, 9), prose(6_000, 10)], { title: 'The Winter' }),
    ],
    editions: [
      ...b.editions.map((e) =>
        e.form === 'print'
          ? { ...e, isbn: PRINT_ISBN, price: { minor: 1_199, currency: 'GBP' } }
          : { ...e, isbn: EBOOK_ISBN },
      ),
      sampleEditionSchema.parse({ form: 'sample', id: 'sample', name: 'Sample', of: 'ebook' }),
    ],
    placing: Object.fromEntries(
      OUTLETS_REACHED.map((o) => [
        o,
        o === 'packstone' ? { ...placing, shops: ['gannetstone', 'tollgate-lane'] } : placing,
      ]),
    ),
  };
}
