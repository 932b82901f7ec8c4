import { inches, pt } from '../../base';
import type { Design } from '../design';
import { italic, left, line, plainLevel, small, text, UNSET_MARGINS } from './words';

/** Saltern: for old tales; a four-line capital, ornaments above and in the text, ruled heads over the page. */
export const saltern: Design = {
  page: UNSET_MARGINS,
  text: text('Alegreya', 11.2, 14),
  opening: {
    start: 'recto',
    sink: 4,
    number: line(12, { ...small, spacing: 80 }),
    numberForm: 'roman',
    numberWord: true,
    title: line(22, { cut: 'bold' }),
    subtitle: line(13, italic),
    ornament: '❧',
    ornamentAt: 'above',
    rules: 'none',
    gap: 3,
    words: 'drop-capital',
    dropLines: 4,
    openingWords: 3,
  },
  titlePage: {
    sink: 4,
    title: line(34, { cut: 'bold' }),
    subtitle: line(15, italic),
    author: line(15, { ...small, spacing: 60 }),
    imprint: line(11, { ...small, spacing: 60 }),
    ornament: '❧',
    rule: true,
  },
  partPage: {
    sink: 8,
    number: line(15, { ...small, spacing: 80 }),
    title: line(28, { cut: 'bold' }),
    subtitle: line(14, italic),
    ornament: '❧',
  },
  breaks: { sign: '☙', picture: '', resume: 'small-capitals' },
  quotation: { inset: 'both', cut: 'italic', size: pt(11.2) },
  verse: { inset: inches(0.5), cut: 'italic' },
  subheads: {
    first: line(12.5, { cut: 'bold' }),
    second: line(11.2, { ...italic }),
    third: line(11.2, { ...small, ...left, spacing: 40 }),
  },
  pictures: { caption: line(9.4, italic), frame: true },
  heads: {
    verso: 'title',
    recto: 'section',
    line: line(9.6, { ...small, spacing: 60 }),
    rule: true,
    folio: 'foot-centre',
    opening: 'foot',
  },
  contents: {
    set: 'ranged',
    leader: 'dots',
    numbers: false,
    first: { ...plainLevel, letters: 'small-capitals' },
    second: { ...plainLevel, indent: pt(14) },
    third: { ...plainLevel, indent: pt(28), cut: 'italic' },
  },
  notes: { at: 'foot', ends: 'book', size: pt(9), leading: pt(11) },
  index: { letters: false, columns: 2 },
};
