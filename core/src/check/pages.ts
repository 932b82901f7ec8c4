/** What the pages show that no reader should see: words beyond the measure, and words cut for want of room. */
import type { Finding } from '../base';
import type { Book } from '../book';

interface Mark {
  kind: string;
  place: { section: string; block?: string };
}

type Said = Pick<Finding, 'rule' | 'message' | 'why' | 'remedy'>;
const WIDE = {
  why: 'Readers take the pieces for words of their own.',
  remedy: 'Shorten it, or choose a place where it may be divided.',
};
const SAID = {
  cut: {
    rule: 'type/cut-word',
    message: 'A word is wider than the line, and is cut without a hyphen.',
    ...WIDE,
  },
  overfull: { rule: 'type/overfull-line', message: 'A line runs beyond the measure.', ...WIDE },
  overset: {
    rule: 'type/overset-box',
    message: 'The words on a picture page don’t fit their box.',
    why: 'They run on below it, over the picture or off the page.',
    remedy: 'Make the box larger, or the words smaller or fewer.',
  },
  unsafe: {
    rule: 'type/near-edge',
    message: 'Words on a picture page are too near an edge of the paper or the fold.',
    why: 'Printers ask for a quarter of an inch, so that no knife cuts into them.',
    remedy: 'Move the box inside the safe area.',
  },
} satisfies Record<string, Said>;
const IN_TABLE = {
  message: 'A word is wider than its column, and is cut without a hyphen.',
  remedy: 'Make the column wider, or the words shorter.',
};

/** One finding for each block; what a word in a table lacks is a wider column. */
export function pageFindings(marks: readonly Mark[], book: Pick<Book, 'sections'>): Finding[] {
  const found = new Map<string, Finding>();
  for (const { kind, place } of marks) {
    if (!(kind in SAID)) continue;
    const key = `${kind} ${place.section} ${place.block ?? ''}`;
    if (found.has(key)) continue;
    const table = place.block !== undefined && inTable(book, place.section, place.block);
    found.set(key, {
      severity: 'caution',
      place,
      ...(SAID[kind as keyof typeof SAID] as Said),
      ...(table && kind === 'cut' ? IN_TABLE : {}),
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
