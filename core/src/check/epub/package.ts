/** Rules of the package document as a whole (EPUB 3.3 §5.3, §5.4, §5.8, D.1; OPF 2.0.1 §2). */
import type { XmlElement } from '../../base';
import type { Rule } from '../rules';
import { isLanguage } from './language';
import { at, atAttribute, elementsIn, tokens, type EpubSubject } from './subject';

export const OPF_NS = 'http://www.idpf.org/2007/opf';
const XML_LANG = 'xml:lang';

/** Elements that `package` holds, in the order in which they come (EPUB 3.3 §5.4, OPF 2.0.1 §2.0). */
const ORDER = ['metadata', 'manifest', 'spine', 'tours', 'guide', 'bindings', 'collection'];
const REQUIRED = ['metadata', 'manifest', 'spine'];

/** Attributes of the elements of a package document, beside those of a namespace (EPUB 3.3 §5.3 to §5.8). */
const ATTRIBUTES: Record<string, string> = {
  package: 'version unique-identifier prefix dir id',
  metadata: 'id',
  manifest: 'id',
  spine: 'id toc page-progression-direction page-map',
  item: 'id href media-type fallback properties media-overlay fallback-style required-namespace required-modules',
  itemref: 'id idref linear properties',
  meta: 'id property refines scheme dir name content',
  link: 'id href rel hreflang media-type properties refines',
  collection: 'id role dir',
  guide: 'id',
  reference: 'id type title href',
  bindings: '',
  mediaType: 'media-type handler',
};
/** Prefixes that need no declaration (EPUB 3.3 D.1.6). */
export const RESERVED: Record<string, string> = {
  a11y: 'http://www.idpf.org/epub/vocab/package/a11y/#',
  dcterms: 'http://purl.org/dc/terms/',
  marc: 'http://id.loc.gov/vocabulary/',
  media: 'http://www.idpf.org/epub/vocab/overlays/#',
  onix: 'http://www.editeur.org/ONIX/book/codelists/current.html#',
  rendition: 'http://www.idpf.org/vocab/rendition/#',
  schema: 'http://schema.org/',
  xsd: 'http://www.w3.org/2001/XMLSchema#',
  msv: 'http://www.idpf.org/epub/vocab/structure/magazine/#',
  prism: 'http://www.prismstandard.org/specifications/3.0/PRISM_CV_Spec_3.0.htm#',
};
/** Vocabularies that must not be given a prefix (EPUB 3.3 D.1.4). */
const DEFAULT_VOCABULARIES = new Set([
  'http://idpf.org/epub/vocab/package/meta/#',
  'http://idpf.org/epub/vocab/package/link/#',
  'http://idpf.org/epub/vocab/package/item/#',
  'http://idpf.org/epub/vocab/package/itemref/#',
]);

const PAIR = /^(?:[\w.-]+:\s+\S+)(?:\s+[\w.-]+:\s+\S+)*$/;
export const prefixesIn = (value: string | undefined): [prefix: string, uri: string][] =>
  [...(value ?? '').matchAll(/([\w.-]+):\s+(\S+)/g)].map((m) => [m[1] ?? '', m[2] ?? '']);
/** Prefixes that are known in the package document. */
export const declaredPrefixes = (s: EpubSubject): Set<string> =>
  new Set([...Object.keys(RESERVED), ...prefixesIn(s.packageFile?.root?.attrs.prefix).map(([p]) => p)]);

const ofPackage = (
  s: EpubSubject,
): { part: NonNullable<EpubSubject['packageFile']>; root: XmlElement } | null =>
  s.packageFile?.root ? { part: s.packageFile, root: s.packageFile.root } : null;

