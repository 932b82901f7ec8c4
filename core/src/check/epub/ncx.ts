/** Rules of the NCX (OPF 2.0.1 §2.4.1; ANSI/NISO Z39.86-2005 §8) and of the guide (OPF 2.0.1 §2.6). */
import { descendants, textOf, type XmlElement } from '../../base';
import { resolve } from '../../package';
import type { Rule } from '../rules';
import { at, atAttribute, elementsIn, NCX, type EpubSubject, type XmlPart } from './subject';

const NCX_NS = 'http://www.daisy.org/z3986/2005/ncx/';
/** The NCX that the spine names, or the one there is. */
function ncxOf(s: EpubSubject): (XmlPart & { root: XmlElement }) | null {
  const spine = s.packageFile?.root && elementsIn(s.packageFile.root).find((e) => e.name === 'spine');
  const named = s.byId.get(spine?.attrs.toc ?? '');
  const item = named?.type === NCX ? named : s.manifest.find((i) => i.type === NCX);
  const part = item?.path ? s.xml(item.path) : null;
  return part?.root ? { ...part, root: part.root } : null;
}
const ENTRIES = ['navPoint', 'pageTarget', 'navTarget'];
const entries = (part: XmlPart): XmlElement[] => part.elements.filter((e) => ENTRIES.includes(e.name));
const label = (e: XmlElement): string => {
  const own = elementsIn(e).find((c) => c.name === 'navLabel');
  return own ? textOf(own).replace(/\s+/g, ' ').trim() : '';
};
const source = (e: XmlElement): XmlElement | undefined => elementsIn(e).find((c) => c.name === 'content');
const each = (
  of: Omit<Rule<EpubSubject>, 'look'>,
  look: (e: XmlElement, s: EpubSubject, part: XmlPart) => string | null,
): Rule<EpubSubject> => ({
  ...of,
  *look(s) {
    const ncx = ncxOf(s);
    for (const e of ncx ? entries(ncx) : []) {
      const message = ncx && look(e, s, ncx);
      if (ncx && message) yield { message, ...at(ncx, e) };
    }
  },
});
const references = (s: EpubSubject): { part: XmlPart; all: XmlElement[] } | null => {
  const part = s.packageFile;
  const guide = part?.root && elementsIn(part.root).find((e) => e.name === 'guide');
  return part && guide ? { part, all: elementsIn(guide).filter((e) => e.name === 'reference') } : null;
};
/** Kinds of the guide (OPF 2.0.1 §2.6); others begin with “other.”. */
const KINDS = new Set(
  'cover title-page toc index glossary acknowledgements bibliography colophon copyright-page dedication epigraph foreword loi lot notes preface text'.split(
    ' ',
  ),
);

