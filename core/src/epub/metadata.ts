/** The record as metadata of the package (EPUB 3.3 §5.5): Dublin Core elements and what refines them. */
import { escapeXml } from '../base';
import { authorsLine, plainDescription, RELATOR, sortNameOf, subjectOf, type BookRecord } from '../record';
import type { Publication } from './publication';

export function bookMeta({ record, identifier, date, modified, pagesOf }: Publication): string[] {
  const meta: string[] = [
    `<dc:identifier id="id">${escapeXml(identifier)}</dc:identifier>`,
    `<dc:title id="title">${escapeXml(record.title)}</dc:title>`,
    '<meta refines="#title" property="title-type">main</meta>',
  ];
  if (record.subtitle)
    meta.push(
      `<dc:title id="subtitle">${escapeXml(record.subtitle)}</dc:title>`,
      '<meta refines="#subtitle" property="title-type">subtitle</meta>',
    );
  meta.push(`<dc:language>${escapeXml(record.language)}</dc:language>`);
  record.contributors.forEach((c, i) => {
    const tag = c.role === 'author' ? 'creator' : 'contributor';
    meta.push(
      `<dc:${tag} id="c${i + 1}">${escapeXml(c.name)}</dc:${tag}>`,
      `<meta refines="#c${i + 1}" property="role" scheme="marc:relators">${RELATOR[c.role]}</meta>`,
      `<meta refines="#c${i + 1}" property="file-as">${escapeXml(sortNameOf(c))}</meta>`,
    );
  });
  if (record.imprint) meta.push(`<dc:publisher>${escapeXml(record.imprint)}</dc:publisher>`);
  if (record.description)
    meta.push(`<dc:description>${escapeXml(plainDescription(record.description))}</dc:description>`);
  for (const k of record.keywords) meta.push(`<dc:subject>${escapeXml(k)}</dc:subject>`);
  meta.push(...subjects(record), ...collections(record));
  // Dublin Core has no term for it; the prefix of schema.org is reserved (EPUB 3.3 §D.1.4).
  if (record.editionStatement)
    meta.push(`<meta property="schema:bookEdition">${escapeXml(record.editionStatement)}</meta>`);
  const published = record.published || date.slice(0, 10);
  if (published) meta.push(`<dc:date>${escapeXml(published)}</dc:date>`);
  meta.push(...rights(record));
  if (pagesOf !== null)
    meta.push(`<meta property="pageBreakSource">${pagesOf ? `urn:isbn:${pagesOf}` : 'none'}</meta>`);
  meta.push(`<meta property="dcterms:modified">${moment(date || modified)}</meta>`);
  return meta;
}

/** Codes of Thema with their scheme (EPUB 3.3 §D.3, authority and term). */
const subjects = (record: BookRecord): string[] =>
  record.subjects.flatMap((code, i) => [
    `<dc:subject id="s${i + 1}">${escapeXml(subjectOf(code)?.name ?? code)}</dc:subject>`,
    `<meta refines="#s${i + 1}" property="authority">Thema</meta>`,
    `<meta refines="#s${i + 1}" property="term">${escapeXml(code)}</meta>`,
  ]);

/** The series with the book's place in it, and the collection (EPUB 3.3 §D.3, belongs-to-collection). */
function collections({ series, volume, collection }: BookRecord): string[] {
  const named = (id: string, name: string, place: string): string[] =>
    name === ''
      ? []
      : [
          `<meta property="belongs-to-collection" id="${id}">${escapeXml(name)}</meta>`,
          `<meta refines="#${id}" property="collection-type">series</meta>`,
          ...(place ? [`<meta refines="#${id}" property="group-position">${escapeXml(place)}</meta>`] : []),
        ];
  const place = /^\d+(?:\.\d+)?$/.test(volume) ? volume : '';
  return [...named('series', series, place), ...named('collection', collection, '')];
}

/** Who holds the copyright; nothing where nobody is named. */
export function rights(record: BookRecord): string[] {
  const holder = record.copyrightHolder || authorsLine(record);
  if (!holder) return [];
  return [
    `<dc:rights>${escapeXml(`Copyright ©${record.year ? ` ${record.year}` : ''} ${holder}`)}</dc:rights>`,
  ];
}

/** A moment as the package wants it (EPUB 3.3 §5.5.4.1): to the second, in UTC. */
function moment(iso: string): string {
  const m = /^(\d{4}-\d\d-\d\d)(?:T(\d\d:\d\d:\d\d))?/.exec(iso || UNKNOWN);
  return `${m?.[1] ?? UNKNOWN}T${m?.[2] ?? '00:00:00'}Z`;
}
/** A book that was never kept anywhere has no time of its own, and the clock is not asked: the same book, the same file. */
const UNKNOWN = '2000-01-01';
