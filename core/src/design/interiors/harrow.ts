import { inches, pt } from '../../base';
import type { Design } from '../design';
import { italic, left, line, plainLevel, small, text, UNSET_MARGINS } from './words';

/** Harrow: quiet and centred, a raised number, a drop capital, heads in small capitals. */
export const harrow: Design = {
  page: UNSET_MARGINS,
  text: text('EB Garamond', 11, 14),
  opening: {
    start: 'recto',
    sink: 6,
    number: line(11, { ...small, spacing: 120 }),
    numberForm: 'usual',
    numberWord: true,
    title: line(20),
    subtitle: line(13, italic),
    ornament: '',
    ornamentAt: 'below',
    rules: 'none',
    gap: 4,
    words: 'drop-capital',
    dropLines: 2,
    openingWords: 4,
  },
  titlePage: {
    sink: 8,
    title: line(28),
    subtitle: line(13, italic),
    author: line(13, { ...small, spacing: 77 }),
    imprint: line(11, { ...small, spacing: 64 }),
    ornament: '',
    rule: false,
  },
  partPage: {
    sink: 10,
    number: line(13, { ...small, spacing: 108 }),
    title: line(24),
    subtitle: line(13, italic),
    ornament: '',
  },
  breaks: { sign: '❦', picture: '', resume: 'flush' },
  quotation: { inset: 'both', cut: 'roman', size: pt(11) },
  verse: { inset: inches(0.5), cut: 'roman' },
  subheads: {
    first: line(11, { ...small, spacing: 60 }),
    second: line(11, { ...italic, ...left }),
    third: line(11, { cut: 'bold', ...left }),
  },
  pictures: { caption: line(9, italic), frame: false },
  heads: {
    verso: 'title',
    recto: 'section',
    line: line(9.5, { ...small, spacing: 53 }),
    rule: false,
    folio: 'head',
    opening: 'foot',
  },
  contents: {
    set: 'ranged',
    leader: 'dots',
    numbers: false,
    first: plainLevel,
    second: { ...plainLevel, indent: pt(14.3) },
    third: { ...plainLevel, indent: pt(28.6) },
  },
  notes: { at: 'foot', ends: 'book', size: pt(9), leading: pt(11) },
  index: { letters: false, columns: 2 },
};
