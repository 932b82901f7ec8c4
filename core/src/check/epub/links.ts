/** Rules of addresses: links, pictures and whatever else leads from a document elsewhere (EPUB 3.3 §3, §4.2.5; URL Standard). */
import { percentDecoded } from '../../package';
import type { Breach, Rule } from '../rules';
import { elsewhere, otherCase } from './items';
import {
  atAttribute,
  isOlder,
  XHTML,
  type DocumentReference,
  type EpubDocument,
  type EpubSubject,
} from './subject';

const each = (
  of: Omit<Rule<EpubSubject>, 'look'>,
  look: (r: DocumentReference, d: EpubDocument, s: EpubSubject) => string | null | Breach,
): Rule<EpubSubject> => ({
  ...of,
  *look(s): Iterable<Breach> {
    for (const d of s.documents) {
      // The navigation has rules of its own for what it leads to.
      for (const r of d.references) {
        const message = look(r, d, s);
        if (typeof message === 'string') yield { message, ...atAttribute(d, r.element, r.attribute) };
        else if (message) yield { ...message, ...atAttribute(d, r.element, r.attribute) };
      }
    }
  },
});
/** Mended only where one file alone has that name. */
const unlessFound = (s: EpubSubject, path: string, message: string): Breach => ({
  message,
  ...(elsewhere(s.names, path) === null ? { mend: false as const } : {}),
});
const inNavigation = (r: DocumentReference, d: EpubDocument): boolean => {
  if (!d.item.properties.includes('nav')) return false;
  for (let e = d.parents.get(r.element); e; e = d.parents.get(e))
    if (e.name === 'nav' && e.attrs['epub:type']) return true;
  return false;
};
const scheme = (href: string): string => /^\s*([a-z][a-z0-9+.-]*):/i.exec(href)?.[1]?.toLowerCase() ?? '';
/** A web address without its beginning. */
const NO_SCHEME = /^www\.[\w-]+\.\w+/i;
/** Schemes that a reading system passes on (common practice). */
const OUTWARD = new Set(['http', 'https', 'mailto', 'tel', 'ftp', 'sms', 'urn', 'doi', 'geo']);

