/** Pages that are made from the record until the author writes on them: they keep up with it by themselves. */
import type { Mark, Node } from 'prosemirror-model';
import {
  emptyContent,
  isPictured,
  schema,
  textReplaced,
  withFreshIds,
  type Book,
  type Change,
  type Edition,
  type Section,
} from '../book';
import { bareIsbn, otherBooks, type BookRecord } from '../record';
import { copyrightLines, titlePageLines } from './recordpages';
import { hasText } from './text';

/** Kinds whose page the record can fill, and what it needs for that. */
const MADE_FROM: Partial<Record<Section['kind'], (r: BookRecord) => boolean>> = {
  'half-title': () => true,
  'title-page': () => true,
  'copyright-page': () => true,
  'about-author': (r) => r.contributors.some((c) => c.life.trim() !== ''),
  'also-by': (r) => otherBooks(r).length > 0,
};
/** Whether the record can ever fill a page of that kind. */
export const canBeFromRecord = (kind: Section['kind']): boolean => kind in MADE_FROM;

/** Whether the section's page is made from the record because the author wrote nothing on it. */
export const isFromRecord = (s: Section, record: BookRecord): boolean =>
  !isPictured(s.content) && !hasText(s.content) && (MADE_FROM[s.kind]?.(record) ?? false);

/** Hundredths of the measure. */
const PORTRAIT = 40;

/** What the record says on a page of the back matter: short lives with portraits, or titles of other books, which lead to them in shops. */
function linesOf(
  section: Section,
  record: BookRecord,
): ({ text: string; marks: Mark[] } | { portrait: string; alt: string })[] {
  if (section.kind === 'also-by')
    return otherBooks(record).map(({ name, isbn }) => ({
      text: name,
      marks: [
        schema.mark('emphasis'),
        ...(isbn ? [schema.mark('link', { kind: 'shop', target: bareIsbn(isbn) })] : []),
      ],
    }));
  return record.contributors.flatMap((c) => [
    ...(c.portrait && c.life.trim() ? [{ portrait: c.portrait, alt: `Portrait of ${c.name}` }] : []),
    ...c.life
      .split(/\n+/)
      .filter((t) => t.trim())
      .map((text) => ({ text: text.trim(), marks: [] })),
  ]);
}

/** The text of a page about the author or of other books, made from the record; block ids come from the section's. */
export function recordContent(section: Section, record: BookRecord): Node {
  const paragraphs = linesOf(section, record).map((line, i) => {
    const id = `${section.id}-r${i}`;
    return 'portrait' in line
      ? schema.node('figure', { id, picture: line.portrait, alt: line.alt, width: PORTRAIT })
      : schema.node('paragraph', { id }, [schema.text(line.text, line.marks)]);
  });
  const content =
    section.kind === 'also-by'
      ? [schema.node('passage', { id: `${section.id}-r`, align: 'centre' }, paragraphs)]
      : paragraphs;
  return schema.node('doc', null, content);
}

/** The record's words on a page as text, for every kind the record can fill. */
export function recordWords(section: Section, book: Book, edition: Edition, newId: () => string): Node {
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
    : recordContent(section, record);
  return withFreshIds(content, newId);
}

/** Puts the record's words on a page, to be worked on by hand. */
export const writtenOut = (section: Section, book: Book, edition: Edition, newId: () => string): Change => ({
  type: 'group',
  label: 'Write the page by hand',
  changes: [textReplaced(section, recordWords(section, book, edition, newId))],
});

/** Empties a page that was written by hand, so that it is made from the record again. */
export const fromRecordAgain = (section: Section, newId: () => string): Change => ({
  type: 'group',
  label: 'Make the page from the record again',
  changes: [textReplaced(section, emptyContent(newId()))],
});
