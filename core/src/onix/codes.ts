/** Codes of ONIX for Books, release 3.0, by the number of EDItEUR's code list, from memory. */
import { primaryLanguage } from '../base';
import type { Edition } from '../book';
import type { Relation, Role } from '../record';

/** List 17. */
export const CONTRIBUTOR: Record<Role, string> = {
  author: 'A01',
  editor: 'B01',
  translator: 'B06',
  illustrator: 'A12',
  photographer: 'A13',
  introduction: 'A24',
  foreword: 'A23',
  afterword: 'A19',
  interior: 'A11',
  cover: 'A36',
};
export const roleOf = (code: string): Role =>
  (Object.keys(CONTRIBUTOR) as Role[]).find((r) => CONTRIBUTOR[r] === code) ?? 'author';

/** List 51: replaces, replaced by, by the same author, similar; what the other product is to the one described. */
export const RELATION_CODE: Record<Relation, string> = {
  replaces: '03',
  'replaced-by': '05',
  'same-author': '22',
  similar: '23',
};

/** List 150, and list 175 for what is in the file. */
export function formOf(e: Edition): { form: string; detail: string | null } {
  if (e.form === 'print') return { form: e.binding === 'hardback' ? 'BB' : 'BC', detail: null };
  return { form: 'ED', detail: e.form === 'fixed' ? 'E201' : 'E200' };
}
export const EPUB_FILE = 'E101';
export const formFrom = (form: string, details: readonly string[]): Edition['form'] =>
  form.startsWith('B') ? 'print' : details.includes('E201') ? 'fixed' : 'reflow';

/** ISO 639-2/B for the languages of the house; others are given by their three letters where the record has them. */
const LANGUAGES: Readonly<Record<string, string>> = {
  bg: 'bul',
  cs: 'cze',
  da: 'dan',
  de: 'ger',
  el: 'gre',
  en: 'eng',
  es: 'spa',
  et: 'est',
  fi: 'fin',
  fr: 'fre',
  ga: 'gle',
  hr: 'hrv',
  hu: 'hun',
  it: 'ita',
  la: 'lat',
  lt: 'lit',
  lv: 'lav',
  nb: 'nob',
  nl: 'dut',
  nn: 'nno',
  no: 'nor',
  pl: 'pol',
  pt: 'por',
  ro: 'rum',
  ru: 'rus',
  sk: 'slo',
  sl: 'slv',
  sr: 'srp',
  sv: 'swe',
  tr: 'tur',
  uk: 'ukr',
};
export const languageCode = (tag: string): string => {
  const primary = primaryLanguage(tag);
  return LANGUAGES[primary] ?? (primary.length === 3 ? primary : 'und');
};
export const languageFrom = (code: string): string =>
  Object.keys(LANGUAGES).find((two) => LANGUAGES[two] === code) ?? (code === 'und' ? '' : code);
