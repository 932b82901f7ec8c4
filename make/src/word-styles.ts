/** The styles of the .docx, by the names under which word processors know them, and its lists. */
import { AlignmentType, LevelFormat } from 'docx';
import type { ListNumbers } from '@pagina/core/base';
import { MONOSPACE } from './word-text';

export const BULLETS = 'bullets';
export const NUMBERS: Record<ListNumbers, string> = {
  figures: 'numbers',
  letters: 'letters',
  roman: 'roman',
};

const levels = (format: (typeof LevelFormat)[keyof typeof LevelFormat], text: (level: number) => string) =>
  [0, 1, 2, 3, 4, 5].map((level) => ({
    level,
    format,
    text: text(level),
    alignment: AlignmentType.LEFT,
    style: { paragraph: { indent: { left: 720 * (level + 1), hanging: 360 } } },
  }));

export const LISTS = [
  { reference: BULLETS, levels: levels(LevelFormat.BULLET, () => '•') },
  { reference: NUMBERS.figures, levels: levels(LevelFormat.DECIMAL, (l) => `%${l + 1}.`) },
  { reference: NUMBERS.letters, levels: levels(LevelFormat.LOWER_LETTER, (l) => `%${l + 1}.`) },
  { reference: NUMBERS.roman, levels: levels(LevelFormat.LOWER_ROMAN, (l) => `%${l + 1}.`) },
];

export const PARAGRAPH_STYLES = [
  ...['Quote', 'Attribution', 'Verse', 'Letter'].map((name) => ({
    id: name,
    name,
    basedOn: 'Normal',
    paragraph: { indent: { left: 567, right: name === 'Verse' ? 0 : 567 } },
  })),
  // The styles by which word processors know such lists (names from memory).
  ...[1, 2, 3].map((n) => ({
    id: `TOC${n}`,
    name: `toc ${n}`,
    basedOn: 'Normal',
    paragraph: { indent: { left: 360 * (n - 1) } },
  })),
  { id: 'TableofFigures', name: 'table of figures', basedOn: 'Normal' },
  { id: 'DefinitionTerm', name: 'Definition Term', basedOn: 'Normal' },
  {
    id: 'Definition',
    name: 'Definition',
    basedOn: 'Normal',
    paragraph: { indent: { left: 720 } },
  },
  {
    id: 'Preformatted',
    name: 'Preformatted Text',
    basedOn: 'Normal',
    run: { font: MONOSPACE, size: 20 },
  },
  { id: 'Subtitle', name: 'Subtitle', basedOn: 'Normal', run: { italics: true, size: 28 } },
  { id: 'Caption', name: 'caption', basedOn: 'Normal', run: { italics: true, size: 20 } },
];
