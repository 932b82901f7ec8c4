/** Mends of the contents, the NCX and the guide. */
import { escapeXml } from '../../base';
import {
  addItem,
  attributeEdit,
  childNamed,
  contentsFromHeadings,
  elementsNamed,
  entriesOf,
  lineWithin,
  packageSource,
  setProperties,
  textWithin,
  unescapeXml,
  valueOf,
  without,
  writeList,
  type Draft,
  type WantedEntry,
} from '../../emend';
import { reference } from '../../package';
import { elsewhere } from '../epub/items';
import { NCX, XHTML } from '../epub/subject';
import { atElements, isElement, valueFor, type Mend } from './mend';
import { gone, removed } from './places';

/** Entries of a list of the navigation, each perhaps other or left out. */
function rewriteList(
  d: Draft,
  list: 'contents' | 'landmarks' | 'pages',
  change: (e: WantedEntry) => WantedEntry | null,
): void {
  const entries = entriesOf(d, list);
  const wanted = without(entries, (e) => change(e) === null).map((e) => ({
    ...e,
    ...change(e),
    depth: e.depth,
  }));
  if (JSON.stringify(wanted) !== JSON.stringify(entries)) writeList(d, list, wanted);
}

/** The contents as an NCX (ANSI/NISO Z39.86-2005 §8.4). */
function navMap(
  entries: readonly { label: string; path: string; fragment: string; depth: number }[],
  from: string,
): string {
  let out = '<navMap>';
  let depth = -1;
  const numbers = new Map<string, number>();
  for (const [n, e] of entries.entries()) {
    const at = Math.min(e.depth, depth + 1);
    for (; depth >= at; depth--) out += '</navPoint>';
    depth = at;
    const src = reference(from, { path: e.path, fragment: e.fragment });
    const order = numbers.get(src) ?? numbers.size + 1;
    numbers.set(src, order);
    out += `\n<navPoint id="navPoint-${n + 1}" playOrder="${order}"><navLabel><text>${escapeXml(e.label)}</text></navLabel><content src="${escapeXml(src)}"/>`;
  }
  for (; depth >= 0; depth--) out += '</navPoint>';
  return `${out}\n</navMap>`;
}