export const PACKAGE_RULES: Rule<EpubSubject>[] = [
  {
    name: 'package/root',
    severity: 'blocker',
    source: 'EPUB 3.3 §5.4: the root element is package, in the namespace http://www.idpf.org/2007/opf',
    why: 'Reading systems don’t recognise the package without it.',
    remedy: 'Write <package xmlns="http://www.idpf.org/2007/opf" …>.',
    *look(s) {
      const p = ofPackage(s);
      if (p && (p.root.name !== 'package' || p.root.ns !== OPF_NS))
        yield {
          message: `The package document begins with “${p.root.name}”${p.root.name === 'package' ? ' of another namespace' : ''}.`,
          ...at(p.part, p.root),
        };
    },
  },
  {
    name: 'package/version',
    severity: 'blocker',
    source: 'EPUB 3.3 §5.4: version must be 3.0; OPF 2.0.1 §2.0: 2.0',
    why: 'Reading systems decide by it how to read the book.',
    remedy: 'Write version="3.0", or "2.0" for the older form.',
    *look(s) {
      const p = ofPackage(s);
      if (p && p.root.attrs.version !== '3.0' && p.root.attrs.version !== '2.0')
        yield {
          message:
            p.root.attrs.version === undefined
              ? 'The package names no version.'
              : `The package is of version “${p.root.attrs.version}”.`,
          ...at(p.part, p.root),
        };
    },
  },
  {
    name: 'package/identifier-named',
    severity: 'blocker',
    source: 'EPUB 3.3 §5.4: unique-identifier is required',
    why: 'Shops use it to tell one book from another.',
    remedy: 'Name the id of the identifier of the book.',
    mend: 'unique-identifier',
    *look(s) {
      const p = ofPackage(s);
      if (p && !p.root.attrs['unique-identifier'])
        yield { message: 'The package doesn’t name its unique identifier.', ...at(p.part, p.root) };
    },
  },
  {
    name: 'package/identifier-there',
    severity: 'blocker',
    source: 'EPUB 3.3 §5.4: unique-identifier references a dc:identifier',
    why: 'Shops use it to tell one book from another.',
    remedy: 'Name the id of the identifier of the book.',
    mend: 'unique-identifier',
    *look(s) {
      const p = ofPackage(s);
      const id = p?.root.attrs['unique-identifier'];
      if (!p || !id) return;
      const target = p.part.ids.get(id)?.[0];
      if (target?.name !== 'identifier')
        yield {
          message: target
            ? `The unique identifier “${id}” isn’t an identifier but “${target.name}”.`
            : `The unique identifier “${id}” isn’t there.`,
          ...atAttribute(p.part, p.root, 'unique-identifier'),
        };
    },
  },
  {
    name: 'package/lacks',
    severity: 'blocker',
    source: 'EPUB 3.3 §5.4: metadata, manifest and spine, one of each',
    why: 'No reading system can open a package without it.',
    remedy: 'Add it.',
    *look(s) {
      const p = ofPackage(s);
      for (const name of p?.root.name === 'package' ? REQUIRED : [])
        if (p && !elementsIn(p.root).some((e) => e.name === name))
          yield { message: `The package has no ${name}.`, ...at(p.part, p.root) };
    },
  },
  {
    name: 'package/twice',
    severity: 'blocker',
    source: 'EPUB 3.3 §5.4: metadata, manifest, spine, guide and bindings at most once',
    remedy: 'Merge them.',
    *look(s) {
      const p = ofPackage(s);
      const seen = new Set<string>();
      for (const e of p ? elementsIn(p.root) : []) {
        if (p && seen.has(e.name) && e.name !== 'collection')
          yield { message: `The package has “${e.name}” twice.`, ...at(p.part, e) };
        seen.add(e.name);
      }
    },
  },
  {
    name: 'package/order',
    severity: 'blocker',
    source: 'EPUB 3.3 §5.4: content model of package, in this order',
    remedy: 'Put metadata first, then manifest, spine, guide.',
    mend: 'package-order',
    *look(s) {
      const p = ofPackage(s);
      let last = -1;
      for (const e of p ? elementsIn(p.root) : []) {
        const place = ORDER.indexOf(e.name);
        if (p && place >= 0 && place < last)
          yield { message: `“${e.name}” comes after “${ORDER[last] ?? ''}”.`, ...at(p.part, e) };
        last = Math.max(last, place);
      }
    },
  },
  {
    name: 'package/foreign-element',
    severity: 'blocker',
    source: 'EPUB 3.3 §5.4, §5.6.1, §5.7.1: content models of package, manifest and spine',
    remedy: 'Remove it.',
    *look(s) {
      const p = ofPackage(s);
      if (!p) return;
      const allowed: Record<string, string[]> = {
        package: ORDER,
        manifest: ['item'],
        spine: ['itemref'],
        guide: ['reference'],
      };
      for (const e of p.part.elements) {
        const within = p.part.parents.get(e);
        const list = within && within.ns === OPF_NS ? allowed[within.name] : undefined;
        if (list && within && !list.includes(e.name))
          yield { message: `“${e.name}” isn’t allowed in ${within.name}.`, ...at(p.part, e) };
      }
    },
  },
  {
    name: 'package/foreign-attribute',
    severity: 'blocker',
    source: 'EPUB 3.3 §5.3 to §5.8: attributes of the elements of a package document',
    remedy: 'Remove it.',
    mend: 'unknown-attribute',
    *look(s) {
      const p = ofPackage(s);
      for (const e of p?.part.elements ?? []) {
        const known = e.ns === OPF_NS ? ATTRIBUTES[e.name] : undefined;
        if (known === undefined || !p) continue;
        for (const name of Object.keys(e.attrs))
          if (!name.includes(':') && name !== 'xmlns' && !known.split(' ').includes(name))
            yield { message: `“${e.name}” has no attribute “${name}”.`, ...atAttribute(p.part, e, name) };
      }
    },
  },
  {
    name: 'package/ids',
    severity: 'blocker',
    source: 'EPUB 3.3 §5.3.3: an id is unique within the document',
    why: 'References to it could lead to either.',
    remedy: 'Give one of them a different id.',
    mend: 'double-id',
    *look(s) {
      const p = ofPackage(s);
      for (const [id, elements] of p?.part.ids ?? [])
        for (const e of elements.slice(1))
          if (p) yield { message: `The id “${id}” is already in use.`, ...atAttribute(p.part, e, 'id') };
    },
  },
  {
    name: 'package/id-form',
    severity: 'blocker',
    source: 'XML 1.0 §3.3.1 (ID is a Name); EPUB 3.3 §5.3.3',
    why: 'Some reading systems refuse such an id, and don’t open the book.',
    remedy: 'Begin it with a letter, and use letters, figures, hyphens and full stops.',
    mend: 'id-form',
    *look(s) {
      const p = ofPackage(s);
      for (const [id, elements] of p?.part.ids ?? [])
        if (p && !/^[\p{L}_][\p{L}\p{N}\p{M}._\u00b7-]*$/u.test(id))
          for (const e of elements)
            yield { message: `“${id}” can’t be an id.`, ...atAttribute(p.part, e, 'id') };
    },
  },
  {
    name: 'package/direction',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §5.3.1: dir is ltr, rtl or auto',
    remedy: 'Write “ltr”, “rtl” or “auto”.',
    *look(s) {
      const p = ofPackage(s);
      for (const e of p?.part.elements ?? [])
        if (p && e.attrs.dir !== undefined && !/^(ltr|rtl|auto)$/.test(e.attrs.dir))
          yield { message: `“${e.attrs.dir}” is not a text direction.`, ...atAttribute(p.part, e, 'dir') };
    },
  },
  {
    name: 'package/language-tag',
    severity: 'blocker',
    source: 'EPUB 3.3 §5.3.7: xml:lang is a well-formed language tag (BCP 47)',
    remedy: 'Write a tag such as “en” or “pt-BR”.',
    *look(s) {
      const p = ofPackage(s);
      for (const e of p?.part.elements ?? []) {
        const tag = e.attrs[XML_LANG];
        if (p && tag && !isLanguage(tag))
          yield { message: `“${tag}” is not a language tag.`, ...atAttribute(p.part, e, XML_LANG) };
      }
    },
  },
  {
    name: 'package/prefix-form',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 D.1.4: pairs of a prefix, a colon, white space and an address',
    remedy: 'Write prefix="name: http://address/ …".',
    *look(s) {
      const p = ofPackage(s);
      const value = p?.root.attrs.prefix;
      if (p && value !== undefined && !PAIR.test(value.trim()))
        yield {
          message: `The prefixes “${value.slice(0, 60)}” aren’t written in pairs.`,
          ...atAttribute(p.part, p.root, 'prefix'),
        };
    },
  },
  {
    name: 'package/prefix-reserved',
    severity: 'caution',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 D.1.6: reserved prefixes should not be overridden',
    why: 'Reading systems take the prefix for what it usually means.',
    remedy: 'Choose another prefix.',
    *look(s) {
      const p = ofPackage(s);
      for (const [prefix, uri] of prefixesIn(p?.root.attrs.prefix))
        if (p && RESERVED[prefix] !== undefined && RESERVED[prefix] !== uri)
          yield {
            message: `The prefix “${prefix}” is reserved for ${RESERVED[prefix]}.`,
            ...atAttribute(p.part, p.root, 'prefix'),
          };
    },
  },
  {
    name: 'package/prefix-default',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 D.1.4: no prefix for a default vocabulary, nor “_”',
    remedy: 'Remove the declaration, and the prefix wherever it is used.',
    *look(s) {
      const p = ofPackage(s);
      for (const [prefix, uri] of prefixesIn(p?.root.attrs.prefix))
        if (p && (prefix === '_' || DEFAULT_VOCABULARIES.has(uri)))
          yield {
            message: `The prefix “${prefix}” must not be declared.`,
            ...atAttribute(p.part, p.root, 'prefix'),
          };
    },
  },
  {
    name: 'package/collection-role',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §5.8.1: a collection names its role',
    remedy: 'Name the role, or remove the collection.',
    *look(s) {
      const p = ofPackage(s);
      for (const e of p?.part.elements ?? [])
        if (p && e.name === 'collection' && e.ns === OPF_NS && tokens(e.attrs.role).length === 0)
          yield { message: 'A collection names no role.', ...at(p.part, e) };
    },
  },
  {
    name: 'package/collection-holds',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §5.8.1: metadata, then collections and links, at least one',
    remedy: 'Add the links that belong to it, or remove the collection.',
    *look(s) {
      const p = ofPackage(s);
      for (const e of p?.part.elements ?? [])
        if (
          p &&
          e.name === 'collection' &&
          e.ns === OPF_NS &&
          !elementsIn(e).some((c) => c.name === 'link' || c.name === 'collection')
        )
          yield { message: 'A collection is empty.', ...at(p.part, e) };
    },
  },
  {
    name: 'package/bindings',
    severity: 'caution',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §5.9, Appendix on deprecated features: bindings',
    why: 'Reading systems no longer know it.',
    remedy: 'Remove it.',
    *look(s) {
      const p = ofPackage(s);
      const found = p && elementsIn(p.root).find((e) => e.name === 'bindings');
      if (p && found) yield { message: '“bindings” is no longer used.', ...at(p.part, found) };
    },
  },
  {
    name: 'package/tours',
    severity: 'note',
    profiles: ['EPUB 2.0.1'],
    source: 'OPF 2.0.1 §2.5: tours are deprecated',
    remedy: 'Remove it.',
    *look(s) {
      const p = ofPackage(s);
      const found = p && elementsIn(p.root).find((e) => e.name === 'tours');
      if (p && found) yield { message: '“tours” is no longer used.', ...at(p.part, found) };
    },
  },
];
