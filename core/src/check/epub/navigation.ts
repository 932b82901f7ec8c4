/** Rules of the navigation document (EPUB 3.3 §7). */
import type { XmlElement } from '../../base';
import { percentDecoded } from '../../package';
import type { Rule } from '../rules';
import { linksIn, LISTS, navOf, words } from './navs';
import { at, atAttribute, elementsIn, XHTML, type EpubDocument, type EpubSubject } from './subject';

/** Where every place of the book comes, by document and by element. */
const places = new WeakMap<EpubSubject, (path: string, fragment: string) => number | null>();

function placeIn(s: EpubSubject): (path: string, fragment: string) => number | null {
  let known = places.get(s);
  if (!known) {
    const spine = new Map(s.spine.map((r, i) => [s.byId.get(r.idref)?.path ?? '', i]));
    known = (path, fragment) => {
      const document = spine.get(path);
      if (document === undefined) return null;
      const e = fragment ? s.documentAt.get(path)?.ids.get(fragment)?.[0] : undefined;
      return document + (e ? Math.min(0.999, (e.at + 1) / 100_000_000) : 0);
    };
    places.set(s, known);
  }
  return known;
}

const only = (name: string, what: string): Rule<EpubSubject> => ({
  name: `contents/two-of-${name}`,
  severity: 'blocker',
  profiles: ['EPUB 3.3'],
  source: `EPUB 3.3 §7.4: the ${name} nav at most once`,
  why: 'Which of the two a reader shows is left to chance.',
  remedy: 'Merge them into one list.',
  *look(s) {
    const n = navOf(s);
    for (const { nav } of n?.navs.filter((x) => x.types.includes(name)).slice(1) ?? [])
      if (n) yield { message: `There is a second list of ${what}.`, ...at(n.d, nav) };
  },
});

/** Pages before the text that no contents list, by what the page says it is. */
const UNLISTED =
  /\b(titlepage|halftitlepage|halftitle|copyright-page|dedication|epigraph|cover|toc|imprint|imprimatur|seriespage|frontmatter)\b/;

const isDisplayed = (d: EpubDocument | undefined): boolean =>
  d?.elements.slice(0, 12).some((e) => UNLISTED.test(e.attrs['epub:type'] ?? '')) ?? false;

