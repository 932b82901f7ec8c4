/** Pages that stand in every book and are written from the record: half title, title page, copyright page. */
import type { Node } from 'prosemirror-model';
import type { Edition, Section } from '../book';
import { authorsLine, bareIsbn, type BookRecord } from '../record';

export const hasText = (content: Node): boolean => {
  let found = false;
  content.descendants((n) => {
    if ((n.isText && (n.text as string).trim() !== '') || n.type.name === 'figure') found = true;
    return !found;
  });
  return found;
};

/** Whether the section's page is made from the record because the author wrote nothing on it. */
export const isStanding = (s: Section): boolean =>
  (s.kind === 'half-title' || s.kind === 'title-page' || s.kind === 'copyright-page') && !hasText(s.content);

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

/** Lines of the copyright page, '' between paragraphs. The ISBN is this edition's own. */
export function copyrightLines(record: BookRecord, edition: Edition, isbns: readonly Edition[]): string[] {
  const holder = record.copyrightHolder || authorsLine(record);
  const lines: string[] = [];
  if (record.imprint)
    lines.push(
      record.year
        ? `First published in ${record.year} by ${record.imprint}`
        : `Published by ${record.imprint}`,
    );
  if (record.place) lines.push(record.place);
  lines.push(`Copyright ©${record.year ? ` ${record.year}` : ''}${holder ? ` ${holder}` : ''}`);
  lines.push(
    'All rights reserved. No part of this book may be reproduced or passed on in any form without the written permission of the copyright holder, except for short quotations in reviews.',
  );
  const own = isbns.filter((e) => bareIsbn(e.isbn) !== '');
  for (const e of own.some((x) => x.id === edition.id) ? [edition] : [])
    lines.push(`ISBN ${e.isbn} (${e.name.toLowerCase()})`);
  return lines;
}
