/** Rules of documents as a whole (HTML §4.1, §14.2; EPUB 3.3 §6.1). */
import { BROKEN } from './wellformed';
import { descendants, textOf } from '../../base';
import type { Rule } from '../rules';
import { at, atAttribute, isHtml, MATHML_NS, SVG_NS, XHTML, XHTML_NS, type EpubSubject } from './subject';

export const TEXT_RULES: Rule<EpubSubject>[] = [
  {
    name: 'text/root',
    severity: 'blocker',
    source: 'HTML §4.1.1: the root element of an XHTML document is html',
    why: BROKEN,
    remedy: 'Write <html xmlns="http://www.w3.org/1999/xhtml">.',
    *look(s) {
      for (const d of s.documents)
        if (d.root && d.item.type === XHTML && d.root.name !== 'html')
          yield { message: `The document begins with “${d.root.name}” instead of “html”.`, ...at(d, d.root) };
    },
  },
  {
    name: 'text/namespace',
    severity: 'blocker',
    source: 'HTML §14.2; EPUB 3.3 §6.1.2: the namespace http://www.w3.org/1999/xhtml',
    why: 'Without it, reading systems show unformatted text, or nothing.',
    remedy: 'Write xmlns="http://www.w3.org/1999/xhtml" on html.',
    mend: 'namespace',
    *look(s) {
      for (const d of s.documents)
        if (d.root?.name === 'html' && d.item.type === XHTML && d.root.ns !== XHTML_NS)
          yield {
            message: d.root.ns
              ? `The document’s namespace is “${d.root.ns}”.`
              : 'The document names no namespace.',
            ...at(d, d.root),
          };
    },
  },
  {
    name: 'text/svg-root',
    severity: 'blocker',
    source: 'EPUB 3.3 §6.2.2: the root element of an SVG document is svg of its namespace',
    remedy: 'Write <svg xmlns="http://www.w3.org/2000/svg">.',
    *look(s) {
      for (const d of s.documents)
        if (d.root && d.item.type === 'image/svg+xml' && (d.root.name !== 'svg' || d.root.ns !== SVG_NS))
          yield { message: 'The file isn’t an SVG drawing.', ...at(d, d.root) };
    },
  },
  {
    name: 'text/foreign-namespace',
    severity: 'blocker',
    source: 'EPUB 3.3 §6.1.2: XHTML, with MathML, SVG and the extensions listed',
    why: 'Reading systems don’t show it.',
    remedy: 'Remove it, or write it in HTML.',
    *look(s) {
      for (const d of s.documents) {
        if (d.item.type !== XHTML || d.root?.ns !== XHTML_NS) continue;
        const odd = d.elements.find((e) => {
          const within = d.parents.get(e);
          const known =
            [XHTML_NS, SVG_NS, MATHML_NS].includes(e.ns) || /^(http:\/\/www.idpf.org\/2007\/ops)$/.test(e.ns);
          return !known && e.ns !== '' && within && isHtml(within);
        });
        if (odd) yield { message: `“${odd.name}” belongs to the vocabulary “${odd.ns}”.`, ...at(d, odd) };
      }
    },
  },
  {
    name: 'text/nothing-to-read',
    severity: 'caution',
    source: 'common practice: a page of the spine shows something',
    why: 'Readers turn to an empty page.',
    remedy: 'Remove the page, or write what belongs there.',
    *look(s) {
      const inSpine = new Set(s.spine.map((r) => s.byId.get(r.idref)?.path));
      for (const d of s.documents) {
        const body = d.root && d.item.type === XHTML ? descendants(d.root, 'body')[0] : undefined;
        if (!body || !inSpine.has(d.path)) continue;
        const shows = d.elements.some((e) =>
          /^(img|image|svg|math|object|video|audio|iframe|canvas|hr|input|picture|embed)$/.test(e.name),
        );
        if (!shows && textOf(body).trim() === '') yield { message: 'The page is empty.', ...at(d, body) };
      }
    },
  },
  {
    name: 'text/very-long',
    severity: 'note',
    source: 'common practice: several older devices open documents of up to 300 kilobytes',
    why: 'Older devices turn its pages slowly, or don’t open it.',
    remedy: 'Divide it, ideally at a chapter.',
    *look(s) {
      for (const d of s.documents)
        if (d.item.type === XHTML && d.text.length > 300_000)
          yield {
            message: `The document has ${Math.round(d.text.length / 1_000).toLocaleString('en-GB')} kilobytes.`,
            file: d.path,
            line: 1,
            column: 1,
          };
    },
  },
  {
    name: 'text/file-ending',
    severity: 'note',
    source: 'EPUB 3.3 §6.1.2 recommends .xhtml; common practice',
    why: 'A few programs rely on the ending.',
    remedy: 'Rename it to end with .xhtml.',
    *look(s) {
      const odd = s.documents.filter((d) => d.item.type === XHTML && !/\.(x?html?|xml)$/i.test(d.path));
      for (const d of odd) yield { message: `The name “${d.path}” doesn’t end with .xhtml.`, file: d.path };
    },
  },
  {
    name: 'text/base-address',
    severity: 'caution',
    source: 'EPUB 3.3 §6.1.4 (HTML deviations): support for base is not assured',
    why: 'Some reading systems then lose all pictures and links.',
    remedy: 'Remove it, and adjust the addresses.',
    *look(s) {
      for (const d of s.documents) {
        const base = d.elements.find((e) => isHtml(e) && e.name === 'base' && e.attrs.href !== undefined);
        if (base) yield { message: 'The document sets a base address.', ...at(d, base) };
        const by = d.elements.find((e) => e.attrs['xml:base'] !== undefined);
        if (by)
          yield {
            message: 'The document sets a base address.',
            ...atAttribute(d, by, 'xml:base'),
          };
      }
    },
  },
];
