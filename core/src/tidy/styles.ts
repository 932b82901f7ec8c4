/**
 * What typography a language wants. Sources, from memory: The Chicago Manual of Style (17th ed., ch. 6) for American,
 * New Hart's Rules (ch. 4 and 9) for British English; Lexique des règles typographiques en usage à l'Imprimerie nationale for
 * French; Duden, Die deutsche Rechtschreibung, for German; Ortografía de la lengua española (RAE 2010) for Spanish; Italian as
 * common practice of its houses.
 */
import { byLanguage } from '../base';

export const NBSP = '\u00a0';
export const NNBSP = '\u202f';

export interface TypographicStyle {
  name: string;
  /** Opening and closing marks for straight double quotation marks, and for straight single ones. */
  double: [open: string, close: string];
  single: [open: string, close: string];
  /** What a hyphen between spaces and two hyphens become; a spaced dash keeps spaces, a closed one takes them. */
  dash: { sign: string; spaced: boolean };
  /** No-break spaces before these signs. */
  before: Record<string, string>;
  /** Abbreviations whose parts a no-break space holds together. */
  abbreviations: readonly string[];
}

const FRENCH_BEFORE = { ';': NNBSP, '!': NNBSP, '?': NNBSP, ':': NBSP };
const plain = { before: {}, abbreviations: [] };

const STYLES: Record<string, TypographicStyle> = {
  'en-US': {
    name: 'American English',
    double: ['\u201c', '\u201d'],
    single: ['\u2018', '\u2019'],
    dash: { sign: '\u2014', spaced: false },
    ...plain,
  },
  'en-GB': {
    name: 'British English',
    double: ['\u201c', '\u201d'],
    single: ['\u2018', '\u2019'],
    dash: { sign: '\u2013', spaced: true },
    ...plain,
  },
  fr: {
    name: 'French',
    double: [`\u00ab${NBSP}`, `${NBSP}\u00bb`],
    single: ['\u2018', '\u2019'],
    dash: { sign: '\u2013', spaced: true },
    before: FRENCH_BEFORE,
    abbreviations: [],
  },
  de: {
    name: 'German',
    double: ['\u201e', '\u201c'],
    single: ['\u201a', '\u2018'],
    dash: { sign: '\u2013', spaced: true },
    before: {},
    abbreviations: ['z. B.', 'd. h.', 'u. a.', 'z. T.', 'i. d. R.', 'o. Ä.', 's. o.', 's. u.', 'v. a.'],
  },
  es: {
    name: 'Spanish',
    double: ['\u00ab', '\u00bb'],
    single: ['\u201c', '\u201d'],
    dash: { sign: '\u2014', spaced: false },
    ...plain,
  },
  it: {
    name: 'Italian',
    double: ['\u00ab', '\u00bb'],
    single: ['\u201c', '\u201d'],
    dash: { sign: '\u2013', spaced: true },
    ...plain,
  },
};

/** The style for a BCP 47 tag; American English where nothing is known. */
export function styleFor(language: string): TypographicStyle {
  const tag = language.toLowerCase();
  if (/^en-(gb|au|nz|ie|za|in)/.test(tag)) return STYLES['en-GB'] as TypographicStyle;
  return byLanguage(STYLES, tag) ?? (STYLES['en-US'] as TypographicStyle);
}
