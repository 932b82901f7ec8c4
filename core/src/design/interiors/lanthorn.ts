import { inches, pt } from '../../base';
import type { Design } from '../design';
import { capitals, italic, left, line, plainLevel, text, UNSET_MARGINS } from './words';

/** Lanthorn: tall, fine and formal; wide capitals around an ornament, a deep drop capital, italic heads. */
export const lanthorn: Design = {
  page: UNSET_MARGINS,
  text: text('Cormorant Garamond', 12.8, 15, { wordSpace: 200 }),
  opening: {
    start: 'recto',
    sink: 5,
    number: line(13, { ...italic, spacing: 30 }),
    numberForm: 'usual',
    numberWord: true,
    title: line(19, { ...capitals, spacing: 160 }),
    subtitle: line(14, italic),
    ornament: '❦',
    ornamentAt: 'between',
    rules: 'none',
    gap: 4,
    words: 'drop-capital',
    dropLines: 3,
    openingWords: 0,
  },
  titlePage: {
    sink: 6,
    title: line(30, { ...capitals, spacing: 180 }),
    subtitle: line(16, italic),
    author: line(16, { ...capitals, spacing: 140 }),
    imprint: line(12, { ...italic }),
    ornament: '❦',
    rule: false,
  },
  partPage: {
    sink: 9,
    number: line(16, italic),
    title: line(24, { ...capitals, spacing: 180 }),
    subtitle: line(15, italic),
    ornament: '❦',
  },
  breaks: { sign: '❧', picture: '', resume: 'flush' },
  quotation: { inset: 'both', cut: 'italic', size: pt(12.8) },
  verse: { inset: inches(0.6), cut: 'italic' },
  subheads: {
    first: line(13, { ...capitals, spacing: 140 }),
    second: line(13.5, { ...italic }),
    third: line(12.8, { ...italic, ...left }),
  },
  pictures: { caption: line(11, italic), frame: false },
  heads: {
    verso: 'author',
    recto: 'title',
    line: line(11.5, { ...italic, spacing: 20 }),
    rule: false,
    folio: 'foot-centre',
    opening: 'none',
  },
  contents: {
    set: 'centred',
    leader: 'none',
    numbers: false,
    first: plainLevel,
    second: { ...plainLevel, cut: 'italic' },
    third: { ...plainLevel, cut: 'italic' },
  },
  notes: { at: 'foot', ends: 'book', size: pt(10.5), leading: pt(12) },
  index: { letters: false, columns: 2 },
};
