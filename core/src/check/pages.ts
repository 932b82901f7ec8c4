/** What the pages show that no reader should see: words beyond the measure, and words cut for want of room. */
import type { Finding } from '../base';
import type { Book } from '../book';

interface Mark {
  kind: string;
  place: { section: string; block?: string };
}

/** One finding for each block; what a word in a table lacks is a wider column. */
export function pageFindings(marks: readonly Mark[], book: Pick<Book, 'sections'>): Finding[] {
  const found = new Map<string, Finding>();
  for (const { kind, place } of marks) {
    if (kind !== 'cut' && kind !== 'overfull') continue;
    const key = `${kind} ${place.section} ${place.block ?? ''}`;
    if (found.has(key)) continue;
    const table = place.block !== undefined && inTable(book, place.section, place.block);
    found.set(key, {
      rule: kind === 'cut' ? 'type/cut-word' : 'type/overfull-line',
      severity: 'caution',
      message:
        kind === 'overfull'
          ? 'A line runs beyond the measure.'
          : table
            ? 'A word is wider than its column, and is cut without a hyphen.'
            : 'A word is wider than the line, and is cut without a hyphen.',
      why: 'Readers take the pieces for words of their own.',
      remedy: table
        ? 'Make the column wider, or the words shorter.'
        : 'Shorten it, or choose a place where it may be divided.',
      place,
    });
  }
  return [...found.values()];
}

function inTable(book: Pick<Book, 'sections'>, section: string, block: string): boolean {
  let found = false;
  book.sections
    .find((s) => s.id === section)
    ?.content.descendants((n) => {
      if (n.type.name === 'table') n.descendants((x) => void (found ||= x.attrs.id === block));
      return !found && !n.isTextblock && n.type.name !== 'table';
    });
  return found;
}
