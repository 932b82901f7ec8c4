import { inches, pt } from '../../base';
import type { Design } from '../design';
import { capitals, left, line, plainLevel, sans, text, UNSET_MARGINS } from './words';

/** Ferrier: for handbooks; space between paragraphs, ragged right, strong subheads. */
export const ferrier: Design = {
  page: UNSET_MARGINS,
  text: text('Source Serif 4', 10, 13.5, {
    wordSpace: 215,
    display: 'Source Sans 3',
    paragraphs: 'space',
    indent: 0,
    set: 'ragged',
    hyphens: false,
    figures: 'lining',
  }),
  opening: {
    start: 'any',
    sink: 1,
    number: line(48, { ...sans, cut: 'bold', align: 'right' }),
    numberForm: 'arabic',
    numberWord: false,
    title: line(24, { ...sans, cut: 'bold', align: 'right' }),
    subtitle: line(12, { ...sans, align: 'right' }),
    ornament: '',
    ornamentAt: 'below',
    rules: 'below',
    gap: 3,
    words: 'plain',
    dropLines: 2,
    openingWords: 0,
  },
  titlePage: {
    sink: 6,
    title: line(38, { ...sans, cut: 'bold', align: 'right' }),
    subtitle: line(16, { ...sans, align: 'right' }),
    author: line(14, { ...sans, align: 'right' }),
    imprint: line(10, { ...sans, align: 'right' }),
    ornament: '',
    rule: false,
  },
  partPage: {
    sink: 8,
    number: line(14, { ...sans, ...capitals, align: 'right', spacing: 100 }),
    title: line(34, { ...sans, cut: 'bold', align: 'right' }),
    subtitle: line(14, { ...sans, align: 'right' }),
    ornament: '',
  },
  breaks: { sign: '•', picture: '', resume: 'flush' },
  quotation: { inset: 'left', cut: 'italic', size: pt(10) },
  verse: { inset: inches(0.3), cut: 'roman' },
  subheads: {
    first: line(14, { ...sans, cut: 'bold', ...left }),
    second: line(11.5, { ...sans, cut: 'bold', ...left }),
    third: line(10, { ...sans, ...capitals, ...left, spacing: 60 }),
  },
  pictures: { caption: line(8.6, { ...sans, ...left }), frame: false },
  heads: {
    verso: 'title',
    recto: 'section',
    line: line(8.4, { ...sans, spacing: 10 }),
    rule: false,
    folio: 'foot-fore-edge',
    opening: 'foot',
  },
  contents: {
    set: 'ranged',
    leader: 'none',
    first: { ...plainLevel, cut: 'bold' },
    second: { ...plainLevel, indent: pt(14) },
    third: { ...plainLevel, indent: pt(28) },
  },
  notes: { at: 'section', size: pt(8.5), leading: pt(11) },
};