export const NAVIGATION_MENDS: Record<string, Mend> = {
  navigation: {
    label: 'Make the contents',
    apply({ d, s }) {
      const there = s.manifest.find((i) => i.properties.includes('nav'));
      const marked =
        there ??
        s.manifest.find(
          (i) =>
            i.type === XHTML &&
            s.documentAt
              .get(i.path)
              ?.elements.some(
                (e) => e.name === 'nav' && (e.attrs['epub:type'] ?? '').split(/\s+/).includes('toc'),
              ),
        );
      if (!there && marked) return setProperties(d, marked.path, { nav: true });
      if (!there) {
        const folder = d.package.path.slice(0, d.package.path.lastIndexOf('/') + 1);
        let path = `${folder}contents.xhtml`;
        for (let n = 2; d.now.parts.has(path); n++) path = `${folder}contents-${n}.xhtml`;
        const tag = s.metadata.find((m) => m.name === 'language')?.value ?? '';
        const lang = tag ? ` lang="${escapeXml(tag)}" xml:lang="${escapeXml(tag)}"` : '';
        d.add(path, {
          text: `<?xml version="1.0" encoding="utf-8"?>\n<!DOCTYPE html>\n<html xmlns="http://www.w3.org/1999/xhtml" xmlns:epub="http://www.idpf.org/2007/ops"${lang}>\n<head>\n<title>Contents</title>\n</head>\n<body>\n<nav epub:type="toc" role="doc-toc">\n<h1>Contents</h1>\n<ol>\n</ol>\n</nav>\n</body>\n</html>\n`,
        });
        addItem(d, {
          href: reference(d.package.path, { path }),
          type: XHTML,
          properties: 'nav',
          wanted: 'contents',
        });
      }
      const older = s.older.contents.filter((e) => e.path && s.names.has(e.path));
      if (older.length > 0) {
        const fault = writeList(
          d,
          'contents',
          older.map((e) => ({
            from: null,
            label: e.label,
            path: e.path,
            fragment: e.fragment,
            depth: e.depth,
          })),
        );
        if (!fault) return;
      }
      const made = contentsFromHeadings(d.now, 2);
      if (made.ok) return d.follow(made.value.changes);
      // No heading: a line for each document.
      const pages = s.spine
        .flatMap((r) => s.byId.get(r.idref) ?? [])
        .filter((i) => i.type === XHTML && i !== there);
      const label = (path: string): string => {
        const title = elementsNamed(d.elements(path), 'title')[0];
        return (title && textWithin(d.text(path), title)) || (path.split('/').at(-1) ?? path);
      };
      writeList(
        d,
        'contents',
        pages.map((i) => ({ from: null, label: label(i.path), path: i.path, fragment: '', depth: 0 })),
      );
    },
  },
  'dead-target': {
    label: 'Repair links of entries',
    apply(m) {
      const { d, s } = m;
      // The NCX of the current form says what the contents say.
      if (
        m.findings.some((f) => f.rule === 'ncx/dead-target') &&
        s.nav.contents.length > 0 &&
        !m.findings.some((f) => f.rule === 'contents/dead-target')
      )
        return NAVIGATION_MENDS.ncx?.apply(m);
      const ids = (path: string): Set<string> =>
        new Set(d.elements(path).map((e) => unescapeXml(valueOf(e, 'id') ?? '')));
      for (const list of ['contents', 'landmarks', 'pages'] as const)
        rewriteList(d, list, (e) => {
          if (!e.path) return e;
          if (s.names.has(e.path))
            return e.fragment && !ids(e.path).has(e.fragment) ? { ...e, fragment: '' } : e;
          const other = elsewhere(s.names, e.path);
          return other === null
            ? null
            : { ...e, path: other, fragment: ids(other).has(e.fragment) ? e.fragment : '' };
        });
    },
  },
  ncx: {
    label: 'Make the NCX from the contents',
    apply({ d, s }) {
      const own = s.manifest.find((i) => i.type === NCX && i.path && d.now.parts.has(i.path));
      const entries = (s.nav.contents.length > 0 ? s.nav.contents : s.older.contents).filter(
        (e) => e.path && d.now.parts.has(e.path),
      );
      const folder = d.package.path.slice(0, d.package.path.lastIndexOf('/') + 1);
      let path = own?.path ?? `${folder}toc.ncx`;
      for (let n = 2; !own && d.now.parts.has(path); n++) path = `${folder}toc-${n}.ncx`;
      const listed =
        entries.length > 0
          ? entries
          : s.spine.flatMap((r) => {
              const x = s.documentAt.get(s.byId.get(r.idref)?.path ?? '');
              const title = x && elementsNamed(d.elements(x.path), 'title')[0];
              const label = x && title ? textWithin(d.text(x.path), title) : '';
              return x && label ? [{ label, path: x.path, fragment: '', depth: 0 }] : [];
            });
      if (listed.length === 0) return;
      const map = own ? elementsNamed(d.elements(path), 'navMap')[0] : undefined;
      if (own && map) d.edit(path, [{ from: map.from, to: map.to, with: navMap(listed, path) }]);
      else {
        const title = escapeXml(s.metadata.find((x) => x.name === 'title')?.value ?? '');
        const text = `<?xml version="1.0" encoding="utf-8"?>\n<ncx xmlns="http://www.daisy.org/z3986/2005/ncx/" version="2005-1">\n<head>\n<meta name="dtb:uid" content="${escapeXml(s.uniqueIdentifier)}"/>\n</head>\n<docTitle><text>${title}</text></docTitle>\n${navMap(listed, path)}\n</ncx>\n`;
        if (own) d.replace(path, { text });
        else d.add(path, { text });
      }
      const id =
        own?.id ?? addItem(d, { href: reference(d.package.path, { path }), type: NCX, wanted: 'ncx' });
      const p = packageSource(d);
      if (p.spine && valueOf(p.spine, 'toc') !== id)
        d.edit(p.path, attributeEdit(p.text, p.spine, 'toc', id));
    },
  },
  'ncx-version': {
    label: 'Correct the version of the NCX',
    apply: atElements((e, text) => attributeEdit(text, e, 'version', '2005-1')),
  },
  'ncx-title': {
    label: 'Give the NCX the title',
    apply({ d, s }) {
      const path = s.manifest.find((i) => i.type === NCX)?.path ?? '';
      const title = s.metadata.find((m) => m.name === 'title')?.value ?? '';
      const [root] = d.elements(path);
      if (!root || !title) return;
      const old = elementsNamed(d.elements(path), 'docTitle')[0];
      const written = `<docTitle><text>${escapeXml(title)}</text></docTitle>`;
      const head = childNamed(root, 'head');
      d.edit(path, [
        old
          ? { from: old.from, to: old.to, with: written }
          : { from: head?.to ?? root.inner.from, to: head?.to ?? root.inner.from, with: `\n${written}` },
      ]);
    },
  },
  'ncx-identifier': {
    label: 'Give the NCX the identifier of the package',
    apply({ d, s }) {
      const path = s.manifest.find((i) => i.type === NCX)?.path ?? '';
      const meta = d.elements(path).find((e) => isElement(e, 'meta') && valueOf(e, 'name') === 'dtb:uid');
      if (meta) return d.edit(path, attributeEdit(d.text(path), meta, 'content', s.uniqueIdentifier));
      const head = elementsNamed(d.elements(path), 'head')[0];
      if (head)
        d.edit(path, [
          lineWithin(d.text(path), head, `<meta name="dtb:uid" content="${escapeXml(s.uniqueIdentifier)}"/>`),
        ]);
    },
  },
  'play-order': {
    label: 'Renumber the NCX',
    apply({ d, s }) {
      const path = s.manifest.find((i) => i.type === NCX)?.path ?? '';
      const text = d.text(path);
      const numbers = new Map<string, number>();
      d.edit(
        path,
        d.elements(path).flatMap((e) => {
          if (!isElement(e, 'navPoint') && !isElement(e, 'pageTarget')) return [];
          const src = valueOf(childNamed(e, 'content') ?? e, 'src') ?? '';
          const number = numbers.get(src) ?? numbers.size + 1;
          numbers.set(src, number);
          return attributeEdit(text, e, 'playOrder', String(number));
        }),
      );
    },
  },
  'ncx-ids': {
    label: 'Give NCX entries an id',
    apply: atElements((e, text, { d }, path) => {
      const taken = new Set(d.elements(path).map((x) => valueOf(x, 'id')));
      let n = e.index;
      while (taken.has(`entry-${n}`)) n += 10_000;
      return attributeEdit(text, e, 'id', `entry-${n}`);
    }),
  },
  'page-kind': {
    label: 'Correct the page type',
    apply: atElements((e, text) => attributeEdit(text, e, 'type', 'normal')),
  },
  'guide-gone': {
    label: 'Remove dead lines of the guide',
    apply(m) {
      removed(m);
      const { path } = m.d.package;
      const guide = elementsNamed(m.d.elements(path), 'guide')[0];
      if (guide && guide.children.length === 0) m.d.edit(path, gone(guide, m.d.text(path)));
    },
  },
  'guide-kind': {
    label: 'Begin the type with “other.”',
    apply: atElements((_e, text, _m, _path, a) => (a ? [valueFor(text, a, `other.${a.value}`)] : [])),
  },
};
