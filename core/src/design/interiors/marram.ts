import { inches, pt } from '../../base';
import type { Design } from '../design';
import { italic, left, line, plainLevel, small, text, UNSET_MARGINS } from './words';

/** Marram: ranged left and airy; the number is a large figure, the page has a foot folio and nothing above. */
export const marram: Design = {
  page: UNSET_MARGINS,
  text: text('Spectral', 10.3, 15, { wordSpace: 212 }),
  opening: {
    start: 'any',
    sink: 3,
    number: line(40, { ...left }),
    numberForm: 'arabic',
    numberWord: false,
    title: line(17, { ...italic, ...left }),
    subtitle: line(11, { ...left }),
    ornament: '',
    ornamentAt: 'below',
    rules: 'none',
    gap: 5,
    words: 'small-capitals',
    dropLines: 2,
    openingWords: 5,
  },
  titlePage: {
    sink: 4,
    title: line(34, { ...italic, ...left }),
    subtitle: line(13, { ...left }),
    author: line(13, { ...left }),
    imprint: line(9.5, { ...small, ...left, spacing: 60 }),
    ornament: '',
    rule: false,
  },
  partPage: {
    sink: 3,
    number: line(30, { ...left }),
    title: line(22, { ...italic, ...left }),
    subtitle: line(12, { ...left }),
    ornament: '',
  },
  breaks: { sign: '', picture: '', resume: 'flush' },
  quotation: { inset: 'left', cut: 'italic', size: pt(10.3) },
  verse: { inset: inches(0.25), cut: 'italic' },
  subheads: {
    first: line(13, { ...italic, ...left }),
    second: line(10.3, { ...small, ...left, spacing: 50 }),
    third: line(10.3, { ...italic, ...left }),
  },
  pictures: { caption: line(8.5, { ...left }), frame: false },
  heads: {
    verso: 'none',
    recto: 'none',
    line: line(9.5),
    rule: false,
    folio: 'foot-fore-edge',
    opening: 'foot',
  },
  contents: {
    set: 'ranged',
    leader: 'none',
    numbers: false,
    first: { ...plainLevel, cut: 'italic' },
    second: { ...plainLevel, indent: pt(16), cut: 'italic' },
    third: { ...plainLevel, indent: pt(32) },
  },
  notes: { at: 'foot', ends: 'book', size: pt(8.5), leading: pt(11.5) },
  index: { letters: false, columns: 2 },
};
