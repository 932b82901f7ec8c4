/** Rules for the navigation and the text (EPUB 3.3 §6, §7). */
import type { XmlElement } from '../base';
import { resolve } from '../package';
import { type EpubSubject } from './epub-subject';
import type { Rule } from './rules';

function* attributesWithLinks(root: XmlElement): Generator<{ el: XmlElement; href: string }> {
  const stack = [root];
  for (let el = stack.pop(); el; el = stack.pop()) {
    for (const name of ['href', 'src', 'xlink:href'])
      if (el.attrs[name] !== undefined) yield { el, href: el.attrs[name] };
    for (const c of el.children) if (typeof c !== 'string') stack.push(c);
  }
}

export const CONTENT_RULES: Rule<EpubSubject>[] = [
  {
    name: 'epub/nav',
    severity: 'blocker',
    source: 'EPUB 3.3 §5.6.2.2, §7: exactly one navigation document with one toc',
    *look({ manifest, nav: { contents: toc }, path, version }) {
      if (!version.startsWith('3')) return;
      const navs = manifest.filter((i) => i.properties.includes('nav'));
      if (navs.length !== 1)
        yield {
          message: `The manifest marks ${navs.length} navigation documents; there must be one.`,
          file: path,
          why: 'Readers need it to find chapters.',
        };
      else if (toc.length === 0)
        yield { message: 'The navigation document has no table of contents.', file: navs[0]?.path };
      for (const e of toc)
        if (!e.label) yield { message: 'A contents entry has no text.', file: navs[0]?.path, line: e.line };
    },
  },
  {
    name: 'epub/link',
    severity: 'blocker',
    source: 'EPUB 3.3 §3.3, §6.1: references must resolve',
    *look({ documents, zip, manifest }) {
      const names = new Set(zip.entries.map((e) => e.name));
      const ids = new Map(documents.map((d) => [d.path, d.ids]));
      const remote = new Set(manifest.filter((i) => i.path === '').map((i) => i.href));
      for (const d of documents) {
        if (!d.root) continue;
        for (const { el, href } of attributesWithLinks(d.root)) {
          const to = resolve(d.path, href);
          if (!to) {
            if (el.name !== 'a' && !remote.has(href) && !href.startsWith('data:'))
              yield {
                message: `“${href}” would be fetched from outside the book.`,
                file: d.path,
                line: el.line,
                column: el.column,
              };
            continue;
          }
          if (!names.has(to.path))
            yield {
              message: `The link to “${href}” is dead: that file isn’t in the book.`,
              file: d.path,
              line: el.line,
              column: el.column,
            };
          else if (to.fragment && ids.has(to.path) && !ids.get(to.path)?.has(to.fragment))
            yield {
              message: `The link to “${href}” is dead: the file has nothing with that id.`,
              file: d.path,
              line: el.line,
              column: el.column,
            };
        }
      }
    },
  },
  {
    name: 'epub/ids-unique',
    severity: 'blocker',
    source: 'XML 1.0 §3.3.1; HTML §3.2.6',
    *look({ documents }) {
      for (const d of documents)
        for (const [id, count] of d.ids)
          if (count > 1) yield { message: `The id “${id}” is used ${count} times.`, file: d.path };
    },
  },
];
