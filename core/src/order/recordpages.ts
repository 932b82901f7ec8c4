/** What the record says on the title page and the copyright page. */
import { inSentence } from '../base';
import type { Edition } from '../book';
import { authorsLine, bareIsbn, CLAUSES, imprintWords, type BookRecord, type Clause } from '../record';

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
  const statement = record.editionStatement.trim();
  lines.push(...(statement ? [statement] : clause('first-edition')));
  lines.push(`Copyright ©${record.year ? ` ${record.year}` : ''}${holder ? ` ${holder}` : ''}`);
  for (const c of CLAUSES) if (c !== 'first-edition') lines.push(...clause(c));
  if (record.ownClause.trim()) lines.push(record.ownClause.trim());
  if (bareIsbn(edition.isbn)) lines.push(`ISBN ${edition.isbn} (${inSentence(edition.name)})`);
  return lines;
}