export const LINK_RULES: Rule<EpubSubject>[] = [
  each(
    {
      name: 'link/dead-file',
      severity: 'blocker',
      source: 'EPUB 3.3 §3.2, §5.6.1: what is referenced is in the container',
      why: 'Nothing happens when readers follow it, and shops refuse the book.',
      remedy: 'Link to a file that exists.',
      mend: 'dead-path',
    },
    (r, d, s) =>
      r.to &&
      r.sort === 'link' &&
      !inNavigation(r, d) &&
      !NO_SCHEME.test(r.href.trim()) &&
      !s.names.has(r.to.path) &&
      otherCase(s, r.to.path) === undefined
        ? unlessFound(s, r.to.path, `The link leads to “${r.href}”, which isn’t in the ebook.`)
        : null,
  ),
  each(
    {
      name: 'link/missing-resource',
      severity: 'blocker',
      source: 'EPUB 3.3 §3.2, §5.6.1: what is shown is in the container',
      why: 'Readers see an empty frame in its place.',
      remedy: 'Add the file, or correct its name.',
      mend: 'dead-path',
    },
    (r, _d, s) =>
      r.to &&
      r.sort === 'shown' &&
      r.href.trim() !== '' &&
      !r.href.trim().startsWith('#') &&
      !s.names.has(r.to.path) &&
      otherCase(s, r.to.path) === undefined
        ? unlessFound(s, r.to.path, `“${r.href}” isn’t in the ebook.`)
        : null,
  ),
  each(
    {
      name: 'link/other-case',
      severity: 'blocker',
      source: 'EPUB 3.3 §4.2.4: paths are compared letter by letter',
      why: 'Some devices find the file and others don’t.',
      remedy: 'Write the name as the file has it.',
      mend: 'case',
    },
    (r, _d, s) => {
      const other = r.to && !s.names.has(r.to.path) ? otherCase(s, r.to.path) : undefined;
      return other === undefined ? null : `“${r.href}” is called “${other}” in the ebook.`;
    },
  ),
  each(
    {
      name: 'link/dead-place',
      severity: 'blocker',
      source: 'EPUB 3.3 §6.1.2; HTML §7.4.6.4 (the indicated part of the document)',
      why: 'Readers land at the top of the page instead of the place they expect.',
      remedy: 'Link to an id that exists.',
      mend: 'dead-place',
    },
    (r, d, s) => {
      if (!r.to || r.to.fragment === '' || inNavigation(r, d) || r.sort === 'cited') return null;
      const target = s.documentAt.get(r.to.path);
      if (!target?.root || /^(xywh=|t=|svgView\(|epubcfi\(|:~:)/.test(r.to.fragment)) return null;
      const id = percentDecoded(r.to.fragment);
      return target.ids.has(id) || target.elements.some((e) => e.name === 'a' && e.attrs.name === id)
        ? null
        : `The link leads to “#${r.to.fragment}”, which isn’t there.`;
    },
  ),
  each(
    {
      name: 'link/unlisted',
      severity: 'blocker',
      source: 'EPUB 3.3 §5.6.1: what documents use is listed in the manifest',
      why: 'Reading systems may not load it.',
      remedy: 'List the file in the manifest.',
      mend: 'list-file',
    },
    (r, _d, s) =>
      r.to && r.sort === 'shown' && r.to.path && s.names.has(r.to.path) && !s.items.has(r.to.path)
        ? { message: `“${r.href}” isn’t listed in the manifest.`, about: r.to.path }
        : null,
  ),
  each(
    {
      name: 'link/out-of-the-book',
      severity: 'blocker',
      source: 'EPUB 3.3 §4.2.5: no path leads above the root of the container',
      why: 'Reading systems refuse to follow it.',
      remedy: 'Link to a file in the ebook.',
    },
    (r, d) => {
      const path = r.href.trim().split(/[?#]/)[0] ?? '';
      if (scheme(r.href) || path.startsWith('/')) return null;
      let depth = d.path.split('/').length - 1;
      for (const p of path.split('/')) {
        depth += p === '..' ? -1 : p === '.' || p === '' ? 0 : 1;
        if (depth < 0) return `“${r.href}” points outside the ebook.`;
      }
      return null;
    },
  ),
  each(
    {
      name: 'link/from-the-root',
      severity: 'caution',
      source: 'EPUB 3.3 §4.2.5: paths from the root of the container are not interoperable',
      why: 'Reading systems look for it in different places.',
      remedy: 'Write the path relative to this file.',
      mend: 'root-path',
    },
    (r) => (/^\/(?!\/)/.test(r.href.trim()) ? `“${r.href}” begins with a slash.` : null),
  ),
  each(
    {
      name: 'link/remote-resource',
      severity: 'blocker',
      source: 'EPUB 3.3 §3.6: only audio, video and fonts may be remote',
      why: 'Readers without a connection see nothing, and shops refuse it.',
      remedy: 'Put the file into the ebook.',
    },
    (r) =>
      r.sort === 'shown' &&
      (/^https?$/.test(scheme(r.href)) || /^\s*\/\//.test(r.href)) &&
      !/^(audio|video|source|track|script)$/.test(r.element.name)
        ? `“${r.href}” would be fetched from the web.`
        : null,
  ),
  each(
    {
      name: 'link/address-form',
      severity: 'caution',
      source: 'URL Standard §4.3 (URL writing): no spaces, backslashes or characters such as | and <',
      why: 'Some reading systems don’t find the file.',
      remedy: 'Write a space as %20, and “/” between folders.',
      mend: 'address',
    },
    (r) =>
      /[ \\|<>^`{}"]/.test(r.href.trim()) && !/^(data|javascript):/i.test(r.href.trim())
        ? `“${r.href}” has a character that addresses don’t have.`
        : null,
  ),
  each(
    {
      name: 'link/percent',
      severity: 'blocker',
      source: 'URL Standard §1.3: “%” is followed by two hexadecimal figures',
      remedy: 'Write %25 for a percent sign.',
      mend: 'address',
    },
    (r) => (/%(?![0-9a-f]{2})/i.test(r.href) ? `“${r.href}” has a stray percent sign.` : null),
  ),
  each(
    {
      name: 'link/web-address',
      severity: 'caution',
      source: 'URL Standard §4.4: an address that can be parsed',
      why: 'Nothing happens when readers follow it.',
      remedy: 'Correct the address.',
    },
    (r) => {
      if (!/^https?$/.test(scheme(r.href))) return null;
      try {
        const { hostname } = new URL(r.href.trim());
        return /^[^.]*$/.test(hostname) && hostname !== 'localhost' && !hostname.includes(':')
          ? `“${r.href}” isn’t a website address.`
          : null;
      } catch {
        return `“${r.href}” isn’t a valid address.`;
      }
    },
  ),
  each(
    {
      name: 'link/unfinished',
      severity: 'blocker',
      source: 'common practice: a link has been prepared and not filled in',
      why: 'Nothing happens when readers follow it.',
      remedy: 'Fill in where it leads, or remove the link.',
    },
    (r) =>
      r.sort === 'link' && r.element.name === 'a' && /^(https?:(\/\/)?|mailto:|www\.)$/i.test(r.href.trim())
        ? `The link leads to “${r.href}”.`
        : null,
  ),
  each(
    {
      name: 'link/no-scheme',
      severity: 'caution',
      source: 'URL Standard §4.1: without its scheme an address is a path',
      why: 'Reading systems look for a file of that name.',
      remedy: 'Write https:// before it.',
      mend: 'scheme',
    },
    (r, _d, s) =>
      r.sort === 'link' && NO_SCHEME.test(r.href.trim()) && !(r.to && s.names.has(r.to.path))
        ? `“${r.href}” lacks “https://”.`
        : null,
  ),
  each(
    {
      name: 'link/script-address',
      severity: 'blocker',
      source: 'EPUB 3.3 §6.3.2; common practice: shops refuse javascript: addresses',
      why: 'Shops refuse it.',
      remedy: 'Link to a place in the book.',
    },
    (r) =>
      scheme(r.href) === 'javascript' || scheme(r.href) === 'vbscript' ? 'The link runs a script.' : null,
  ),
  each(
    {
      name: 'link/data-address',
      severity: 'blocker',
      source: 'EPUB 3.3 §3.7: data: URLs must not open a document of their own',
      remedy: 'Put what it holds into a file of the ebook.',
    },
    (r) =>
      r.sort === 'link' && scheme(r.href) === 'data' && r.element.name !== 'link'
        ? 'The link contains its target instead of an address.'
        : null,
  ),
  each(
    {
      name: 'link/unknown-scheme',
      severity: 'note',
      source: 'common practice: schemes that reading systems pass on',
      why: 'Most readers can’t follow it.',
      remedy: 'Link to a web page.',
    },
    (r) => {
      const of = scheme(r.href);
      return r.sort === 'link' && of && !OUTWARD.has(of) && !/^(data|javascript|vbscript|file)$/.test(of)
        ? `Reading systems don’t know “${of}:” addresses.`
        : null;
    },
  ),
  each(
    {
      name: 'link/to-no-page',
      severity: 'caution',
      source: 'EPUB 3.3 §5.7.1, §3.3: links lead to content documents',
      why: 'Reading systems open it in some other way, or not at all.',
      remedy: 'Show the picture on a page, and link to that page.',
    },
    (r, _d, s) => {
      const item = r.to ? s.items.get(r.to.path) : undefined;
      const page =
        item?.type === XHTML || item?.type === 'image/svg+xml' || item?.type === 'application/x-dtbook+xml';
      return r.element.name === 'a' && r.sort === 'link' && item && !page && s.names.has(item.path)
        ? `The link leads to “${item.href}”, which is “${item.type}”.`
        : null;
    },
  ),
  each(
    {
      name: 'link/query',
      severity: 'caution',
      source: 'EPUB 3.3 §4.2.5: files of a container have no queries',
      remedy: 'Leave out everything from “?” on.',
    },
    (r, _d, s) =>
      r.to && !isOlder(s) && /^[^#]*\?/.test(r.href) && !scheme(r.href)
        ? `“${r.href}” has a query, which files in an ebook can’t answer.`
        : null,
  ),
];
