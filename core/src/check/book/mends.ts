/** What can be put right in the book by one press. Each answers a change, so that Undo takes it back. */
import type { Finding } from '../../base';
import { numberedHeading } from '../../base';
import type { Book, Change, Section } from '../../book';
import { changeOfEdits, styleFor, tidySection, type TextEdit } from '../../tidy';
import { readingOf } from './reading';

interface BookMend {
  /** What is done, in the imperative, as a button says it. */
  label: (f: Finding) => string;
  edits?: (section: Section, f: Finding, book: Book) => TextEdit[];
  change?: (section: Section, f: Finding) => Change | null;
}

/** The text of the finding's block. */
function textAt(section: Section, f: Finding, book: Book): string {
  const { blocks } = readingOf(section, book.record.language);
  return blocks.find((b) => b.id === f.place?.block)?.text ?? '';
}

const edit = (section: Section, f: Finding, from: number, was: string, by: string): TextEdit => ({
  section: section.id,
  block: f.place?.block ?? '',
  from,
  to: from + was.length,
  was,
  by,
  before: '',
  after: '',
});

/** The usual spelling and the other one, as the rules of spelling note them. */
const spellings = (f: Finding): [usual: string, other: string] => {
  const [usual = '', other = ''] = (f.about ?? '').split(' ');
  return [usual, other];
};
/** A word with the capitals of another. */
const likeCase = (word: string, as: string): string =>
  as === as.toUpperCase() && as.length > 1
    ? word.toUpperCase()
    : /^\p{Lu}/u.test(as)
      ? word.charAt(0).toUpperCase() + word.slice(1)
      : word;

const MENDS: Record<string, BookMend> = {
  'one-word': {
    label: () => 'Delete one',
    edits: (section, f, book) => {
      const at = f.place?.offset ?? 0;
      const all = f.about ?? '';
      if (all === '' || textAt(section, f, book).slice(at, at + all.length) !== all) return [];
      const [first = ''] = all.split(/[ \u00a0]/);
      return [edit(section, f, at + first.length, all.slice(first.length), '')];
    },
  },
  'usual-spelling': {
    label: (f) => `Spell it “${spellings(f)[0]}”`,
    edits: (section, f, book) => {
      const [usual, other] = spellings(f);
      const at = f.place?.offset ?? 0;
      const was = textAt(section, f, book).slice(at, at + other.length);
      return was.toLowerCase() === other.toLowerCase()
        ? [edit(section, f, at, was, likeCase(usual, was))]
        : [];
    },
  },
  tidy: {
    label: () => 'Tidy this section',
    edits: (section, f, book) =>
      tidySection(section, styleFor(book.record.language)).filter((i) => i.rule === f.about),
  },
  'title-alone': {
    label: () => 'Take the number out',
    change: (section) => {
      const label = numberedHeading(section.title);
      return label ? { type: 'set-section', id: section.id, fields: { title: label.rest } } : null;
    },
  },
};

export const bookMendLabel = (f: Finding): string | null => (f.mend && MENDS[f.mend]?.label(f)) ?? null;

/** One change that mends all of these that can be; null where none can any more. */
export function mendBook(book: Book, findings: readonly Finding[], label: string): Change | null {
  const edits: TextEdit[] = [];
  const changes: Change[] = [];
  for (const f of findings) {
    const mend = f.mend ? MENDS[f.mend] : undefined;
    const section = book.sections.find((s) => s.id === f.place?.section);
    if (!mend || !section) continue;
    edits.push(...(mend.edits?.(section, f, book) ?? []));
    const change = mend.change?.(section, f);
    if (change) changes.push(change);
  }
  // Two findings may be about the same words.
  const once = new Map(edits.map((e) => [`${e.block} ${e.from} ${e.to}`, e]));
  const text = once.size > 0 ? changeOfEdits(book, [...once.values()], label) : null;
  if (text) changes.push(text);
  return changes.length > 0 ? { type: 'group', label, changes } : null;
}
