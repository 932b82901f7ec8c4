/** Rules of the metadata (EPUB 3.3 §5.5, Appendix D.3 and D.4; OPF 2.0.1 §2.2). */
import { isbnFault } from '../../record';
import type { Rule } from '../rules';
import { isLanguage, meantTag } from './language';
import { dc, DC_NS, each, metaOf, properties, property, value } from './metas';
import { at, isOlder, type EpubSubject } from './subject';

const DC = new Set(
  'contributor coverage creator date description format identifier language publisher relation rights source subject title type'.split(
    ' ',
  ),
);

const CONVERSION = /^\d{4}(-\d\d(-\d\d(T\d\d:\d\d(:\d\d(\.\d+)?)?(Z|[+-]\d\d:\d\d)?)?)?)?$/;

const lacking = (
  name: 'identifier' | 'title' | 'language',
  section: string,
  remedy: string,
  mend?: string,
): Rule<EpubSubject> => ({
  name: `metadata/no-${name}`,
  severity: 'blocker',
  source: `EPUB 3.3 ${section}: at least one dc:${name}; OPF 2.0.1 §2.2`,
  why: 'Shops refuse a book without it.',
  remedy,
  ...(mend ? { mend } : {}),
  *look(s) {
    const m = metaOf(s);
    if (m && dc(m, name).length === 0)
      yield { message: `The package has no ${name}.`, ...at(m.part, m.metadata) };
  },
});

