/** A sheet of particulars: "Title: …", "ISBN (paperback): …" and the like, a line or a few for each. */
import { contributor, type BookRecord, type Contributor, type Role } from '../../record';
import { amountFrom } from '../../base';
import { isbnsIn, type NamedIsbn } from './isbns';

export interface Particulars {
  record: Partial<BookRecord>;
  isbns: NamedIsbn[];
  /** Lines that say nothing that a record keeps. */
  unread: string[];
  /** Numbers that are given as ISBNs and are none. */
  wrong: string[];
}

type Field =
  | 'title'
  | 'subtitle'
  | 'imprint'
  | 'place'
  | 'year'
  | 'copyrightHolder'
  | 'editionStatement'
  | 'language'
  | 'description'
  | 'keywords'
  | 'alsoBy'
  | 'life'
  | 'isbn'
  | 'price'
  | Role;
/** The words before the colon, as they are commonly typed. */
const FIELDS: readonly [RegExp, Field][] = [
  [/^(?:book )?(?:title|titel|titre|título|titolo)$/, 'title'],
  [/^(?:sub-?title|untertitel|sous-titre|subtítulo|sottotitolo|ondertitel)$/, 'subtitle'],
  [/^(?:authors?|by|written by|author.?s? names?|autor(?:in|en)?|auteurs?|autora?e?s?|autor[ei])$/, 'author'],
  [/^(?:editors?|edited by|herausgeber(?:in)?)$/, 'editor'],
  [/^(?:translators?|translated by|übersetzer(?:in)?|übersetzt von|traducteur|traductrice)$/, 'translator'],
  [/^(?:illustrators?|illustrated by|illustrationen|illustrations?(?: by)?)$/, 'illustrator'],
  [/^(?:foreword(?: by)?|vorwort(?: von)?|préface(?: de)?)$/, 'foreword'],
  [/^(?:imprint|publishers?|published by|press|verlag|éditeur|editorial|editore|uitgever)$/, 'imprint'],
  [/^(?:place|city|place of publication|ort|lieu|lugar|luogo)$/, 'place'],
  [/^(?:year|year of publication|publication year|copyright year|jahr|année|año|anno|jaar)$/, 'year'],
  [/^(?:copyright|copyright holder|copyright owner|\u00a9|rechteinhaber)$/, 'copyrightHolder'],
  [/^(?:edition|edition statement|auflage|édition|edición|edizione|editie|druk)$/, 'editionStatement'],
  [/^(?:language|sprache|langue|idioma|lingua|taal)$/, 'language'],
  [
    /^(?:description|blurb|book description|synopsis|about the book|back cover(?: text| copy)?|klappentext|beschreibung|résumé|descripción|descrizione)$/,
    'description',
  ],
  [/^(?:keywords?|key words|tags|schlagwörter|mots.clés|palabras clave|parole chiave)$/, 'keywords'],
  [/^(?:also by(?: .+)?|other books|other titles|previous books|vom selben autor|du même auteur)$/, 'alsoBy'],
  [
    /^(?:about the author|author.?s? bio(?:graphy)?|bio(?:graphy)?|short life|life|über (?:den autor|die autorin)|biographie)$/,
    'life',
  ],
  [/^.{0,24}isbn.{0,24}$/, 'isbn'],
  [/^(?:(?:ebook |e-book |list )?price|preis|prix|precio|prezzo)$/, 'price'],
];
/** Fields of more than one line. */
const LONG: ReadonlySet<Field> = new Set(['description', 'life', 'alsoBy', 'keywords']);
const CURRENCIES: Record<string, string> = { $: 'USD', '€': 'EUR', '£': 'GBP' };

const fieldOf = (words: string): Field | null => {
  const plain = words.toLowerCase().replace(/\s+/g, ' ').replace(/[*_]/g, '').trim();
  return FIELDS.find(([pattern]) => pattern.test(plain))?.[1] ?? null;
};

