/** Pages that are made from the record until the author writes on them: they keep up with it by themselves. */
import type { Node } from 'prosemirror-model';
import {
  emptyContent,
  schema,
  textReplaced,
  withFreshIds,
  type Book,
  type Change,
  type Edition,
  type Section,
} from '../book';
import { authorsLine, bareIsbn, CLAUSES, imprintWords, type BookRecord, type Clause } from '../record';

export const hasText = (content: Node): boolean => {
  let found = false;
  content.descendants((n) => {
    if ((n.isText && (n.text as string).trim() !== '') || n.type.name === 'figure') found = true;
    return !found;
  });
  return found;
};

/** Kinds whose page the record can fill, and what it needs for that. */
const MADE_FROM: Partial<Record<Section['kind'], (r: BookRecord) => boolean>> = {
  'half-title': () => true,
  'title-page': () => true,
  'copyright-page': () => true,
  'about-author': (r) => r.contributors.some((c) => c.life.trim() !== ''),
  'also-by': (r) => r.alsoBy.some((t) => t.trim() !== ''),
};
/** Whether the record can ever fill a page of that kind. */
export const canStand = (kind: Section['kind']): boolean => kind in MADE_FROM;

/** Whether the section's page is made from the record because the author wrote nothing on it. */
export const isStanding = (s: Section, record: BookRecord): boolean =>
  !hasText(s.content) && (MADE_FROM[s.kind]?.(record) ?? false);

export interface TitlePageLine {
  role: 'title' | 'subtitle' | 'author' | 'other' | 'imprint';
  text: string;
}

const ROLE_WORDS: Record<string, string> = {
  editor: 'Edited by',
  translator: 'Translated by',
  illustrator: 'Illustrated by',
  foreword: 'With a foreword by',
};

export function titlePageLines(record: BookRecord): TitlePageLine[] {
  const lines: TitlePageLine[] = [];
  const add = (role: TitlePageLine['role'], text: string): void => {
    if (text.trim()) lines.push({ role, text: text.trim() });
  };
  add('title', record.title);
  add('subtitle', record.subtitle);
  add('author', authorsLine(record));
  for (const c of record.contributors)
    if (c.role !== 'author') add('other', `${ROLE_WORDS[c.role]} ${c.name}`);
  add('imprint', [record.imprint, record.place].filter(Boolean).join(' · '));
  return lines;
}

/** Paragraphs of the copyright page in the book's language. The ISBN is this edition's own. */
export function copyrightLines(record: BookRecord, edition: Edition): string[] {
  const words = imprintWords(record.language);
  const author = authorsLine(record);
  const holder = record.copyrightHolder || author;
  const clause = (c: Clause): string[] => (record.clauses.includes(c) ? [words.clauses[c](author)] : []);
  const lines: string[] = [];
  if (record.imprint)
    lines.push(record.year ? words.first(record.year, record.imprint) : words.published(record.imprint));
  if (record.place) lines.push(record.place);
  lines.push(...clause('first-edition'));
  lines.push(`Copyright ©${record.year ? ` ${record.year}` : ''}${holder ? ` ${holder}` : ''}`);
  for (const c of CLAUSES) if (c !== 'first-edition') lines.push(...clause(c));
  if (record.ownClause.trim()) lines.push(record.ownClause.trim());
  if (bareIsbn(edition.isbn)) lines.push(`ISBN ${edition.isbn} (${edition.name.toLowerCase()})`);
  return lines;
}

/** What the record says on a page of the back matter: short lives, or titles of other books. */
function linesOf(section: Section, record: BookRecord): { text: string; italic: boolean }[] {
  if (section.kind === 'also-by')
    return record.alsoBy.filter((t) => t.trim()).map((text) => ({ text: text.trim(), italic: true }));
  return record.contributors
    .flatMap((c) => c.life.split(/\n+/))
    .filter((t) => t.trim())
    .map((text) => ({ text: text.trim(), italic: false }));
}

/** The text of a page about the author or of other books, made from the record; block ids come from the section's. */
export function standingContent(section: Section, record: BookRecord): Node {
  const paragraphs = linesOf(section, record).map(({ text, italic }, i) =>
    schema.node('paragraph', { id: `${section.id}-r${i}` }, [
      schema.text(text, italic ? [schema.mark('emphasis')] : []),
    ]),
  );
  const content =
    section.kind === 'also-by'
      ? [schema.node('passage', { id: `${section.id}-r`, align: 'centre' }, paragraphs)]
      : paragraphs;
  return schema.node('doc', null, content);
}

/** The record's words on a page as text to be worked on by hand, for every kind the record can fill. */
export function writtenOut(section: Section, book: Book, edition: Edition, newId: () => string): Change {
  const { record } = book;
  const lines =
    section.kind === 'half-title'
      ? [record.title]
      : section.kind === 'title-page'
        ? titlePageLines(record).map((l) => l.text)
        : section.kind === 'copyright-page'
          ? copyrightLines(record, edition)
          : null;
  const paragraphs = lines
    ?.filter(Boolean)
    .map((t) => schema.node('paragraph', { id: newId() }, [schema.text(t)]));
  const content = paragraphs
    ? schema.node(
        'doc',
        null,
        [
          section.kind === 'copyright-page' || paragraphs.length === 0
            ? (paragraphs as Node[])
            : [schema.node('passage', { id: newId(), align: 'centre' }, paragraphs)],
        ].flat(),
      )
    : standingContent(section, record);
  return {
    type: 'group',
    label: 'Write the page by hand',
    changes: [textReplaced(section, withFreshIds(content, newId))],
  };
}

/** Empties a page that was written by hand, so that it is made from the record again. */
export const fromRecordAgain = (section: Section, newId: () => string): Change => ({
  type: 'group',
  label: 'Make the page from the record again',
  changes: [textReplaced(section, emptyContent(newId()))],
});