export const NCX_RULES: Rule<EpubSubject>[] = [
  {
    name: 'ncx/root',
    severity: 'blocker',
    source: 'ANSI/NISO Z39.86-2005 §8.4.1: the element ncx of its own namespace',
    remedy: 'Write <ncx xmlns="http://www.daisy.org/z3986/2005/ncx/" version="2005-1">.',
    *look(s) {
      const ncx = ncxOf(s);
      if (ncx && (ncx.root.name !== 'ncx' || ncx.root.ns !== NCX_NS))
        yield { message: 'The file isn’t an NCX.', ...at(ncx, ncx.root) };
    },
  },
  {
    name: 'ncx/version',
    severity: 'caution',
    source: 'ANSI/NISO Z39.86-2005 §8.4.1.1: version="2005-1"',
    remedy: 'Write version="2005-1".',
    mend: 'ncx-version',
    *look(s) {
      const ncx = ncxOf(s);
      if (ncx?.root.name === 'ncx' && ncx.root.attrs.version !== '2005-1')
        yield { message: `The NCX is of version “${ncx.root.attrs.version ?? ''}”.`, ...at(ncx, ncx.root) };
    },
  },
  {
    name: 'ncx/empty',
    severity: 'blocker',
    source: 'ANSI/NISO Z39.86-2005 §8.4.1.4: navMap with at least one navPoint',
    why: 'Older reading systems have no other contents.',
    remedy: 'Make it again from the contents.',
    mend: 'ncx',
    *look(s) {
      const ncx = ncxOf(s);
      if (ncx && descendants(ncx.root, 'navPoint').length === 0)
        yield { message: 'The NCX has no entry.', ...at(ncx, ncx.root) };
    },
  },
  {
    name: 'ncx/title',
    severity: 'caution',
    source: 'ANSI/NISO Z39.86-2005 §8.4.1.3: docTitle is required',
    remedy: 'Add docTitle with the title.',
    mend: 'ncx-title',
    *look(s) {
      const ncx = ncxOf(s);
      const title = ncx && descendants(ncx.root, 'docTitle')[0];
      if (ncx && (!title || !textOf(title).trim()))
        yield { message: 'The NCX doesn’t give the title.', ...at(ncx, title ?? ncx.root) };
    },
  },
  {
    name: 'ncx/identifier',
    severity: 'blocker',
    source: 'ANSI/NISO Z39.86-2005 §8.4.2 (dtb:uid); OPF 2.0.1 §2.4.1: the NCX and the package name one book',
    why: 'Older reading systems lose bookmarks, and shops refuse it.',
    remedy: 'Write the identifier of the package.',
    mend: 'ncx-identifier',
    *look(s) {
      const ncx = ncxOf(s);
      if (!ncx || !s.uniqueIdentifier) return;
      const uid = descendants(ncx.root, 'meta').find((m) => m.attrs.name === 'dtb:uid');
      const said = uid?.attrs.content?.trim() ?? '';
      if (said !== s.uniqueIdentifier.trim())
        yield {
          message: uid
            ? `The NCX gives the identifier as “${said}”, the package as “${s.uniqueIdentifier}”.`
            : 'The NCX doesn’t give the identifier.',
          ...at(ncx, uid ?? ncx.root),
        };
    },
  },
  each(
    {
      name: 'ncx/order-number',
      severity: 'blocker',
      profiles: ['EPUB 2.0.1'],
      source: 'ANSI/NISO Z39.86-2005 §8.4.1.5: playOrder, a positive whole number, is required',
      remedy: 'Renumber the entries.',
      mend: 'play-order',
    },
    (e) =>
      e.name !== 'navTarget' && !/^[1-9]\d*$/.test(e.attrs.playOrder ?? '')
        ? `“${label(e).slice(0, 60)}” has no playOrder.`
        : null,
  ),
  {
    name: 'ncx/order-clash',
    severity: 'blocker',
    source: 'ANSI/NISO Z39.86-2005 §8.4.1.5: entries for one place have one number, others different ones',
    remedy: 'Renumber the entries.',
    mend: 'play-order',
    *look(s) {
      const ncx = ncxOf(s);
      const orders = new Map<string, string>();
      const numbers = new Map<string, string>();
      for (const e of ncx ? entries(ncx) : []) {
        const order = e.attrs.playOrder;
        const src = source(e)?.attrs.src ?? '';
        if (!ncx || !order) continue;
        if ((orders.get(order) ?? src) !== src)
          yield { message: `Two entries for different places are both number ${order}.`, ...at(ncx, e) };
        else if ((numbers.get(src) ?? order) !== order)
          yield {
            message: `Two entries for one place are numbers ${numbers.get(src) ?? ''} and ${order}.`,
            ...at(ncx, e),
          };
        orders.set(order, src);
        numbers.set(src, order);
      }
    },
  },
  each(
    {
      name: 'ncx/no-words',
      severity: 'blocker',
      source: 'ANSI/NISO Z39.86-2005 §8.4.1.6: navLabel with text',
      remedy: 'Write what the entry is called.',
    },
    (e) => (label(e) === '' ? 'An entry of the NCX has no words.' : null),
  ),
  each(
    {
      name: 'ncx/no-target',
      severity: 'blocker',
      source: 'ANSI/NISO Z39.86-2005 §8.4.1.5: content with src is required',
      remedy: 'Say where the entry leads.',
    },
    (e) => (source(e)?.attrs.src ? null : `“${label(e).slice(0, 60)}” leads nowhere.`),
  ),
  each(
    {
      name: 'ncx/dead-target',
      severity: 'blocker',
      source: 'OPF 2.0.1 §2.4.1: src leads to documents of the book, and to ids of them',
      why: 'Older reading systems fail there, and shops refuse the book.',
      remedy: 'Link the entry to a place that exists.',
      mend: 'dead-target',
    },
    (e, s, part) => {
      const src = source(e)?.attrs.src ?? '';
      const to = src ? resolve(part.path, src.trim()) : null;
      if (!src) return null;
      if (!to || !s.names.has(to.path))
        return `“${label(e).slice(0, 60)}” leads to “${src}”, which isn’t in the ebook.`;
      const d = s.documentAt.get(to.path);
      return to.fragment && d?.root && !d.ids.has(to.fragment)
        ? `“${label(e).slice(0, 60)}” leads to a place that isn’t there: “#${to.fragment}”.`
        : null;
    },
  ),
  {
    name: 'ncx/ids',
    severity: 'blocker',
    source: 'XML 1.0 §3.3.1: an id is unique within the document',
    remedy: 'Give one of them a different id.',
    mend: 'double-id',
    *look(s) {
      const ncx = ncxOf(s);
      for (const [id, all] of ncx?.ids ?? [])
        for (const e of all.slice(1))
          if (ncx) yield { message: `The id “${id}” is already in use.`, ...atAttribute(ncx, e, 'id') };
    },
  },
  each(
    {
      name: 'ncx/no-id',
      severity: 'caution',
      source: 'ANSI/NISO Z39.86-2005 §8.4.1.5: navPoint needs an id',
      remedy: 'Give it one.',
      mend: 'ncx-ids',
    },
    (e) => (e.name === 'navPoint' && !e.attrs.id ? `“${label(e).slice(0, 60)}” has no id.` : null),
  ),
  each(
    {
      name: 'ncx/page-kind',
      severity: 'blocker',
      source: 'ANSI/NISO Z39.86-2005 §8.4.1.8: pageTarget is of type front, normal or special',
      remedy: 'Write type="normal".',
      mend: 'page-kind',
    },
    (e) =>
      e.name === 'pageTarget' && !/^(front|normal|special)$/.test(e.attrs.type ?? '')
        ? `Page “${label(e).slice(0, 20)}” is marked “${e.attrs.type ?? ''}”.`
        : null,
  ),
  {
    name: 'ncx/differs',
    severity: 'caution',
    profiles: ['EPUB 3.3'],
    source:
      'EPUB 3.3 §5.9.3: the NCX is for older reading systems; common practice: both lists lead to the same places',
    why: 'Readers on older devices get different contents.',
    remedy: 'Make the NCX again from the contents.',
    mend: 'ncx',
    *look(s) {
      const ncx = ncxOf(s);
      if (!ncx || s.nav.contents.length === 0) return;
      const places = (list: { path: string; fragment: string }[]): string =>
        list
          .filter((e) => e.path)
          .map((e) => `${e.path}#${e.fragment}`)
          .join('\n');
      if (descendants(ncx.root, 'navPoint').length > 0 && places(s.nav.contents) !== places(s.older.contents))
        yield { message: 'The contents and the NCX don’t lead to the same places.', file: ncx.path };
    },
  },
  {
    name: 'guide/dead-target',
    severity: 'blocker',
    source: 'OPF 2.0.1 §2.6: references lead to documents of the book',
    why: 'Devices that open the book at its guide show an error.',
    remedy: 'Link to a place that exists, or remove it.',
    mend: 'guide-gone',
    *look(s) {
      const g = references(s);
      for (const e of g?.all ?? []) {
        const to = e.attrs.href ? resolve(s.path, e.attrs.href.trim()) : null;
        if (!g || !e.attrs.href) continue;
        if (!to || !s.names.has(to.path))
          yield {
            message: `The guide leads to “${e.attrs.href}”, which isn’t in the ebook.`,
            ...atAttribute(g.part, e, 'href'),
          };
        else if (
          to.fragment &&
          s.documentAt.get(to.path)?.root &&
          !s.documentAt.get(to.path)?.ids.has(to.fragment)
        )
          yield {
            message: `The guide leads to a place that isn’t there: “#${to.fragment}”.`,
            ...atAttribute(g.part, e, 'href'),
          };
      }
    },
  },
  {
    name: 'guide/parts',
    severity: 'blocker',
    source: 'OPF 2.0.1 §2.6: reference needs type and href',
    remedy: 'Fill in both, or remove the line.',
    mend: 'guide-gone',
    *look(s) {
      const g = references(s);
      for (const e of g?.all ?? [])
        if (g && (!e.attrs.type || !e.attrs.href))
          yield { message: 'A line of the guide lacks its type or its address.', ...at(g.part, e) };
    },
  },
  {
    name: 'guide/kind',
    severity: 'caution',
    source: 'OPF 2.0.1 §2.6: the kinds of references; others begin with “other.”',
    remedy: 'Use a standard type, or begin it with “other.”.',
    mend: 'guide-kind',
    *look(s) {
      const g = references(s);
      for (const e of g?.all ?? [])
        if (g && e.attrs.type && !KINDS.has(e.attrs.type) && !e.attrs.type.startsWith('other.'))
          yield {
            message: `“${e.attrs.type}” is not a guide type.`,
            ...atAttribute(g.part, e, 'type'),
          };
    },
  },
  {
    name: 'guide/empty',
    severity: 'blocker',
    source: 'OPF 2.0.1 §2.6: a guide holds at least one reference',
    remedy: 'Remove the guide.',
    mend: 'guide-gone',
    *look(s) {
      const g = references(s);
      const guide = s.packageFile?.root && elementsIn(s.packageFile.root).find((e) => e.name === 'guide');
      if (g && guide && g.all.length === 0) yield { message: 'The guide is empty.', ...at(g.part, guide) };
    },
  },
];
