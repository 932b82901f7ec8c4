/** What the words of Rich Text say of a group: where its text goes, its paragraph, its letters. */
import type { Mark } from 'prosemirror-model';
import { schema } from '../../book';
import { linkToAnchor, type RawParagraph, type RawListPlace } from '../raw';

/** Where text goes: into the manuscript, a note, a table of the head, or nowhere. */
export type Destination =
  | 'body'
  | 'note'
  | 'fonts'
  | 'styles'
  | 'info'
  | 'title'
  | 'author'
  | 'picture'
  | 'field'
  | 'bookmark'
  | 'formula'
  | 'colours'
  | 'index'
  | 'see'
  | 'range'
  | 'author-of-comment'
  | 'comment'
  | 'nowhere';

/** Groups whose text belongs together, by the words that begin them: where it goes, and what ends with the group. */
export const DESTINATIONS = new Map<string, [to: Destination, ends: Group['ends']]>(
  Object.entries({
    fonttbl: ['fonts', ''],
    stylesheet: ['styles', ''],
    colortbl: ['colours', ''],
    info: ['info', ''],
    pict: ['picture', 'picture'],
    fldinst: ['field', 'field'],
    bkmkstart: ['bookmark', 'bookmark'],
    bkmkend: ['bookmark', 'bookmark-end'],
    xe: ['index', 'index'],
    atnauthor: ['author-of-comment', ''],
    annotation: ['comment', 'comment'],
  }),
);
/** Within those, groups of a part of it. */
export const PARTS = new Map<string, [within: Destination, to: Destination]>(
  Object.entries({
    title: ['info', 'title'],
    author: ['info', 'author'],
    txe: ['index', 'see'],
    rxe: ['index', 'range'],
  }),
);
/** Destinations whose text is kept until their group ends. */
export const GATHERED = new Set<Destination>([
  'picture',
  'field',
  'bookmark',
  'index',
  'see',
  'range',
  'author-of-comment',
  'comment',
]);

export interface ParagraphFacts {
  style: number;
  outline: number;
  align: RawParagraph['align'] | '';
  breakBefore: boolean;
  indented: boolean;
  list: RawListPlace | null;
  inTable: boolean;
}
export const PLAIN_PARAGRAPH: ParagraphFacts = {
  style: 0,
  outline: 0,
  align: '',
  breakBefore: false,
  indented: false,
  list: null,
  inTable: false,
};
export interface Group {
  to: Destination;
  bold: boolean;
  italic: boolean;
  caps: boolean;
  strike: boolean;
  underline: boolean;
  script: 'super' | 'sub' | '';
  hidden: boolean;
  font: number;
  /** Half points, as the file counts them. */
  size: number;
  /** Of the text, by its BCP 47 tag; '' where the file names none. */
  language: string;
  /** Mark of the link that the group stands in. */
  link: Mark | null;
  /** Characters after \u that stand in for it. */
  stand: number;
  par: ParagraphFacts;
  /** A note in it is an endnote. */
  end?: boolean;
  /** A group begun with \* is left out when its word is not known. */
  optional: boolean;
  /** What ends with this group. */
  ends: 'note' | 'picture' | 'field' | 'bookmark' | 'bookmark-end' | 'formula' | 'index' | 'comment' | '';
}

export const NEW_GROUP: Group = {
  to: 'body',
  bold: false,
  italic: false,
  caps: false,
  strike: false,
  underline: false,
  script: '',
  hidden: false,
  font: 0,
  size: 24,
  language: '',
  link: null,
  stand: 1,
  par: PLAIN_PARAGRAPH,
  optional: false,
  ends: '',
};

/** Windows code pages of \fcharset (table "Font table" of the specification). */
export const CHARSETS: Record<number, string> = {
  0: '',
  77: 'macintosh',
  161: 'windows-1253',
  162: 'windows-1254',
  163: 'windows-1258',
  177: 'windows-1255',
  178: 'windows-1256',
  186: 'windows-1257',
  204: 'windows-1251',
  238: 'windows-1250',
};
export const NOWHERE = new Set(
  'header headerl headerr headerf footer footerl footerr footerf objclass objname objalias objsect objtime objdata nonshppict listtext pntext pntxta pntxtb atnid atndate atnref atntime atnicn atrfstart atrfend comment keywords subject category doccomm operator company manager hlinkbase themedata colorschememapping datastore latentstyles rsidtbl generator listtable listoverridetable revtbl filetbl xmlnstbl mmathPr mmathPict moMathParaPr userprops tc datafield shp sp sn sv private fchars lchars ftnsep ftnsepc aftnsep aftnsepc'.split(
    ' ',
  ),
);
export const SIGNS = new Map(
  Object.entries({
    tab: '\t',
    '~': '\u00a0',
    _: '\u2011',
    '-': '\u00ad',
    emdash: '\u2014',
    endash: '\u2013',
    lquote: '\u2018',
    rquote: '\u2019',
    ldblquote: '\u201c',
    rdblquote: '\u201d',
    bullet: '\u2022',
    emspace: '\u2003',
    enspace: '\u2002',
    '{': '{',
    '}': '}',
    '\\': '\\',
  }),
);
export const MONO = /courier|consolas|mono|menlo|typewriter/i;

