/** Rules of properties, of what refines another statement, and of links (EPUB 3.3 §5.5.5, §5.5.7, D.3, D.4). */
import type { XmlElement } from '../../base';
import { resolve } from '../../package';
import type { Rule } from '../rules';
import { dc, DC_NS, each, metaOf, properties, property, value } from './metas';
import { declaredPrefixes } from './package';
import { at, tokens, type EpubSubject } from './subject';

/** Properties that need no prefix (EPUB 3.3 D.3). */
const PROPERTIES = new Set(
  'alternate-script authority belongs-to-collection collection-type display-seq dictionary-type file-as group-position identifier-type meta-auth pageBreakSource role source-language source-of target-language term title-type'.split(
    ' ',
  ),
);

const TITLE_TYPES = 'main subtitle short collection edition expanded'.split(' ');

/** Properties that only make sense beside another statement (EPUB 3.3 D.3). */
const REFINING = new Set(
  'alternate-script authority collection-type display-seq file-as group-position identifier-type role source-of term title-type'.split(
    ' ',
  ),
);

/** Values of `rel` that need no prefix (EPUB 3.3 D.4). */
const RELATIONS = new Set(
  'acquire alternate marc21xml-record mods-record onix-record record voicing xml-signature xmp-record'.split(
    ' ',
  ),
);

/** Codes of three letters (MARC Code List for Relators): their form, not each of them. */
const RELATOR = /^[a-z]{3}$/;