export const CONTENTS_RULES: Rule<EpubSubject>[] = [
  {
    name: 'contents/none',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §7.4.2: the toc nav is required',
    why: 'Readers can’t find chapters without it, and shops refuse the book.',
    remedy: 'Add the contents; Pagina makes them from the headings.',
    mend: 'navigation',
    *look(s) {
      const n = navOf(s);
      if (n && !n.navs.some((x) => x.types.includes('toc')))
        yield { message: 'The navigation document has no contents.', file: n.d.path };
    },
  },
  {
    name: 'contents/empty',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §7.3: a list has at least one entry',
    why: 'An empty list helps nobody.',
    remedy: 'Add entries, or remove the list.',
    mend: 'navigation',
    *look(s) {
      const n = navOf(s);
      for (const { nav, types } of n?.navs ?? []) {
        const list = LISTS.find((l) => types.includes(l));
        if (!n || !list) continue;
        const has = (e: XmlElement): boolean => e.name === 'li' || elementsIn(e).some(has);
        if (!has(nav))
          yield {
            message: `The list “${list}” has no entry.`,
            ...at(n.d, nav),
            ...(list === 'toc' ? {} : { mend: false as const }),
          };
      }
    },
  },
  only('toc', 'contents'),
  only('page-list', 'pages'),
  only('landmarks', 'landmarks'),
  {
    name: 'contents/dead-target',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §7.3: entries lead to content documents of the book',
    why: 'Shops check every entry, and readers follow them.',
    remedy: 'Link the entry to a place that exists.',
    mend: 'dead-target',
    *look(s) {
      for (const { d, a, to } of linksIn(s, null)) {
        if (!to) continue;
        const what = words(a).slice(0, 60);
        if (!s.names.has(to.path))
          yield {
            message: `“${what}” leads to “${a.attrs.href ?? ''}”, which isn’t in the ebook.`,
            ...atAttribute(d, a, 'href'),
          };
        else if (
          to.fragment &&
          s.documentAt.get(to.path)?.root &&
          !s.documentAt.get(to.path)?.ids.has(percentDecoded(to.fragment))
        )
          yield {
            message: `“${what}” leads to a place that isn’t there: “#${to.fragment}”.`,
            ...atAttribute(d, a, 'href'),
          };
      }
    },
  },
  {
    name: 'contents/leads-away',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §7.3: toc, page-list and landmarks must not lead to remote resources',
    why: 'Readers looking for a chapter end up on a web page.',
    remedy: 'Link the entry to a place in the book, or remove it.',
    *look(s) {
      for (const list of LISTS)
        for (const { d, a, to } of linksIn(s, list))
          if (!to && a.attrs.href !== undefined)
            yield {
              message: `“${words(a).slice(0, 60)}” leads outside the book.`,
              ...atAttribute(d, a, 'href'),
            };
    },
  },
  {
    name: 'contents/not-in-spine',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §7.3: entries resolve to documents of the spine',
    why: 'Some reading systems can’t go there.',
    remedy: 'Put the document into the spine.',
    mend: 'spine',
    *look(s) {
      const inSpine = new Set(s.spine.map((r) => s.byId.get(r.idref)?.path));
      const told = new Set<string>();
      for (const { d, a, to } of linksIn(s, null)) {
        if (!to || !s.names.has(to.path) || inSpine.has(to.path) || told.has(to.path) || to.path === d.path)
          continue;
        told.add(to.path);
        yield {
          message: `“${words(a).slice(0, 60)}” leads to “${to.path}”, which isn’t in the spine.`,
          about: to.path,
          ...atAttribute(d, a, 'href'),
        };
      }
    },
  },
  {
    name: 'contents/landmark-twice',
    severity: 'caution',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §7.4.4: no two landmarks of one kind for one place',
    remedy: 'Remove one of them.',
    *look(s) {
      const seen = new Set<string>();
      for (const { d, a } of linksIn(s, 'landmarks')) {
        const key = `${a.attrs['epub:type'] ?? ''} ${a.attrs.href ?? ''}`;
        if (a.attrs['epub:type'] && seen.has(key))
          yield { message: `The landmark “${a.attrs['epub:type']}” is given twice.`, ...at(d, a) };
        seen.add(key);
      }
    },
  },
  ...(['toc', 'page-list'] as const).map((list): Rule<EpubSubject> => ({
    name: list === 'toc' ? 'contents/order' : 'contents/page-order',
    severity: 'caution',
    profiles: ['EPUB 3.3'],
    source: `EPUB 3.3 §7.4.${list === 'toc' ? 2 : 3}: entries in the order of the spine, and within a document in that of its elements`,
    why: 'Readers who follow the list jump back and forth.',
    remedy: 'Put the entries in the order of the book.',
    *look(s) {
      let last = -1;
      for (const { d, a, to } of linksIn(s, list)) {
        const place = to && placeIn(s)(to.path, percentDecoded(to.fragment));
        if (place === null || place === undefined) continue;
        if (place < last) {
          yield {
            message: `“${words(a).slice(0, 60)}” is listed after something that follows it in the book.`,
            ...at(d, a),
          };
          return;
        }
        last = place;
      }
    },
  })),
  {
    name: 'contents/page-twice',
    severity: 'caution',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §7.4.3; common practice: a page of print begins at one place',
    remedy: 'Remove one of them.',
    *look(s) {
      const seen = new Set<string>();
      for (const { d, a } of linksIn(s, 'page-list')) {
        if (words(a) && seen.has(words(a)))
          yield { message: `Page ${words(a).slice(0, 20)} is listed twice.`, ...at(d, a) };
        seen.add(words(a));
      }
    },
  },
  {
    name: 'contents/hidden-contents',
    severity: 'note',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §7.5: the hidden attribute in navigation documents in the spine',
    remedy: 'Remove “hidden”, or take the page out of the spine.',
    *look(s) {
      const n = navOf(s);
      const inSpine = n && s.spine.some((r) => s.byId.get(r.idref)?.path === n.d.path);
      for (const { nav, types } of n?.navs ?? [])
        if (n && inSpine && types.includes('toc') && nav.attrs.hidden !== undefined)
          yield { message: 'The page of contents is in the spine, but hides its list.', ...at(n.d, nav) };
    },
  },
  {
    name: 'contents/lacks-documents',
    severity: 'note',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §7.4.2: the toc represents the primary navigational hierarchy; common practice',
    why: 'Readers can’t jump there.',
    remedy: 'Add an entry for each chapter.',
    *look(s) {
      const led = new Set([...linksIn(s, 'toc')].map((l) => l.to?.path));
      if (led.size === 0) return;
      const linear = s.spine
        .filter((r) => r.linear)
        .map((r) => s.byId.get(r.idref))
        .filter((i) => i?.type === XHTML && !i.properties.includes('nav'));
      const left = linear.filter(
        (i) =>
          i &&
          !led.has(i.path) &&
          s.documentAt.get(i.path)?.elements.some((e) => /^h[12]$/.test(e.name)) &&
          !isDisplayed(s.documentAt.get(i.path)),
      );
      const [first] = left;
      if (first && left.length > 0)
        yield {
          message: `${left.length === 1 ? 'A document with a heading isn’t' : `${left.length} documents with headings aren’t`} in the contents: “${first.href}”${left.length > 1 ? ' is the first' : ''}.`,
          file: first.path,
        };
    },
  },
];