/** Languages by the low ten bits of their Windows identifiers (MS-LCID, from memory). */
const LANGUAGES: Record<number, string> = {
  2: 'bg',
  3: 'ca',
  5: 'cs',
  6: 'da',
  7: 'de',
  8: 'el',
  9: 'en',
  10: 'es',
  11: 'fi',
  12: 'fr',
  14: 'hu',
  16: 'it',
  19: 'nl',
  20: 'nb',
  21: 'pl',
  22: 'pt',
  24: 'ro',
  25: 'ru',
  27: 'sk',
  29: 'sv',
  31: 'tr',
  34: 'uk',
  36: 'sl',
};
const REGIONS: Record<number, string> = {
  1033: 'en-US',
  2057: 'en-GB',
  2060: 'fr-BE',
  2055: 'de-CH',
  3079: 'de-AT',
};
/** '' for no language at all, as text that is not to be checked has. */
export const languageOf = (lcid: number): string => REGIONS[lcid] ?? LANGUAGES[lcid & 0x3ff] ?? '';

/** The paragraph as a word leaves it; null for a word that says nothing of paragraphs. */
export function paragraphAfter(
  par: ParagraphFacts,
  word: string,
  param: number | undefined,
): ParagraphFacts | null {
  switch (word) {
    case 'pard':
      return PLAIN_PARAGRAPH;
    case 's':
      return { ...par, style: param ?? 0 };
    case 'outlinelevel':
      return { ...par, outline: (param ?? 9) < 9 ? (param ?? 0) + 1 : 0 };
    case 'qc':
      return { ...par, align: 'centre' };
    case 'qr':
      return { ...par, align: 'right' };
    case 'qj':
      return { ...par, align: 'justify' };
    case 'ql':
      return { ...par, align: 'left' };
    case 'li':
      return { ...par, indented: (param ?? 0) >= 300 };
    case 'pagebb':
      return { ...par, breakBefore: true };
    case 'ls':
      return { ...par, list: { level: par.list?.level ?? 0, ordered: false } };
    case 'ilvl':
      return { ...par, list: par.list && { ...par.list, level: param ?? 0 } };
    case 'intbl':
      return { ...par, inTable: true };
  }
  return null;
}

/** What a word changes of a group's letters; null for a word that says nothing of them. */
export function lettersAfter(
  word: string,
  param: number | undefined,
  defaults: { font: number; language: string },
): Partial<Group> | null {
  const on = param !== 0;
  switch (word) {
    case 'plain':
      return { ...PLAIN_LETTERS, ...defaults };
    case 'b':
      return { bold: on };
    case 'i':
      return { italic: on };
    case 'scaps':
      return { caps: on };
    case 'ul':
    case 'uldb':
    case 'ulw':
    case 'uld':
      return { underline: on };
    case 'ulnone':
      return { underline: false };
    case 'strike':
    case 'striked':
      return { strike: on };
    case 'super':
      return { script: on ? 'super' : '' };
    case 'sub':
      return { script: on ? 'sub' : '' };
    case 'nosupersub':
      return { script: '' };
    // Hidden text, and text that a tracked change has deleted.
    case 'v':
    case 'deleted':
      return { hidden: on };
    case 'f':
      return { font: param ?? 0 };
    case 'fs':
      return { size: param ?? 24 };
    case 'lang':
      return { language: languageOf(param ?? 0) };
    case 'uc':
      return { stand: param ?? 1 };
  }
  return null;
}
const PLAIN_LETTERS: Partial<Group> = {
  bold: false,
  italic: false,
  caps: false,
  strike: false,
  underline: false,
  script: '',
  hidden: false,
  size: 24,
};

/** Marks of a group's letters. `style`: looks of the paragraph's style, which its letters need not repeat. */
export function marksOf(
  g: Group,
  style: { bold: boolean; italic: boolean } | undefined,
  heading: boolean,
  mono: boolean,
): readonly Mark[] {
  const m = schema.marks;
  let own: readonly Mark[] = [];
  const put = (mark: Mark): void => void (own = mark.addToSet(own));
  if (g.link) put(g.link);
  if (g.italic && !style?.italic) put(m.emphasis!.create());
  if (g.bold && !style?.bold && !heading) put(m.strong!.create());
  if (g.caps) put(m.smallCaps!.create());
  if (g.script) put((g.script === 'super' ? m.super! : m.sub!).create());
  if (g.underline && !g.link && !heading) put(m.underline!.create());
  if (g.strike) put(m.strike!.create());
  if (mono) put(m.monospaced!.create());
  return own;
}

/** Code page of the whole file, by the word that names it. */
export function codepageOf(word: string, param: number | undefined): string | null {
  if (word === 'ansicpg') return `windows-${param ?? 1252}`;
  return word === 'mac' ? 'macintosh' : word === 'pc' ? 'cp437' : null;
}

/** The link of a HYPERLINK field: to the web, or with the switch \\l to a bookmark of the file. Null for other fields. */
export function linkOfField(code: string): Mark | null {
  const link = /HYPERLINK\s+(\\l\s+)?"([^"]+)"/i.exec(code);
  if (!link) return null;
  const [, local, target] = link as unknown as [string, string | undefined, string];
  if (local) return linkToAnchor(target);
  return /^(https?|mailto):/i.test(target) ? schema.mark('link', { kind: 'web', target }) : null;
}
