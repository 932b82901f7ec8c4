/** Rules of the manifest (EPUB 3.3 §5.6; OPF 2.0.1 §2.3). */
import type { Rule } from '../rules';
import { each, itemPlace, otherCase } from './items';
import { XHTML, type EpubSubject } from './subject';

/** Properties of items (EPUB 3.3 D.6). */
const PROPERTIES = new Set(['cover-image', 'mathml', 'nav', 'remote-resources', 'scripted', 'svg', 'switch']);

export const MANIFEST_RULES: Rule<EpubSubject>[] = [
  each(
    {
      name: 'manifest/no-id',
      severity: 'blocker',
      source: 'EPUB 3.3 §5.6.2: item needs an id',
      remedy: 'Give it an id.',
      mend: 'item-id',
    },
    (i) => (i.id ? null : `The item for “${i.href}” has no id.`),
  ),
  each(
    {
      name: 'manifest/no-address',
      severity: 'blocker',
      source: 'EPUB 3.3 §5.6.2: item needs an href',
      remedy: 'Name the file, or remove the item.',
      mend: 'item-gone',
    },
    (i) => (i.href.trim() ? null : `The item “${i.id}” names no file.`),
  ),
  each(
    {
      name: 'manifest/no-type',
      severity: 'blocker',
      source: 'EPUB 3.3 §5.6.2: item needs a media-type',
      why: 'Reading systems don’t guess what a file is.',
      remedy: 'Name its media type.',
      mend: 'media-type',
    },
    (i) => (i.type.trim() ? null : `The item for “${i.href}” doesn’t say of what kind it is.`),
  ),
  each(
    {
      name: 'manifest/type-form',
      severity: 'blocker',
      source: 'EPUB 3.3 §5.3.4: a media type of the form type/subtype (RFC 2046)',
      remedy: 'Write it as image/jpeg.',
      mend: 'media-type',
    },
    (i) =>
      i.type.trim() && !/^[\w!#$&^.+-]+\/[\w!#$&^.+-]+(\s*;.*)?$/.test(i.type)
        ? `“${i.type}” is not a media type.`
        : null,
  ),
  each(
    {
      name: 'manifest/fragment',
      severity: 'blocker',
      source: 'EPUB 3.3 §5.6.2: href must not have a fragment',
      remedy: 'Leave out everything from “#” on.',
      mend: 'item-fragment',
    },
    (i) => (i.href.includes('#') ? `The item “${i.href}” names a place within a file.` : null),
  ),
  each(
    {
      name: 'manifest/data-address',
      severity: 'blocker',
      profiles: ['EPUB 3.3'],
      source: 'EPUB 3.3 §3.7: items must not be data: URLs',
      remedy: 'Put the data in a file of its own.',
    },
    (i) => (/^data:/i.test(i.href) ? 'An item holds its data in its address.' : null),
  ),
  each(
    {
      name: 'manifest/missing-file',
      severity: 'blocker',
      source: 'EPUB 3.3 §5.6.1: the manifest lists resources that are there',
      why: 'Readers see a gap where the file should be.',
      remedy: 'Add the file, or remove the item.',
      mend: 'item-gone',
    },
    (i, s) =>
      i.path &&
      i.href.trim() &&
      !i.href.includes('#') &&
      !/^data:/i.test(i.href) &&
      !s.names.has(i.path) &&
      !otherCase(s, i.path)
        ? `The manifest lists “${i.href}”, which isn’t in the container.`
        : null,
  ),
  each(
    {
      name: 'manifest/other-case',
      severity: 'blocker',
      source: 'EPUB 3.3 §4.2.4: paths are compared letter by letter',
      why: 'Some devices find the file and others don’t.',
      remedy: 'Write the name as the file has it.',
      mend: 'case',
    },
    (i, s) => {
      const other = i.path && !s.names.has(i.path) ? otherCase(s, i.path) : undefined;
      return other === undefined ? null : `The manifest lists “${i.href}”; the file is called “${other}”.`;
    },
  ),
  {
    name: 'manifest/unlisted-file',
    severity: 'caution',
    source: 'EPUB 3.3 §5.6.1: all publication resources must be listed',
    why: 'Reading systems may not find what isn’t listed.',
    remedy: 'List it, or remove it.',
    mend: 'list-file',
    *look(s) {
      if (!s.packageFile?.root) return;
      const linked = new Set(s.metadata.flatMap((m) => (m.attrs.href ? [m.attrs.href] : [])));
      for (const { name } of s.zip.entries)
        if (
          !name.endsWith('/') &&
          !name.startsWith('META-INF/') &&
          name !== 'mimetype' &&
          name !== s.path &&
          !s.items.has(name) &&
          !/(^|\/)(__MACOSX\/|\.DS_Store$|Thumbs\.db$|desktop\.ini$|\._[^/]*$)/i.test(name) &&
          !s.manifest.some((i) => i.path && !s.names.has(i.path) && otherCase(s, i.path) === name) &&
          !linked.has(name.split('/').at(-1) ?? '')
        )
          yield {
            message: `“${name}” is in the container but not in the manifest.`,
            file: name,
            about: name,
          };
    },
  },
  {
    name: 'manifest/file-twice',
    severity: 'blocker',
    source: 'EPUB 3.3 §5.6.1: a resource is listed once',
    why: 'References to one of its ids may fail.',
    remedy: 'Remove one of the items.',
    mend: 'item-twice',
    *look(s) {
      const seen = new Set<string>();
      for (const i of s.manifest) {
        if (i.path && seen.has(i.path)) yield { message: `“${i.href}” is listed twice.`, ...itemPlace(s, i) };
        seen.add(i.path);
      }
    },
  },
  each(
    {
      name: 'manifest/lists-package',
      severity: 'blocker',
      source: 'EPUB 3.3 §5.6.1: the manifest must not list the package document, mimetype or META-INF',
      remedy: 'Remove the item.',
      mend: 'item-gone',
    },
    (i, s) =>
      i.path && (i.path === s.path || i.path === 'mimetype' || i.path.startsWith('META-INF/'))
        ? `The manifest must not list “${i.href}”.`
        : null,
  ),
  each(
    {
      name: 'manifest/property-unknown',
      severity: 'blocker',
      profiles: ['EPUB 3.3'],
      source: 'EPUB 3.3 D.6: the properties of items',
      remedy: 'Remove it.',
      mend: 'unknown-property',
    },
    (i) => {
      const odd = i.properties.find((p) => !p.includes(':') && !PROPERTIES.has(p));
      return odd ? { message: `“${odd}” is not a property of an item.`, about: odd } : null;
    },
  ),
  {
    name: 'manifest/navigation-count',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §5.6.2: exactly one item has the property nav',
    why: 'Without it readers have no contents.',
    remedy: 'Add a navigation document, or keep the mark on one alone.',
    mend: 'navigation',
    *look(s) {
      if (!s.packageFile?.root) return;
      const navs = s.manifest.filter((i) => i.properties.includes('nav'));
      if (navs.length === 0) yield { message: 'The manifest names no navigation document.', file: s.path };
      for (const i of navs.slice(1))
        yield {
          message: `“${i.href}” is named as a second navigation document.`,
          ...itemPlace(s, i),
          mend: false,
        };
    },
  },
  each(
    {
      name: 'manifest/navigation-type',
      severity: 'blocker',
      profiles: ['EPUB 3.3'],
      source: 'EPUB 3.3 §7.1, D.6.3: the navigation document is XHTML',
      remedy: 'Name an XHTML document.',
    },
    (i) =>
      i.properties.includes('nav') && i.type !== XHTML
        ? `The navigation document “${i.href}” is marked “${i.type}”.`
        : null,
  ),
  {
    name: 'manifest/cover-twice',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 D.6.1: cover-image at most once',
    why: 'Which of the two a shop shows is left to chance.',
    remedy: 'Keep the mark on one picture.',
    *look(s) {
      for (const i of s.manifest.filter((x) => x.properties.includes('cover-image')).slice(1))
        yield { message: `“${i.href}” is named as a second cover.`, ...itemPlace(s, i) };
    },
  },
  each(
    {
      name: 'manifest/cover-picture',
      severity: 'blocker',
      profiles: ['EPUB 3.3'],
      source: 'EPUB 3.3 D.6.1: cover-image is a property of images',
      remedy: 'Put the mark on the picture, not on the page that shows it.',
      mend: 'cover',
    },
    (i) =>
      i.properties.includes('cover-image') && i.type && !i.type.startsWith('image/')
        ? `The cover “${i.href}” is no picture but “${i.type}”.`
        : null,
  ),
];
