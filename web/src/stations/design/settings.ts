/** The settings of a design as they are shown: by part, with what each may be. */
import type { Part } from '@pagina/core/design';

export type Setting =
  | { kind: 'length'; path: string; label: string; unit: 'pt' | 'in'; step?: number; open?: boolean }
  | { kind: 'count'; path: string; label: string; of: string; least: number; most: number }
  | { kind: 'choice'; path: string; label: string; of: readonly (readonly [value: string, label: string])[] }
  | { kind: 'switch'; path: string; label: string }
  | { kind: 'family'; path: string; label: string }
  | { kind: 'sign'; path: string; label: string }
  | { kind: 'picture'; path: string; label: string }
  | { kind: 'line'; path: string; label: string; aligned: boolean };

const line = (path: string, label: string, aligned = true): Setting => ({
  kind: 'line',
  path,
  label,
  aligned,
});
const choice = (path: string, label: string, ...of: (readonly [string, string])[]): Setting => ({
  kind: 'choice',
  path,
  label,
  of,
});
const length = (path: string, label: string, unit: 'pt' | 'in' = 'pt', open = false): Setting => ({
  kind: 'length',
  path,
  label,
  unit,
  open,
});
const count = (path: string, label: string, of: string, least: number, most: number): Setting => ({
  kind: 'count',
  path,
  label,
  of,
  least,
  most,
});

export const CUTS = [
  ['roman', 'Roman'],
  ['italic', 'Italic'],
  ['bold', 'Bold'],
  ['bold-italic', 'Bold italic'],
] as const;
export const LETTERS = [
  ['typed', 'As typed'],
  ['small-capitals', 'Small caps'],
  ['capitals', 'Capitals'],
] as const;
export const ALIGN = [
  ['left', 'Left'],
  ['centre', 'Centred'],
  ['right', 'Right'],
] as const;
export const FACES = [
  ['text', 'Text face'],
  ['display', 'Heading face'],
] as const;
/** Signs that a family of the house has. */
export const SIGNS = ['❦', '❧', '☙', '* * *', '•', '◆', '—', '~', '§'];

const level = (path: string, label: string): Setting[] => [
  length(`${path}.indent`, `${label}: indent`),
  choice(`${path}.cut`, `${label}: cut`, ...CUTS),
  choice(`${path}.letters`, `${label}: letters`, ...LETTERS),
];

