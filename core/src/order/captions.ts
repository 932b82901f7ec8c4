/** Numbers of figures and tables, from their order: through the book, or by chapter ("2.3"). */
import type { Node } from 'prosemirror-model';
import { capitalised, pointerWord } from '../base';
import type { CaptionNumbers, Section } from '../book';
import { headingsOf, type Naming } from './number';

export interface CaptionNumber {
  of: 'figure' | 'table';
  /** "7", "2.3", "B.1". */
  number: string;
}

/**
 * Numbers by the ids of the blocks that bear captions: a figure; a table's caption, and the table below it. A picture or
 * a table without a caption is not counted. In a section without a number the figures are counted by themselves.
 */
export function captionNumbers(sections: readonly Section[], naming: Naming): Map<string, CaptionNumber> {
  const { figures, tables } = naming.numbering;
  const numbers = new Map<string, CaptionNumber>();
  if (figures === 'none' && tables === 'none') return numbers;
  const headings = headingsOf(sections, naming);
  const through = { figure: 0, table: 0 };
  for (const section of sections) {
    const bare = headings.get(section.id)?.bare ?? '';
    const within = { figure: 0, table: 0 };
    const next = (of: 'figure' | 'table', by: CaptionNumbers): CaptionNumber => ({
      of,
      number: by === 'through' ? String(++through[of]) : [bare, ++within[of]].filter(Boolean).join('.'),
    });
    forCaptions(section.content, (caption, table) => {
      const [of, by] = table ? (['table', tables] as const) : (['figure', figures] as const);
      if (by === 'none') return;
      const number = next(of, by);
      numbers.set(caption.attrs.id as string, number);
      if (table) numbers.set(table.attrs.id as string, number);
    });
  }
  return numbers;
}

/** Calls `take` for every caption in the order of the text; `table` is the one it stands above, null for a figure. */
export function forCaptions(doc: Node, take: (caption: Node, table: Node | null) => void): void {
  doc.descendants((n, _pos, parent, index) => {
    if (n.type.name === 'figure' && n.textContent.trim() !== '') take(n, null);
    if (n.type.name === 'tableCaption' && n.textContent.trim() !== '') {
      const table = parent?.maybeChild(index + 1);
      if (table?.type.name === 'table') take(n, table);
    }
    return !n.isTextblock;
  });
}

/** What stands before a caption: "Figure 2.3." */
export const captionLabel = ({ of, number }: CaptionNumber, language: string): string =>
  `${capitalised(pointerWord(of, language))} ${number}.`;