export const REFINEMENT_RULES: Rule<EpubSubject>[] = [
  each(
    {
      name: 'metadata/refines-target',
      severity: 'blocker',
      profiles: ['EPUB 3.3'],
      source:
        'EPUB 3.3 §5.3.6: refines is a relative URL that leads to a resource or fragment of the package',
      why: 'What it says is lost.',
      remedy: 'Use the id of what it describes.',
      mend: 'dead-refines',
    },
    (e, m) => {
      const to = e.attrs.refines;
      if (to === undefined) return null;
      if (/^[a-z][\w+.-]*:/i.test(to.trim())) return [`“${to}” must be relative.`, 'refines'];
      const id = to.trim().startsWith('#') ? to.trim().slice(1) : null;
      return id !== null && !m.part.ids.has(id)
        ? [`“${property(e) || e.name}” refines “${to}”, which isn’t there.`, 'refines']
        : null;
    },
  ),
  {
    name: 'metadata/refines-itself',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §5.3.6: refinement chains must not contain cycles',
    remedy: 'Break the chain.',
    *look(s) {
      const m = metaOf(s);
      if (!m) return;
      for (const e of m.all) {
        const seen = new Set<XmlElement>();
        let next: XmlElement | undefined = e;
        while (next && !seen.has(next)) {
          seen.add(next);
          next = next.attrs.refines
            ? m.part.ids.get(next.attrs.refines.trim().replace(/^#/, ''))?.[0]
            : undefined;
        }
        if (next === e) yield { message: 'What refines it leads back to it.', ...at(m.part, e) };
      }
    },
  },
  each(
    {
      name: 'metadata/meta-property',
      severity: 'blocker',
      profiles: ['EPUB 3.3'],
      source: 'EPUB 3.3 §5.5.5: meta has a property of one token',
      remedy: 'Name the property, or write name and content in the older way.',
    },
    (e) =>
      e.name !== 'meta' || (e.attrs.name !== undefined && e.attrs.property === undefined)
        ? null
        : tokens(e.attrs.property).length !== 1
          ? e.attrs.property === undefined
            ? 'A meta names no property.'
            : [`“${e.attrs.property}” is not one property.`, 'property']
          : null,
  ),
  each(
    {
      name: 'metadata/property-unknown',
      severity: 'caution',
      profiles: ['EPUB 3.3'],
      source: 'EPUB 3.3 D.3: the properties that need no prefix',
      why: 'Reading systems don’t know it.',
      remedy: 'Use a property of the standard, or one with a prefix.',
    },
    (e) => {
      const p = property(e);
      return p && !/\s/.test(p) && !p.includes(':') && !PROPERTIES.has(p)
        ? [`“${p}” is not a property of the standard.`, 'property']
        : null;
    },
  ),
  each(
    {
      name: 'metadata/prefix-undeclared',
      severity: 'blocker',
      profiles: ['EPUB 3.3'],
      source: 'EPUB 3.3 D.1.4: a prefix that is used is declared or reserved',
      remedy: 'Declare it in the prefix attribute of package.',
    },
    (e, _m, s) => {
      for (const name of ['property', 'scheme', 'rel', 'properties']) {
        if (e.name !== 'meta' && e.name !== 'link') break;
        for (const t of tokens(e.attrs[name])) {
          const prefix = /^([\w.-]+):/.exec(t)?.[1];
          if (prefix && !/^[\w.-]+:\/\//.test(t) && !declaredPrefixes(s).has(prefix))
            return [`The prefix “${prefix}” isn’t declared.`, name];
        }
      }
      return null;
    },
  ),
  each(
    {
      name: 'metadata/refining-alone',
      severity: 'caution',
      profiles: ['EPUB 3.3'],
      source: 'EPUB 3.3 D.3: properties that extend another statement',
      why: 'It isn’t clear what it describes.',
      remedy: 'Add refines="#…" with the id of what it describes.',
    },
    (e) =>
      REFINING.has(property(e)) && e.attrs.refines === undefined
        ? `“${property(e)}” doesn’t say what it describes.`
        : null,
  ),
  each(
    {
      name: 'metadata/role-code',
      severity: 'caution',
      source: 'EPUB 3.3 D.3.14; MARC Code List for Relators: three letters',
      why: 'Shops show who did what by this code.',
      remedy: 'Write a code such as “aut”, “edt”, “ill” or “trl”.',
    },
    (e) => {
      const coded =
        property(e) === 'role' && (e.attrs.scheme ?? '') === 'marc:relators'
          ? value(e)
          : e.ns === DC_NS
            ? e.attrs['opf:role']
            : undefined;
      return coded !== undefined && !RELATOR.test(coded) && !coded.startsWith('oth.')
        ? `“${coded}” is not a code of a role.`
        : null;
    },
  ),
  each(
    {
      name: 'metadata/display-order',
      severity: 'blocker',
      profiles: ['EPUB 3.3'],
      source: 'EPUB 3.3 D.3.5: display-seq is a positive whole number',
      remedy: 'Write 1, 2, 3.',
    },
    (e) =>
      property(e) === 'display-seq' && !/^[1-9]\d*$/.test(value(e))
        ? `“${value(e)}” is not a place in an order.`
        : null,
  ),
  each(
    {
      name: 'metadata/title-type',
      severity: 'caution',
      profiles: ['EPUB 3.3'],
      source: 'EPUB 3.3 D.3.17: main, subtitle, short, collection, edition, expanded',
      remedy: `Write one of: ${TITLE_TYPES.join(', ')}.`,
    },
    (e) =>
      property(e) === 'title-type' && !e.attrs.scheme && !TITLE_TYPES.includes(value(e))
        ? `“${value(e)}” is not a type of title.`
        : null,
  ),
  each(
    {
      name: 'metadata/series-number',
      severity: 'blocker',
      profiles: ['EPUB 3.3'],
      source: 'EPUB 3.3 D.3.8: group-position is whole numbers, divided by full stops',
      why: 'Shops sort a series by it.',
      remedy: 'Write the bare number.',
    },
    (e) =>
      property(e) === 'group-position' && !/^\d+(\.\d+)*$/.test(value(e))
        ? `“${value(e)}” is not a number in a series.`
        : null,
  ),
  each(
    {
      name: 'metadata/collection-type',
      severity: 'caution',
      profiles: ['EPUB 3.3'],
      source: 'EPUB 3.3 D.3.3: series or set; refines belongs-to-collection',
      remedy: 'Write “series” or “set”.',
    },
    (e) =>
      property(e) === 'collection-type' && !e.attrs.scheme && !/^(series|set)$/.test(value(e))
        ? `“${value(e)}” is neither a series nor a set.`
        : null,
  ),
  each(
    {
      name: 'metadata/source-of',
      severity: 'blocker',
      profiles: ['EPUB 3.3'],
      source: 'EPUB 3.3 D.3.16: the value pagination, refining a dc:source',
      remedy: 'Write “pagination”, refining the source.',
    },
    (e, m) => {
      if (property(e) !== 'source-of') return null;
      const of = m.part.ids.get((e.attrs.refines ?? '').replace(/^#/, ''))?.[0];
      return value(e) !== 'pagination' || (of && of.name !== 'source')
        ? '“source-of” must be “pagination”, refining a source.'
        : null;
    },
  ),
  {
    name: 'metadata/subject-authority',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §5.5.4 (subject): authority and term go together, one of each',
    why: 'A code without its scheme, or a scheme without its code, says nothing.',
    remedy: 'Fill in both.',
    *look(s) {
      const m = metaOf(s);
      if (!m) return;
      for (const e of dc(m, 'subject')) {
        const of = (name: string): number =>
          properties(m, name).filter((x) => e.attrs.id && x.attrs.refines?.trim() === `#${e.attrs.id}`)
            .length;
        const [authority, term] = [of('authority'), of('term')];
        if (authority !== term || authority > 1)
          yield {
            message: `The subject “${value(e)}” has ${authority} schemes and ${term} codes.`,
            ...at(m.part, e),
          };
      }
    },
  },
  each(
    {
      name: 'metadata/link-parts',
      severity: 'blocker',
      profiles: ['EPUB 3.3'],
      source: 'EPUB 3.3 §5.5.7: link needs href and rel',
      remedy: 'Add what is missing, or remove the link.',
    },
    (e) =>
      e.name !== 'link'
        ? null
        : !e.attrs.href
          ? 'A link has no address.'
          : tokens(e.attrs.rel).length === 0
            ? 'A link doesn’t say what it is for.'
            : null,
  ),
  each(
    {
      name: 'metadata/link-relation',
      severity: 'caution',
      profiles: ['EPUB 3.3'],
      source: 'EPUB 3.3 D.4: values of rel that need no prefix',
      remedy: `Use one of: ${[...RELATIONS].join(', ')}; or one with a prefix.`,
    },
    (e) => {
      const odd =
        e.name === 'link'
          ? tokens(e.attrs.rel).find((t) => !t.includes(':') && !RELATIONS.has(t))
          : undefined;
      return odd ? [`“${odd}” is not a relation of the standard.`, 'rel'] : null;
    },
  ),
  each(
    {
      name: 'metadata/link-gone',
      severity: 'blocker',
      profiles: ['EPUB 3.3'],
      source: 'EPUB 3.3 §5.5.7: a linked resource of the container must be there',
      remedy: 'Correct the address, or remove the link.',
    },
    (e, _m, s) => {
      const href = e.name === 'link' ? (e.attrs.href ?? '').trim() : '';
      if (!href || href.startsWith('#') || /^[a-z][\w+.-]*:/i.test(href)) return null;
      const path = resolve(s.path, href)?.path ?? '';
      return s.names.has(path) ? null : [`The linked “${href}” isn’t in the container.`, 'href'];
    },
  ),
  each(
    {
      name: 'metadata/link-type',
      severity: 'blocker',
      profiles: ['EPUB 3.3'],
      source: 'EPUB 3.3 §5.5.7: a linked resource of the container has a media-type',
      remedy: 'Add media-type.',
    },
    (e) =>
      e.name === 'link' &&
      e.attrs.href &&
      !/^([a-z][\w+.-]*:|#)/i.test(e.attrs.href.trim()) &&
      !e.attrs['media-type']
        ? 'A link into the container doesn’t say of what kind its target is.'
        : null,
  ),
];