/** Null for text that is no sheet of particulars: fewer than two of its lines name a field, or prose stands around them. */
export function particularsIn(text: string): Particulars | null {
  const given = new Map<Field, string[]>();
  const unread: string[] = [];
  let now: Field | null = null;
  let named = 0;
  let words = 0;
  let heads = 0;
  for (const raw of text.replace(/\r\n?/g, '\n').split('\n')) {
    const line = raw
      .replace(/^[\s#*>\u2022-]+/, '')
      .replace(/\*\*/g, '')
      .trim();
    const m = /^([^:\t=|]{1,50}?)\s*[:\t=|]\s*(.*)$/u.exec(line);
    const field: Field | null = m ? fieldOf(m[1] as string) : raw.startsWith('#') ? fieldOf(line) : null;
    if (field) {
      named++;
      now = field;
      const label = field === 'isbn' ? `${m?.[1] ?? ''} ` : '';
      const value = (m?.[2] ?? '').replace(/^\|?\s*|\s*\|$/g, '');
      given.set(field, [...(given.get(field) ?? []), `${label}${value}`.trim()]);
      continue;
    }
    if (line === '') {
      if (now && LONG.has(now)) (given.get(now) as string[]).push('');
      else now = null;
      continue;
    }
    if (now && (LONG.has(now) || given.get(now)?.at(-1) === '')) {
      (given.get(now) as string[]).push(line);
      words += LONG.has(now) ? 0 : 1;
      continue;
    }
    if (heads++ > 0 || named > 0) unread.push(line);
    words += line.split(/\s+/).length;
  }
  if (named < 2 || words > named * 30) return null;
  return { ...recordOf(given), unread };
}

function recordOf(given: ReadonlyMap<Field, string[]>): Pick<Particulars, 'record' | 'isbns' | 'wrong'> {
  const record: Partial<BookRecord> = {};
  const one = (f: Field): string => (given.get(f) ?? []).filter(Boolean).join(' ').trim();
  for (const f of ['title', 'subtitle', 'imprint', 'place', 'editionStatement'] as const)
    if (one(f)) record[f] = one(f);
  const year = /\d{4}/.exec(one('year'))?.[0] ?? /\b\d{4}\b/.exec(one('copyrightHolder'))?.[0];
  if (year) record.year = year;
  const holder = one('copyrightHolder')
    .replace(/\u00a9|\(c\)|\b\d{4}\b|^by\b/gi, '')
    .replace(/^[\s,.]+|[\s,.]+$/g, '');
  if (holder) record.copyrightHolder = holder;
  const language = tagOf(one('language'));
  if (language) record.language = language;
  const description = paragraphs(given.get('description'));
  if (description) record.description = description;
  const keywords = (given.get('keywords') ?? []).flatMap((l) => l.split(/[,;]/)).map((k) => k.trim());
  if (keywords.some(Boolean)) record.keywords = keywords.filter(Boolean);
  const alsoBy = (given.get('alsoBy') ?? []).flatMap((l) => l.split(/;/)).map((k) => k.trim());
  if (alsoBy.some(Boolean)) record.alsoBy = alsoBy.filter(Boolean);
  const price = /([$€£])?\s*(\d{1,4}[.,]\d{2})\s*([A-Z]{3}|[$€£])?/.exec(one('price'));
  const currency = price && (CURRENCIES[price[1] ?? price[3] ?? ''] ?? price[3]);
  if (price && currency) record.price = amountFrom(price[2] as string, currency);
  const contributors = contributorsOf(given);
  if (contributors.length > 0) record.contributors = contributors;
  const { isbns, wrong } = isbnsIn((given.get('isbn') ?? []).join('\n'));
  return { record, isbns, wrong };
}

function contributorsOf(given: ReadonlyMap<Field, string[]>): Contributor[] {
  const life = paragraphs(given.get('life'));
  const roles: Role[] = ['author', 'editor', 'translator', 'illustrator', 'foreword'];
  return roles
    .flatMap((role) =>
      (given.get(role) ?? [])
        .flatMap((l) => l.split(/\s*[;&]\s*|,\s+(?=\p{Lu})|\s+(?:and|und|et|y)\s+/u))
        .map((n) => n.trim())
        .filter(Boolean)
        .map((name) => contributor(name, role)),
    )
    .map((c, i) => (i === 0 && c.role === 'author' ? { ...c, life } : c));
}

const paragraphs = (lines: readonly string[] | undefined): string =>
  (lines ?? [])
    .join('\n')
    .split(/\n{2,}/)
    .map((p) => p.split('\n').join(' ').trim())
    .filter(Boolean)
    .join('\n\n');

/** A tag, or the English name or own name of a language, as a tag; '' for what is neither. */
function tagOf(said: string): string {
  if (/^[a-z]{2,3}(?:[-_][A-Za-z]{2,4})?$/.test(said)) {
    try {
      return Intl.getCanonicalLocales(said.replace('_', '-'))[0] ?? '';
    } catch {
      return '';
    }
  }
  const fold = (s: string): string =>
    s
      .toLowerCase()
      .replace(/\s*\(.*$/, '')
      .trim();
  for (const tag of ['en', 'de', 'fr', 'es', 'it', 'nl', 'pt', 'sv', 'da', 'nb', 'pl', 'cs', 'fi'])
    for (const inside of ['en', tag])
      if (fold(new Intl.DisplayNames([inside], { type: 'language' }).of(tag) ?? '') === fold(said))
        return tag;
  return '';
}
