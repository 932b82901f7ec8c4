/** Rules of the spine (EPUB 3.3 §5.7, D.7; OPF 2.0.1 §2.4). */
import type { XmlElement } from '../../base';
import type { Rule } from '../rules';
import { reaches } from './resources';
import {
  at,
  atAttribute,
  elementsIn,
  isOlder,
  NCX,
  tokens,
  XHTML,
  type EpubSubject,
  type XmlPart,
} from './subject';

interface Spine {
  part: XmlPart;
  spine: XmlElement;
  refs: XmlElement[];
}
function spineOf(s: EpubSubject): Spine | null {
  const part = s.packageFile;
  const spine = part?.root && elementsIn(part.root).find((e) => e.name === 'spine');
  return part && spine ? { part, spine, refs: elementsIn(spine).filter((e) => e.name === 'itemref') } : null;
}
const each = (
  of: Omit<Rule<EpubSubject>, 'look'>,
  look: (e: XmlElement, s: EpubSubject) => string | null,
): Rule<EpubSubject> => ({
  ...of,
  *look(s) {
    const p = spineOf(s);
    for (const e of p?.refs ?? []) {
      const message = look(e, s);
      if (p && message) yield { message, ...at(p.part, e) };
    }
  },
});

/** Properties of itemref, of each group one at most (EPUB 3.3 D.7, §8.2, §8.3). */
const GROUPS = [
  [
    'page-spread-left',
    'page-spread-right',
    'rendition:page-spread-center',
    'rendition:page-spread-left',
    'rendition:page-spread-right',
  ],
  ['rendition:layout-pre-paginated', 'rendition:layout-reflowable'],
  ['rendition:orientation-auto', 'rendition:orientation-landscape', 'rendition:orientation-portrait'],
  [
    'rendition:spread-auto',
    'rendition:spread-both',
    'rendition:spread-landscape',
    'rendition:spread-none',
    'rendition:spread-portrait',
  ],
  [
    'rendition:flow-auto',
    'rendition:flow-paginated',
    'rendition:flow-scrolled-continuous',
    'rendition:flow-scrolled-doc',
  ],
];
const KNOWN = new Set([...GROUPS.flat(), 'rendition:align-x-center']);

const isPage =
  (s: EpubSubject) =>
  (type: string): boolean =>
    type === XHTML ||
    (!isOlder(s) && type === 'image/svg+xml') ||
    (isOlder(s) && (type === 'application/x-dtbook+xml' || type === 'text/x-oeb1-document'));

