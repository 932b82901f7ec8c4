/**
 * The lines of a title page told apart: title, subtitle, author, and what a submission manuscript says besides (address,
 * telephone, number of words), which must not be printed.
 */
import { countWords } from '../../base';
import type { RawParagraph } from '../raw';

export interface TitleLine {
  at: number;
  p: RawParagraph;
  text: string;
  /** Blank lines above it. */
  blanks: number;
}
export interface TitleBlock {
  title: string;
  subtitle: string;
  authors: string[];
  /** Blocks with an address, a number of words and the like. */
  contact: number[];
  /** Words such as "by", as they are typed. */
  by: string[];
  /** Whether every other line is the title, the subtitle or an author. */
  whole: boolean;
}

const BY_LINE = /^(by|von|par|de|di|door|por)(?:\s+(\S.*))?$/iu;
const GENRE =
  /^(?:an? |ein(?:e)? |un(?:e|a|o)? |eine )?(?:\p{L}+ ){0,2}(?:novel(?:la)?|memoir|poems|stories|short stories|essays|play|thriller|mystery|romance|saga|biography|history|tales|roman|erzählung(?:en)?|gedichte|novelle|krimi|récit|nouvelles|poèmes|essais|novela|cuentos|poemas|relatos|romanzo|racconti|poesie|gedichten|verhalen)(?: in \p{L}+ parts?)?$/iu;
const WORDS =
  /(?:^|\s)(?:about|approx\w*\.?|ca\.?|circa|c\.|some)?\s*[\d.,\u00a0 ]{3,}\s*(?:words|wörter|mots|palabras|parole|woorden|zeichen|characters)\b/i;
const CONTACT =
  /\S+@\S+|\bwww\.|https?:|\b(?:tel(?:ephone)?|phone|mobile|cell|fax|e-?mail|telefon|téléphone|agent|represented by|c\/o|postcode|word count|wordcount|draft|version)\b|^\+?[\d\s().-]{7,}$/i;
const STREET =
  /^\d{1,5}[a-z]?,?\s+\p{L}|\b\d{4,6}\b|\b(?:street|road|lane|avenue|steps|row|close|drive|square|terrace|house|str(?:aße|\.)|weg|platz|rue|calle|via)\b.*\d|\d.*\b(?:street|road|lane|avenue|steps|row|close|drive|square|terrace|straße|weg|platz|rue|calle|via)\b|^[A-Z]{1,2}\d[\dA-Z]?\s?\d[A-Z]{2}$/iu;
const IMPRINT =
  /\b(?:print(?:ed|ers?)|publish(?:ed|ers?|ing)|press|verlag|books|éditions|editorial|edizioni|uitgeverij|edition|copyright|©|all rights|isbn|volume|book \w+ of)\b|^\d{4}$/i;

/** Two to five words with capitals, no full stop at the end. */
export const looksLikeName = (l: string): boolean =>
  /^(?:(?:dr|prof|sir|dame)\.? )?(?:\p{Lu}[\p{L}.'\u2019-]*|de|da|di|van|von|der|den|del|la|le|du|y|e)(?:\s+(?:\p{Lu}[\p{L}.'\u2019-]*|de|da|di|van|von|der|den|del|la|le|du|y|e)){1,4}$/u.test(
    l.trim(),
  ) && !/^(the|a|an|der|die|das|le|la|les|el|los|las|il|de|het)\s/i.test(l.trim());

const namesOf = (t: string): string[] =>
  t
    .replace(/^[:\s]+/, '')
    .split(/\s+(?:and|und|et|y|e|en)\s+|\s*[&;]\s*|,\s+(?=\p{Lu})/u)
    .map((n) => n.trim())
    .filter(Boolean);

export const isContactLine = (t: string): boolean => CONTACT.test(t) || WORDS.test(t);

