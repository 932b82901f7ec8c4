import { inches, pt } from '../../base';
import type { Design } from '../design';
import { left, line, plainLevel, sans, text, UNSET_MARGINS } from './words';

/** Rushlight: for argument and reporting; headings without serifs, lining figures, notes gathered at the section's end. */
export const rushlight: Design = {
  page: UNSET_MARGINS,
  text: text('Literata', 9.7, 14.5, { display: 'Source Sans 3', figures: 'lining' }),
  opening: {
    start: 'recto',
    sink: 2,
    number: line(12, { ...sans, cut: 'bold', ...left, spacing: 20 }),
    numberForm: 'arabic',
    numberWord: true,
    title: line(26, { ...sans, cut: 'bold', ...left }),
    subtitle: line(13, { ...sans, ...left }),
    ornament: '',
    ornamentAt: 'below',
    rules: 'below',
    gap: 4,
    words: 'plain',
    dropLines: 2,
    openingWords: 0,
  },
  titlePage: {
    sink: 3,
    title: line(36, { ...sans, cut: 'bold', ...left }),
    subtitle: line(16, { ...sans, ...left }),
    author: line(14, { ...sans, ...left }),
    imprint: line(10, { ...sans, ...left }),
    ornament: '',
    rule: true,
  },
  partPage: {
    sink: 2,
    number: line(14, { ...sans, cut: 'bold', ...left }),
    title: line(34, { ...sans, cut: 'bold', ...left }),
    subtitle: line(14, { ...sans, ...left }),
    ornament: '',
  },
  breaks: { sign: '* * *', picture: '', resume: 'flush' },
  quotation: { inset: 'both', cut: 'roman', size: pt(9) },
  verse: { inset: inches(0.3), cut: 'roman' },
  subheads: {
    first: line(12.5, { ...sans, cut: 'bold', ...left }),
    second: line(10.5, { ...sans, cut: 'bold', ...left }),
    third: line(10, { ...sans, cut: 'italic', ...left }),
  },
  pictures: { caption: line(8.5, { ...sans, ...left }), frame: false },
  heads: {
    verso: 'title',
    recto: 'section',
    line: line(8.5, { ...sans, spacing: 10 }),
    rule: false,
    folio: 'head',
    opening: 'foot',
  },
  contents: {
    set: 'ranged',
    leader: 'none',
    numbers: false,
    first: { ...plainLevel, cut: 'bold' },
    second: { ...plainLevel, indent: pt(18) },
    third: { ...plainLevel, indent: pt(36), cut: 'italic' },
  },
  notes: { at: 'section', ends: 'book', size: pt(8.2), leading: pt(11) },
  index: { letters: true, columns: 2 },
};