export const METADATA_RULES: Rule<EpubSubject>[] = [
  lacking('identifier', '§5.5.3.1', 'Add an identifier, such as the ISBN.', 'identifier'),
  lacking('title', '§5.5.3.2', 'Write the title.', 'title'),
  lacking('language', '§5.5.3.3', 'Name the language.', 'language'),
  each(
    {
      name: 'metadata/empty',
      severity: 'blocker',
      source: 'EPUB 3.3 §5.5.2: a value has at least one character that isn’t white space',
      why: 'Shops take it for a forgotten field.',
      remedy: 'Write it, or remove the line.',
      mend: 'empty-metadata',
    },
    (e, _m, s) =>
      value(e) === '' && (e.ns === DC_NS || (property(e) !== '' && !isOlder(s)))
        ? `${e.ns === DC_NS ? `dc:${e.name}` : property(e)} is empty.`
        : null,
  ),
  each(
    {
      name: 'metadata/unknown-element',
      severity: 'blocker',
      source: 'EPUB 3.3 §5.5.1: DCMES elements, meta and link; OPF 2.0.1 §2.2',
      remedy: 'Remove it, or say it with a meta.',
    },
    (e, _m, s) =>
      (e.ns === DC_NS && !DC.has(e.name)) ||
      (e.ns !== DC_NS && !['meta', 'link'].includes(e.name) && !isOlder(s))
        ? `The metadata has no element “${e.name}”.`
        : null,
  ),
  each(
    {
      name: 'metadata/language-tag',
      severity: 'blocker',
      source: 'EPUB 3.3 §5.5.3.3: a well-formed language tag (BCP 47)',
      why: 'Shops put the book on the wrong shelf, and readers hyphenate and read aloud in the wrong language.',
      remedy: 'Write a tag such as “en” or “pt-BR”.',
      mend: 'language-tag',
    },
    (e) =>
      e.ns === DC_NS && e.name === 'language' && value(e) && !isLanguage(value(e))
        ? {
            message: `“${value(e)}” is not a language tag.`,
            ...(meantTag(value(e)) === null ? { mend: false as const } : {}),
          }
        : null,
  ),
  each(
    {
      name: 'metadata/isbn',
      severity: 'blocker',
      source: 'ISBN Users’ Manual §5 (check digit)',
      why: 'Shops look books up by ISBN.',
      remedy: 'Check the number against the one you were assigned.',
    },
    (e) => {
      const isbn =
        e.ns === DC_NS && e.name === 'identifier' ? /^urn:isbn:(.*)$/i.exec(value(e))?.[1] : undefined;
      return isbn !== undefined && isbnFault(isbn) ? `The ISBN ${isbn} is not valid.` : null;
    },
  ),
  each(
    {
      name: 'metadata/uuid',
      severity: 'caution',
      source: 'RFC 4122 §3: the form of urn:uuid',
      remedy: 'Write eight, four, four, four and twelve hexadecimal figures.',
    },
    (e) =>
      e.ns === DC_NS &&
      e.name === 'identifier' &&
      /^urn:uuid:/i.test(value(e)) &&
      !/^urn:uuid:[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i.test(value(e))
        ? `“${value(e).slice(0, 60)}” is not a UUID.`
        : null,
  ),
  {
    name: 'metadata/identifier-twice',
    severity: 'caution',
    source: 'EPUB 3.3 §5.5.3.1: identifiers tell one book from another',
    remedy: 'Remove one of them.',
    *look(s) {
      const m = metaOf(s);
      const seen = new Set<string>();
      for (const e of m ? dc(m, 'identifier') : []) {
        if (m && value(e) && seen.has(value(e)))
          yield { message: `The identifier “${value(e)}” is given twice.`, ...at(m.part, e) };
        seen.add(value(e));
      }
    },
  },
  {
    name: 'metadata/no-modified',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §5.5.6: exactly one dcterms:modified',
    why: 'Reading systems use it to spot a new version.',
    remedy: 'Add the date; Pagina does when it saves a copy.',
    mend: 'modified',
    *look(s) {
      const m = metaOf(s);
      const found = m ? properties(m, 'dcterms:modified').filter((e) => !e.attrs.refines) : [];
      if (m && found.length === 0)
        yield { message: 'The package doesn’t say when it was last changed.', ...at(m.part, m.metadata) };
      for (const e of found.slice(1))
        if (m) yield { message: 'The date of the last change is given twice.', ...at(m.part, e) };
    },
  },
  each(
    {
      name: 'metadata/modified-form',
      severity: 'blocker',
      profiles: ['EPUB 3.3'],
      source: 'EPUB 3.3 §5.5.6: CCYY-MM-DDThh:mm:ssZ',
      remedy: 'Write it as 2026-03-01T00:00:00Z.',
      mend: 'modified',
    },
    (e) =>
      property(e) === 'dcterms:modified' &&
      value(e) &&
      !/^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])T([01]\d|2[0-3]):[0-5]\d:[0-5]\dZ$/.test(value(e))
        ? `The date of the last change, “${value(e)}”, is not of the form 2026-03-01T00:00:00Z.`
        : null,
  ),
  {
    name: 'metadata/date-twice',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §5.5.4: not more than one dc:date',
    remedy: 'Keep the date of publication alone.',
    *look(s) {
      const m = metaOf(s);
      for (const e of m ? dc(m, 'date').slice(1) : [])
        if (m) yield { message: 'A second date is given.', ...at(m.part, e) };
    },
  },
  each(
    {
      name: 'metadata/date-form',
      severity: 'caution',
      source: 'EPUB 3.3 §5.5.4 and OPF 2.0.1 §2.2.7: dates by W3CDTF (ISO 8601)',
      why: 'Shops sort by it.',
      remedy: 'Write it as 2026, 2026-03 or 2026-03-01.',
    },
    (e) =>
      e.ns === DC_NS && e.name === 'date' && value(e) && !CONVERSION.test(value(e))
        ? `“${value(e)}” is not a date of the form 2026-03-01.`
        : null,
  ),
  each(
    {
      name: 'metadata/older-attribute',
      severity: 'blocker',
      profiles: ['EPUB 3.3'],
      source:
        'EPUB 3.3 §5.5.3, §5.5.4: attributes of DCMES elements; opf: attributes were those of OPF 2.0.1',
      why: 'Shops that ask for EPUB 3 refuse it.',
      remedy: 'Use a meta element that refines the line.',
      mend: 'older-attribute',
    },
    (e) => {
      const older = e.ns === DC_NS ? Object.keys(e.attrs).find((a) => /^opf:/.test(a)) : undefined;
      return older ? [`“${older}” belongs to EPUB 2.`, older] : null;
    },
  ),
  each(
    {
      name: 'metadata/newer-property',
      severity: 'blocker',
      profiles: ['EPUB 2.0.1'],
      source: 'OPF 2.0.1 §2.2: meta has name and content',
      why: 'Shops that ask for EPUB 2 refuse it.',
      remedy: 'Remove it, or write it with name and content.',
    },
    (e) =>
      e.name === 'meta' && e.attrs.property !== undefined ? ['EPUB 2 has no properties.', 'property'] : null,
  ),
  each(
    {
      name: 'metadata/meta-parts',
      severity: 'blocker',
      profiles: ['EPUB 2.0.1'],
      source: 'OPF 2.0.1 §2.2: meta has name and content',
      remedy: 'Fill in both, or remove the line.',
    },
    (e) =>
      e.name === 'meta' &&
      e.attrs.property === undefined &&
      (e.attrs.name === undefined || e.attrs.content === undefined)
        ? 'A meta lacks its name or its content.'
        : null,
  ),
  each(
    {
      name: 'metadata/cover-gone',
      severity: 'caution',
      source: 'common practice: the older way of naming the cover, by the id of its item',
      why: 'Some shops and devices show no cover.',
      remedy: 'Name the id of the cover’s picture in the manifest.',
      mend: 'cover',
    },
    (e, _m, s) => {
      const id = e.name === 'meta' && e.attrs.name === 'cover' ? e.attrs.content : undefined;
      const item = id === undefined ? undefined : s.byId.get(id);
      return id !== undefined && !item?.type.startsWith('image/')
        ? [item ? `The cover “${id}” is no picture.` : `The cover “${id}” isn’t in the manifest.`, 'content']
        : null;
    },
  ),
];
