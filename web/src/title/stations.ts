/** The stations of a title's route, and which findings wait at each. */
import type { Finding } from '@pagina/core/base';
import { isPictured, type Book } from '@pagina/core/book';

export type StationKey = 'order' | 'manuscript' | 'design' | 'proof' | 'record' | 'editions' | 'outlets';

export const STATIONS: {
  key: StationKey;
  name: string;
  /** Other views of the same station. */
  views?: readonly string[];
}[] = [
  { key: 'order', name: 'Running order' },
  { key: 'manuscript', name: 'Manuscript', views: ['pages'] },
  { key: 'design', name: 'Design' },
  { key: 'proof', name: 'Proof' },
  { key: 'record', name: 'Record' },
  { key: 'editions', name: 'Editions' },
  { key: 'outlets', name: 'Outlets' },
];

/** Where findings of a sort of rules are mended. */
const MENDED: Record<string, StationKey> = {
  order: 'order',
  heading: 'manuscript',
  wording: 'manuscript',
  language: 'manuscript',
  note: 'manuscript',
  reference: 'manuscript',
  figure: 'manuscript',
  type: 'manuscript',
  design: 'design',
  cover: 'design',
  record: 'record',
  agree: 'record',
};
/** What an outlet holds a book for is mended where it comes from. */
const HELD: Record<string, StationKey> = {
  'held/held-for-its-record': 'record',
  'held/held-for-its-cover': 'design',
  'held/held-for-its-text': 'manuscript',
  'held/held-for-its-file': 'editions',
};
/** What the pages show and no word of the text is to blame for. */
const ON_PAGES = /^type\/(?:widow|orphan|stranded-heading|short-last-page|unlevel-spread)$/;

/** The station where a finding is mended; what is wrong in a made file, and not in the book, is mended by making it again. */
export function stationOf({ rule, file, place, outlet }: Finding): StationKey {
  if (Object.hasOwn(HELD, rule)) return HELD[rule] ?? 'outlets';
  if (outlet !== undefined) return 'outlets';
  if (file !== undefined && !place) return 'editions';
  if (ON_PAGES.test(rule)) return 'proof';
  return MENDED[rule.slice(0, rule.indexOf('/'))] ?? 'editions';
}

/** Findings that something has to be done about: advice doesn't wait. */
export const waits = (f: Finding): boolean => f.severity !== 'note';

/** Where a section’s words are worked on: in the text of the book, or on its picture pages. */
export const viewOf = (book: Pick<Book, 'sections'>, section: string | undefined): 'manuscript' | 'pages' => {
  const found = book.sections.find((s) => s.id === section);
  return found && isPictured(found.content) ? 'pages' : 'manuscript';
};

/** The view that a finding leads to. */
export function viewOfFinding(book: Pick<Book, 'sections'>, f: Finding): string {
  const station = stationOf(f);
  return station === 'manuscript' ? viewOf(book, f.place?.section) : station;
}