export const SETTINGS: Record<Part, readonly Setting[]> = {
  page: [
    length('page.inside', 'Inside', 'in', true),
    length('page.outside', 'Outside', 'in', true),
    length('page.top', 'Head', 'in', true),
    length('page.bottom', 'Foot', 'in', true),
  ],
  text: [
    { kind: 'family', path: 'text.family', label: 'Face' },
    length('text.size', 'Size'),
    length('text.leading', 'Leading'),
    choice('text.paragraphs', 'Paragraph mark', ['indent', 'an indent'], ['space', 'a blank line']),
    length('text.indent', 'Indent', 'in'),
    choice('text.set', 'Alignment', ['justified', 'justified'], ['ragged', 'ragged on the right']),
    { kind: 'switch', path: 'text.hyphens', label: 'Hyphenation' },
    choice('text.figures', 'Figures', ['old-style', 'Old-style'], ['lining', 'Lining']),
    { kind: 'family', path: 'text.display', label: 'Heading face' },
    count('text.glyphScaling', 'Glyph scaling', '‰', 0, 20),
  ],
  opening: [
    line('opening.number', 'Number'),
    choice(
      'opening.numberForm',
      'Numbered in',
      ['usual', 'default'],
      ['words', 'words'],
      ['arabic', 'figures'],
      ['roman', 'roman figures'],
    ),
    { kind: 'switch', path: 'opening.numberWord', label: 'With the word “Chapter”' },
    line('opening.title', 'Title'),
    line('opening.subtitle', 'Subtitle'),
    choice(
      'opening.words',
      'Opening words',
      ['drop-capital', 'a drop capital'],
      ['small-capitals', 'small capitals'],
      ['plain', 'plain text'],
    ),
    count('opening.dropLines', 'Drop capital', 'lines', 2, 4),
    count('opening.openingWords', 'In small capitals', 'words', 0, 12),
    count('opening.sink', 'Sink', 'lines', 0, 24),
    count('opening.gap', 'Space below heading', 'lines', 1, 16),
    { kind: 'sign', path: 'opening.ornament', label: 'Ornament' },
    choice(
      'opening.ornamentAt',
      'Ornament position',
      ['above', 'above'],
      ['between', 'between number and title'],
      ['below', 'below'],
    ),
    choice(
      'opening.rules',
      'Rules',
      ['none', 'none'],
      ['above', 'above'],
      ['below', 'below'],
      ['both', 'around the number'],
    ),
    choice('opening.start', 'Chapters start on', ['recto', 'a right-hand page'], ['any', 'the next page']),
  ],
  titlePage: [
    line('titlePage.title', 'Title'),
    line('titlePage.subtitle', 'Subtitle'),
    line('titlePage.author', 'Author'),
    line('titlePage.imprint', 'Imprint'),
    { kind: 'sign', path: 'titlePage.ornament', label: 'Ornament' },
    { kind: 'switch', path: 'titlePage.rule', label: 'Rule under the title' },
    count('titlePage.sink', 'Sink', 'lines', 0, 24),
  ],
  partPage: [
    line('partPage.number', 'Number'),
    line('partPage.title', 'Title'),
    line('partPage.subtitle', 'Subtitle'),
    { kind: 'sign', path: 'partPage.ornament', label: 'Ornament' },
    count('partPage.sink', 'Sink', 'lines', 0, 30),
  ],
  breaks: [
    { kind: 'sign', path: 'breaks.sign', label: 'Sign' },
    { kind: 'picture', path: 'breaks.picture', label: 'Picture instead' },
    choice(
      'breaks.resume',
      'Text after a break',
      ['flush', 'without an indent'],
      ['indent', 'with an indent'],
      ['small-capitals', 'in small capitals'],
    ),
  ],
  quotation: [
    choice(
      'quotation.inset',
      'Indented',
      ['both', 'on both sides'],
      ['left', 'on the left'],
      ['none', 'not at all'],
    ),
    choice('quotation.cut', 'Cut', CUTS[0], CUTS[1]),
    length('quotation.size', 'Size'),
  ],
  verse: [length('verse.inset', 'Indent', 'in'), choice('verse.cut', 'Cut', CUTS[0], CUTS[1])],
  subheads: [
    line('subheads.first', 'First level'),
    line('subheads.second', 'Second level'),
    line('subheads.third', 'Third level'),
  ],
  pictures: [
    line('pictures.caption', 'Caption'),
    { kind: 'switch', path: 'pictures.frame', label: 'A fine rule around pictures' },
  ],
  heads: [
    line('heads.line', 'Running head', false),
    choice(
      'heads.verso',
      'On versos',
      ['title', 'the title'],
      ['author', 'the author'],
      ['part', 'the part'],
      ['none', 'nothing'],
    ),
    choice(
      'heads.recto',
      'On rectos',
      ['section', 'the chapter'],
      ['title', 'the title'],
      ['none', 'nothing'],
    ),
    choice(
      'heads.folio',
      'Folio',
      ['head', 'in the head, at the fore-edge'],
      ['foot-centre', 'at the foot, centred'],
      ['foot-fore-edge', 'at the foot, at the fore-edge'],
      ['none', 'none'],
    ),
    choice('heads.opening', 'Where a chapter opens', ['foot', 'a folio at the foot'], ['none', 'no folio']),
    { kind: 'switch', path: 'heads.rule', label: 'A rule under the head' },
  ],
  contents: [
    choice('contents.set', 'Entries', ['ranged', 'ranged left, folios right'], ['centred', 'centred']),
    { kind: 'switch', path: 'contents.numbers', label: 'Numbers before the titles' },
    choice('contents.leader', 'Leaders', ['dots', 'dots'], ['rule', 'a rule'], ['none', 'none']),
    ...level('contents.first', 'First level'),
    ...level('contents.second', 'Second level'),
    ...level('contents.third', 'Third level'),
  ],
  notes: [
    choice(
      'notes.at',
      'Footnotes',
      ['foot', 'at the foot of the page'],
      ['section', 'after each chapter'],
      ['book', 'in the section “Notes”'],
    ),
    choice(
      'notes.ends',
      'Endnotes',
      ['together', 'together with the footnotes'],
      ['section', 'after each chapter'],
      ['book', 'in the section “Notes”, or after each chapter where there is none'],
    ),
    length('notes.size', 'Size'),
    length('notes.leading', 'Leading'),
  ],
  index: [
    { kind: 'switch', path: 'index.letters', label: 'Letters as headings' },
    count('index.columns', 'Columns', '', 1, 3),
  ],
};

/** Settings that a place on a page points to: the line's own first, else all of its part. */
export const settingsAt = (target: string): { part: Part; first: Setting[]; more: Setting[] } => {
  const part = target.split('.')[0] as Part;
  const all = SETTINGS[part];
  const first = target.includes('.')
    ? all.filter(
        (s) => s.path === target || s.path.startsWith(`${target}.`) || RELATED[target]?.includes(s.path),
      )
    : [...all];
  return {
    part,
    first: first.length > 0 ? first : [...all],
    more: first.length > 0 ? all.filter((s) => !first.includes(s)) : [],
  };
};

/** Settings that are wanted together with the one pointed at. */
const RELATED: Record<string, string[]> = {
  'opening.number': ['opening.numberForm', 'opening.numberWord'],
  'opening.ornament': ['opening.ornamentAt'],
  'opening.words': ['opening.dropLines', 'opening.openingWords'],
  'breaks.sign': ['breaks.picture', 'breaks.resume'],
  'heads.folio': ['heads.opening', 'heads.line'],
  'heads.line': ['heads.verso', 'heads.recto', 'heads.rule'],
  'contents.leader': ['contents.set'],
  'contents.first': ['contents.set', 'contents.leader'],
  'contents.second': ['contents.set', 'contents.leader'],
};
