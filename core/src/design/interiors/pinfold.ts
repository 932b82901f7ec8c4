import { inches, pt } from '../../base';
import type { Design } from '../design';
import { capitals, italic, left, line, plainLevel, text, UNSET_MARGINS } from './words';

/** Pinfold: dark and square; the number in capitals between two rules, everything ranged left under it. */
export const pinfold: Design = {
  page: UNSET_MARGINS,
  text: text('Vollkorn', 10.2, 14),
  opening: {
    start: 'any',
    sink: 4,
    number: line(10, { ...capitals, ...left, spacing: 180 }),
    numberForm: 'words',
    numberWord: true,
    title: line(24, { cut: 'bold', ...left }),
    subtitle: line(12, { ...italic, ...left }),
    ornament: '',
    ornamentAt: 'below',
    rules: 'both',
    gap: 3,
    words: 'plain',
    dropLines: 2,
    openingWords: 0,
  },
  titlePage: {
    sink: 5,
    title: line(36, { cut: 'bold', ...left }),
    subtitle: line(14, { ...italic, ...left }),
    author: line(13, { ...capitals, ...left, spacing: 120 }),
    imprint: line(9, { ...capitals, ...left, spacing: 120 }),
    ornament: '',
    rule: true,
  },
  partPage: {
    sink: 5,
    number: line(11, { ...capitals, ...left, spacing: 180 }),
    title: line(32, { cut: 'bold', ...left }),
    subtitle: line(13, { ...italic, ...left }),
    ornament: '',
  },
  breaks: { sign: '◆', picture: '', resume: 'flush' },
  quotation: { inset: 'both', cut: 'roman', size: pt(9.4) },
  verse: { inset: inches(0.4), cut: 'roman' },
  subheads: {
    first: line(13, { cut: 'bold', ...left }),
    second: line(10.2, { cut: 'bold', ...left }),
    third: line(10.2, { cut: 'bold-italic', ...left }),
  },
  pictures: { caption: line(8.6, { ...left }), frame: true },
  heads: {
    verso: 'title',
    recto: 'section',
    line: line(8.4, { ...capitals, spacing: 120 }),
    rule: true,
    folio: 'head',
    opening: 'none',
  },
  contents: {
    set: 'ranged',
    leader: 'rule',
    numbers: false,
    first: { ...plainLevel, cut: 'bold' },
    second: { ...plainLevel, indent: pt(14) },
    third: { ...plainLevel, indent: pt(28), cut: 'italic' },
  },
  notes: { at: 'foot', ends: 'book', size: pt(8.4), leading: pt(10.5) },
  index: { letters: false, columns: 2 },
};
