import { inches, pt } from '../../base';
import type { Design } from '../design';
import { capitals, italic, line, plainLevel, sans, text, UNSET_MARGINS } from './words';

/** Millrace: quick and modern; spaced capitals above a rule, first words in capitals, heads wide apart. */
export const millrace: Design = {
  page: UNSET_MARGINS,
  text: text('Gentium Book Plus', 10.2, 14, { display: 'Source Sans 3', wordSpace: 205 }),
  opening: {
    start: 'any',
    sink: 7,
    number: line(22, { ...sans, spacing: 60 }),
    numberForm: 'arabic',
    numberWord: false,
    title: line(12, { ...sans, ...capitals, spacing: 220 }),
    subtitle: line(11, { ...italic }),
    ornament: '',
    ornamentAt: 'below',
    rules: 'none',
    gap: 3,
    words: 'small-capitals',
    dropLines: 2,
    openingWords: 3,
  },
  titlePage: {
    sink: 7,
    title: line(26, { ...sans, ...capitals, spacing: 200 }),
    subtitle: line(12, { ...italic }),
    author: line(13, { ...sans, spacing: 40 }),
    imprint: line(9.5, { ...sans, ...capitals, spacing: 160 }),
    ornament: '',
    rule: true,
  },
  partPage: {
    sink: 9,
    number: line(13, { ...sans, ...capitals, spacing: 220 }),
    title: line(24, { ...sans, spacing: 40 }),
    subtitle: line(12, { ...italic }),
    ornament: '',
  },
  breaks: { sign: '—', picture: '', resume: 'flush' },
  quotation: { inset: 'both', cut: 'roman', size: pt(9.6) },
  verse: { inset: inches(0.4), cut: 'italic' },
  subheads: {
    first: line(10.5, { ...sans, ...capitals, spacing: 160 }),
    second: line(10.5, { ...sans, cut: 'bold' }),
    third: line(10.2, { ...italic }),
  },
  pictures: { caption: line(8.5, { ...sans }), frame: false },
  heads: {
    verso: 'author',
    recto: 'title',
    line: line(7.6, { ...sans, ...capitals, spacing: 200 }),
    rule: false,
    folio: 'foot-centre',
    opening: 'foot',
  },
  contents: {
    set: 'centred',
    leader: 'none',
    numbers: false,
    first: { ...plainLevel, letters: 'small-capitals' },
    second: plainLevel,
    third: { ...plainLevel, cut: 'italic' },
  },
  notes: { at: 'foot', ends: 'book', size: pt(8.4), leading: pt(10.5) },
  index: { letters: false, columns: 2 },
};