/** `author` is what the file's properties say; '' where they say nothing. */
export function titleBlock(lines: readonly TitleLine[], author: string): TitleBlock {
  const contact = contactOf(lines);
  const contactNames = lines
    .filter((l) => contact.has(l.at) && looksLikeName(l.text))
    .map((l) => fold(l.text));
  const free = lines.filter((l) => !contact.has(l.at));
  const out: TitleBlock = {
    title: '',
    subtitle: '',
    authors: [],
    contact: [...contact],
    by: [],
    whole: true,
  };
  const used = new Set<TitleLine>();
  free.forEach((l, i) => {
    const m = used.has(l) ? null : BY_LINE.exec(l.text);
    if (!m || out.authors.length > 0) return;
    const named = m[2] ? l : free[i + 1];
    const name = m[2] ?? named?.text ?? '';
    if (!named || countWords(name, 12) > 12 || (i === 0 && !m[2])) return;
    if (i === 0 && m[2] && !looksLikeName(m[2])) return;
    out.authors = namesOf(name);
    out.by.push(m[1] as string);
    used.add(l).add(named);
  });
  const title = titleOf(
    free.filter((l) => !used.has(l) && !GENRE.test(l.text)),
    free,
    [...contactNames, fold(author)],
  );
  for (const l of title) used.add(l);
  out.title = title.map((l) => l.text).join(' ');
  if (out.authors.length === 0) {
    const rest = free.filter((l) => !used.has(l) && !IMPRINT.test(l.text) && !GENRE.test(l.text));
    const known = rest.find(
      (l) => contactNames.includes(fold(l.text)) || (author !== '' && fold(l.text) === fold(author)),
    );
    const same = rest.find(
      (l) => author !== '' && surname(l.text) === surname(author) && looksLikeName(l.text),
    );
    const named = known ?? same ?? rest.filter((l) => l.p.list === null && looksLikeName(l.text)).at(-1);
    if (named) {
      out.authors = namesOf(named.text);
      used.add(named);
    }
  }
  const rest = free.filter((l) => !used.has(l));
  const below = rest.filter((l) => l.at > (title[0]?.at ?? -1) && !IMPRINT.test(l.text));
  const subtitle = below.find((l) => !GENRE.test(l.text) && countWords(l.text, 16) <= 16) ?? below[0];
  if (subtitle && countWords(subtitle.text, 16) <= 16) {
    out.subtitle = subtitle.text;
    used.add(subtitle);
  }
  out.whole = free.every((l) => used.has(l));
  return out;
}

/** Lines with an address or a number of words, and what stands in one block with them. */
function contactOf(lines: readonly TitleLine[]): Set<number> {
  const out = new Set<number>();
  let cluster: TitleLine[] = [];
  const close = (): void => {
    const marked = cluster.filter((l) => isContactLine(l.text));
    const streets = cluster.filter(
      (l) => STREET.test(l.text) && l.p.size <= Math.max(...lines.map((x) => x.p.size)),
    );
    if (marked.length > 0 && marked.length + streets.length >= Math.min(2, cluster.length))
      for (const l of cluster) out.add(l.at);
    else for (const l of marked) out.add(l.at);
    cluster = [];
  };
  for (const l of lines) {
    if (l.blanks > 0) close();
    cluster.push(l);
  }
  close();
  // All lines in one block: what is marked, and what stands above it, is the address; the title is left.
  if (out.size === lines.length) {
    out.clear();
    for (const l of lines) if (isContactLine(l.text)) out.add(l.at);
  }
  return out;
}

/** The largest line, else the first that is no name; with its neighbours in the same type. */
function titleOf(
  candidates: readonly TitleLine[],
  all: readonly TitleLine[],
  names: readonly string[],
): TitleLine[] {
  const weight = (l: TitleLine): number =>
    l.p.size * 10 +
    (l.p.bold ? 8 : 0) +
    (isCapitals(l.text) ? 4 : 0) -
    (names.includes(fold(l.text)) ? 30 : 0) -
    (IMPRINT.test(l.text) ? 6 : 0) -
    (l.p.italic ? 2 : 0);
  let best: TitleLine | null = null;
  for (const l of candidates) if (!best || weight(l) > weight(best)) best = l;
  if (!best) return [];
  const out = [best];
  const same = (l: TitleLine | undefined): l is TitleLine =>
    l !== undefined &&
    candidates.includes(l) &&
    l.p.size === best.p.size &&
    l.p.bold === best.p.bold &&
    isCapitals(l.text) === isCapitals(best.text) &&
    (l.p.size > smallest(all) ||
      l.p.bold ||
      /(?:^|\s)(the|a|an|of|and|der|die|das|le|la|les|el)$/i.test(l.text));
  const at = all.indexOf(best);
  for (let i = at + 1; all[i]?.blanks === 0 && same(all[i]); i++) out.push(all[i] as TitleLine);
  for (let i = at; i > 0 && all[i]?.blanks === 0 && same(all[i - 1]); i--)
    out.unshift(all[i - 1] as TitleLine);
  return out;
}

const smallest = (lines: readonly TitleLine[]): number => Math.min(...lines.map((l) => l.p.size));
const fold = (t: string): string =>
  t
    .toLowerCase()
    .replace(/[^\p{L}]+/gu, ' ')
    .trim();
const surname = (t: string): string => fold(t).split(' ').at(-1) ?? '';
export const isCapitals = (s: string): boolean => /\p{Lu}/u.test(s) && s === s.toUpperCase();