export const SPINE_RULES: Rule<EpubSubject>[] = [
  {
    name: 'spine/empty',
    severity: 'blocker',
    source: 'EPUB 3.3 §5.7.1: at least one itemref',
    why: 'There is nothing to read.',
    remedy: 'Put the documents into the spine, in their order.',
    mend: 'spine',
    *look(s) {
      const p = spineOf(s);
      if (p && p.refs.length === 0) yield { message: 'The spine is empty.', ...at(p.part, p.spine) };
    },
  },
  each(
    {
      name: 'spine/no-reference',
      severity: 'blocker',
      source: 'EPUB 3.3 §5.7.2: itemref needs an idref',
      remedy: 'Name the document, or remove the line.',
      mend: 'spine-gone',
    },
    (e) => (e.attrs.idref ? null : 'A line of the spine names no document.'),
  ),
  each(
    {
      name: 'spine/reference-gone',
      severity: 'blocker',
      source: 'EPUB 3.3 §5.7.2: idref is the id of an item of the manifest',
      why: 'Some reading systems refuse such a book.',
      remedy: 'Use an item that exists, or remove the line.',
      mend: 'spine-gone',
    },
    (e, s) =>
      e.attrs.idref && !s.byId.has(e.attrs.idref)
        ? `The spine names “${e.attrs.idref}”, which isn’t in the manifest.`
        : null,
  ),
  {
    name: 'spine/twice',
    severity: 'blocker',
    source: 'EPUB 3.3 §5.7.2: an item must not be referenced more than once',
    why: 'Links into it could lead to either place.',
    remedy: 'Remove one of the lines.',
    mend: 'spine-gone',
    *look(s) {
      const p = spineOf(s);
      const seen = new Set<string>();
      for (const e of p?.refs ?? []) {
        const id = e.attrs.idref ?? '';
        if (p && id && seen.has(id)) yield { message: `“${id}” is in the spine twice.`, ...at(p.part, e) };
        seen.add(id);
      }
    },
  },
  each(
    {
      name: 'spine/no-page',
      severity: 'blocker',
      source: 'EPUB 3.3 §5.7.2: an EPUB content document, or a foreign one with a fallback to such',
      why: 'Readers can’t turn to it.',
      remedy: 'Take it out of the spine, or give it a fallback that is a page.',
    },
    (e, s) => {
      const item = s.byId.get(e.attrs.idref ?? '');
      return item && !reaches(item, s, isPage(s))
        ? `“${item.href}”, which is “${item.type}”, is in the spine but isn’t a page.`
        : null;
    },
  ),
  {
    name: 'spine/nothing-in-line',
    severity: 'blocker',
    source: 'EPUB 3.3 §5.7.2: at least one itemref is linear',
    why: 'Readers who turn pages never see one.',
    remedy: 'Make the main documents part of the reading order.',
    mend: 'linear',
    *look(s) {
      const p = spineOf(s);
      if (p && p.refs.length > 0 && p.refs.every((e) => e.attrs.linear === 'no'))
        yield { message: 'No document of the spine is part of the reading order.', ...at(p.part, p.spine) };
    },
  },
  each(
    {
      name: 'spine/linear-value',
      severity: 'blocker',
      source: 'EPUB 3.3 §5.7.2: linear is yes or no',
      remedy: 'Write “yes” or “no”.',
      mend: 'linear',
    },
    (e) =>
      e.attrs.linear !== undefined && !/^(yes|no)$/.test(e.attrs.linear)
        ? `“${e.attrs.linear}” is neither yes nor no.`
        : null,
  ),
  {
    name: 'spine/out-of-reach',
    severity: 'caution',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §5.7.2: non-linear documents must be reachable by links',
    why: 'Nobody will find it.',
    remedy: 'Link to it, or make it part of the reading order.',
    *look(s) {
      const p = spineOf(s);
      if (!p || !p.refs.some((e) => e.attrs.linear === 'no')) return;
      const led = new Set(
        s.documents.flatMap((d) =>
          d.references.flatMap((r) => (r.to && r.to.path !== d.path && r.sort === 'link' ? [r.to.path] : [])),
        ),
      );
      for (const e of p.refs) {
        const item = s.byId.get(e.attrs.idref ?? '');
        if (e.attrs.linear === 'no' && item?.path && !led.has(item.path) && !item.properties.includes('nav'))
          yield {
            message: `“${item.href}” is outside the reading order, and nothing links to it.`,
            ...at(p.part, e),
          };
      }
    },
  },
  {
    name: 'spine/page-missing',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §5.7.1: documents that hyperlinks lead to must be in the spine',
    why: 'Some reading systems don’t follow such a link.',
    remedy: 'Put the document into the spine.',
    mend: 'spine',
    *look(s) {
      const inSpine = new Set(s.spine.map((r) => s.byId.get(r.idref)?.path));
      const told = new Set<string>();
      for (const d of s.documents)
        for (const r of d.references) {
          const path = r.to?.path ?? '';
          const item = s.items.get(path);
          if (
            r.sort !== 'link' ||
            r.element.name === 'link' ||
            r.element.name === 'form' ||
            !item ||
            told.has(path) ||
            inSpine.has(path)
          )
            continue;
          if (item.type !== XHTML || !s.names.has(path)) continue;
          told.add(path);
          yield {
            message: `A link leads to “${item.href}”, which isn’t in the spine.`,
            about: path,
            ...atAttribute(d, r.element, r.attribute),
          };
        }
    },
  },
  {
    name: 'spine/page-left-out',
    severity: 'caution',
    source: 'common practice: pages that are in the manifest alone are never seen',
    why: 'Readers never come to it.',
    remedy: 'Put it into the spine, or remove it.',
    mend: 'spine',
    *look(s) {
      const p = spineOf(s);
      if (!p || p.refs.length === 0) return;
      const inSpine = new Set(s.spine.map((r) => s.byId.get(r.idref)?.path));
      const used = new Set(
        s.documents.flatMap((d) =>
          d.references.flatMap((r) => (r.to && r.to.path !== d.path ? [r.to.path] : [])),
        ),
      );
      const fallbacks = new Set(s.manifest.map((i) => i.fallback));
      for (const i of s.manifest)
        if (
          i.type === XHTML &&
          i.path &&
          s.names.has(i.path) &&
          !inSpine.has(i.path) &&
          !used.has(i.path) &&
          !i.properties.includes('nav') &&
          !fallbacks.has(i.id)
        )
          yield {
            message: `“${i.href}” is in the manifest, but not in the spine.`,
            about: i.path,
            file: s.path,
            line: i.line,
            column: i.column,
          };
    },
  },
  {
    name: 'spine/property-unknown',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 D.7: the properties of itemref',
    remedy: 'Remove it.',
    mend: 'unknown-property',
    *look(s) {
      const p = spineOf(s);
      for (const e of p?.refs ?? []) {
        const odd = tokens(e.attrs.properties).find(
          (x) => !KNOWN.has(x) && (!x.includes(':') || x.startsWith('rendition:')),
        );
        if (p && odd)
          yield {
            message: `“${odd}” is not a property of a document in the spine.`,
            about: odd,
            ...atAttribute(p.part, e, 'properties'),
          };
      }
    },
  },
  {
    name: 'spine/properties-clash',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §8.2.2: values that exclude each other, one of each group',
    remedy: 'Keep one of them.',
    *look(s) {
      const p = spineOf(s);
      for (const e of p?.refs ?? [])
        for (const group of GROUPS) {
          const said = tokens(e.attrs.properties).filter((x) => group.includes(x));
          if (p && new Set(said).size > 1)
            yield {
              message: `“${said.join('” and “')}” contradict each other.`,
              ...atAttribute(p.part, e, 'properties'),
            };
        }
    },
  },
  {
    name: 'spine/direction',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §5.7.1: page-progression-direction is ltr, rtl or default',
    remedy: 'Write “ltr”, “rtl” or “default”.',
    *look(s) {
      const p = spineOf(s);
      const value = p?.spine.attrs['page-progression-direction'];
      if (p && value !== undefined && !/^(ltr|rtl|default)$/.test(value))
        yield {
          message: `“${value}” is not a page direction.`,
          ...atAttribute(p.part, p.spine, 'page-progression-direction'),
        };
    },
  },
  {
    name: 'spine/older-contents',
    severity: 'blocker',
    profiles: ['EPUB 2.0.1'],
    source: 'OPF 2.0.1 §2.4.1: the spine must name an NCX of the manifest',
    why: 'Reading systems of EPUB 2 have no other navigation.',
    remedy: 'Name the NCX in the attribute toc.',
    mend: 'ncx',
    *look(s) {
      const p = spineOf(s);
      if (p && p.spine.attrs.toc === undefined)
        yield { message: 'The spine doesn’t name an NCX.', ...at(p.part, p.spine) };
    },
  },
  {
    name: 'spine/older-contents-gone',
    severity: 'blocker',
    source: 'EPUB 3.3 §5.9.3; OPF 2.0.1 §2.4.1: toc is the id of the NCX',
    remedy: 'Name the id of the NCX, or remove the attribute.',
    mend: 'ncx',
    *look(s) {
      const p = spineOf(s);
      const id = p?.spine.attrs.toc;
      if (p && id !== undefined && s.byId.get(id)?.type !== NCX)
        yield {
          message: `The spine names the NCX “${id}”, which ${s.byId.has(id) ? 'isn’t one' : 'isn’t there'}.`,
          ...atAttribute(p.part, p.spine, 'toc'),
        };
    },
  },
];
