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
  | 'nowhere';

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
  ends: 'note' | 'picture' | 'field' | 'bookmark' | '';
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
  'header headerl headerr headerf footer footerl footerr footerf colortbl object objdata result nonshppict listtext pntext pntxta pntxtb annotation atnid atnauthor atndate atnref comment keywords subject category doccomm operator company manager hlinkbase themedata colorschememapping datastore latentstyles rsidtbl generator listtable listoverridetable revtbl filetbl xmlnstbl mmathPr userprops bkmkend xe tc datafield shp sp sn sv private fchars lchars ftnsep ftnsepc aftnsep aftnsepc'.split(
    ' ',
  ),
);
export const SIGNS: Record<string, string> = {
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
};
export const MONO = /courier|consolas|mono|menlo|typewriter/i;

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
  defaultFont: number,
): Partial<Group> | null {
  const on = param !== 0;
  switch (word) {
    case 'plain':
      return { ...PLAIN_LETTERS, font: defaultFont };
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
