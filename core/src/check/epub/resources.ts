/** Rules of resources: which kinds there may be, what stands in for them, what documents hold (EPUB 3.3 §3, D.6). */
import type { XmlElement } from '../../base';
import type { ManifestItem } from '../../package';
import type { Rule } from '../rules';
import { each, elements, itemPlace } from './items';
import {
  at,
  atAttribute,
  isOlder,
  MATHML_NS,
  NCX,
  SMIL,
  SVG_NS,
  tokens,
  XHTML,
  type EpubDocument,
  type EpubSubject,
} from './subject';

/** Core media types (EPUB 3.3 §3.2). */
const CORE = new Set(
  `image/gif image/jpeg image/png image/svg+xml image/webp audio/mpeg audio/mp4 text/css font/ttf font/otf font/woff font/woff2
  application/font-sfnt application/vnd.ms-opentype application/font-woff application/x-font-ttf application/xhtml+xml application/javascript application/ecmascript
  text/javascript application/x-dtbncx+xml application/smil+xml`.split(/\s+/),
);

/** Those of the older form (OPS 2.0.1 §1.3.7). */
const OLDER_CORE = new Set(
  'image/gif image/jpeg image/png image/svg+xml application/xhtml+xml application/x-dtbook+xml text/css application/xml text/x-oeb1-document text/x-oeb1-css application/x-dtbncx+xml'.split(
    ' ',
  ),
);

/** Shown by reading systems of that version without a fallback. */
export const isCore = (s: EpubSubject, type: string): boolean => {
  const bare = type.split(';')[0]?.trim().toLowerCase() ?? '';
  return isOlder(s) ? OLDER_CORE.has(bare) : CORE.has(bare) || (bare === 'audio/ogg' && /codecs/.test(type));
};

/** Resources that need no fallback wherever they are used (EPUB 3.3 §3.4). */
const isExempt = (type: string): boolean =>
  /^video\/|^font\//.test(type) || /font|opentype|pls\+xml/.test(type);

/** Whether the item, or one that its chain of fallbacks leads to, is of such a type (EPUB 3.3 §3.5.1). */
export function reaches(item: ManifestItem, s: EpubSubject, shown: (type: string) => boolean): boolean {
  const seen = new Set<ManifestItem>();
  for (let i: ManifestItem | undefined = item; i && !seen.has(i); i = s.byId.get(i.fallback)) {
    if (shown(i.type)) return true;
    seen.add(i);
  }
  return false;
}

const isRemote = (href: string): boolean => /^(https?:)?\/\//i.test(href.trim());

/** What a document has that its item must tell (EPUB 3.3 D.6). */
const TOLD: Record<
  string,
  { what: string; has: (d: EpubDocument, s: EpubSubject) => XmlElement | undefined }
> = {
  scripted: {
    what: 'scripts or forms',
    has: (d) =>
      d.elements.find(
        (e) =>
          (e.name === 'script' && !isDataBlock(e)) ||
          (e.name === 'form' && e.ns !== SVG_NS) ||
          Object.keys(e.attrs).some((a) => /^on[a-z]+$/.test(a)),
      ),
  },
  svg: {
    what: 'SVG',
    has: (d) =>
      d.item.type === XHTML ? d.elements.find((e) => e.ns === SVG_NS && e.name === 'svg') : undefined,
  },
  mathml: { what: 'MathML', has: (d) => d.elements.find((e) => e.ns === MATHML_NS && e.name === 'math') },
  'remote-resources': {
    what: 'resources from the web',
    has: (d) => d.references.find((r) => r.sort === 'shown' && isRemote(r.href))?.element,
  },
};

/** A script element that only holds data (HTML §4.12.1). */
export const isDataBlock = (e: XmlElement): boolean => {
  const type = (e.attrs.type ?? '').trim().toLowerCase();
  return type !== '' && type !== 'module' && !/^(text|application)\/(x-)?(java|ecma|j|live)script/.test(type);
};

export const RESOURCE_RULES: Rule<EpubSubject>[] = [
  each(
    {
      name: 'manifest/fallback-gone',
      severity: 'blocker',
      source: 'EPUB 3.3 §3.5.1: fallback names an item of the manifest',
      remedy: 'Name an item that is there.',
    },
    (i, s) =>
      i.fallback && !s.byId.has(i.fallback) ? `The fallback “${i.fallback}” isn’t in the manifest.` : null,
  ),
  each(
    {
      name: 'manifest/fallback-circle',
      severity: 'blocker',
      source: 'EPUB 3.3 §3.5.1: chains of fallbacks must not lead back to themselves',
      remedy: 'Let the chain end with a file that every reader shows.',
    },
    (i, s) => {
      const seen = new Set<ManifestItem>();
      let next = i.fallback ? s.byId.get(i.fallback) : undefined;
      while (next && !seen.has(next)) {
        if (next === i) return `The fallbacks of “${i.href}” lead back to it.`;
        seen.add(next);
        next = next.fallback ? s.byId.get(next.fallback) : undefined;
      }
      return null;
    },
  ),
  {
    name: 'manifest/foreign-resource',
    severity: 'blocker',
    source: 'EPUB 3.3 §3.3, §3.5: a foreign resource that is shown needs a fallback',
    why: 'Many reading systems show nothing in its place.',
    remedy: 'Convert it to JPEG, PNG or another common type, or give it a fallback.',
    *look(s) {
      const shown = new Set<string>();
      for (const d of s.documents)
        for (const r of d.references)
          if (r.sort === 'shown' && r.to && !hasOwnFallback(r.element)) shown.add(r.to.path);
      for (const i of s.manifest)
        if (
          i.path &&
          shown.has(i.path) &&
          i.type.trim() &&
          !reaches(i, s, (t) => isCore(s, t) || isExempt(t))
        )
          yield {
            message: `“${i.href}” is marked “${i.type}”, which reading systems aren’t required to show.`,
            ...itemPlace(s, i),
          };
    },
  },
  {
    name: 'manifest/unused-foreign',
    severity: 'note',
    source: 'EPUB 3.3 §3.4: resources that no document uses need no fallback',
    why: 'It makes the file larger, and readers never see it.',
    remedy: 'Remove it unless a program needs it.',
    *look(s) {
      const used = new Set(
        s.documents.flatMap((d) => d.references.flatMap((r) => (r.to ? [r.to.path] : []))),
      );
      const spine = new Set(s.spine.map((r) => r.idref));
      for (const i of s.manifest)
        if (
          i.path &&
          i.type.trim() &&
          !isCore(s, i.type) &&
          !isExempt(i.type) &&
          !used.has(i.path) &&
          !spine.has(i.id) &&
          i.type !== NCX
        )
          yield {
            message: `“${i.href}”, which is “${i.type}”, isn’t used by any page.`,
            ...itemPlace(s, i),
          };
    },
  },
  ...Object.entries(TOLD).flatMap(([property, { what, has }]): Rule<EpubSubject>[] => [
    {
      name: `manifest/${property}-untold`,
      severity: 'blocker',
      profiles: ['EPUB 3.3'],
      source: `EPUB 3.3 D.6: the property ${property} is set where a document has ${what}`,
      why: 'Reading systems that rely on the manifest don’t show it.',
      remedy: `Add “${property}” to the properties of the document.`,
      mend: 'properties',
      *look(s) {
        for (const d of s.documents) {
          const e = has(d, s);
          if (e && !d.item.properties.includes(property))
            yield {
              message: `The document has ${what}, but the manifest doesn’t say so.`,
              about: d.path,
              ...at(d, e),
            };
        }
      },
    },
    {
      name: `manifest/${property}-untrue`,
      severity: property === 'scripted' || property === 'remote-resources' ? 'caution' : 'note',
      profiles: ['EPUB 3.3'],
      source: `EPUB 3.3 D.6: the property ${property} only where a document has ${what}`,
      why: 'Shops refuse scripts and resources from the web, and believe what the manifest says.',
      remedy: `Remove “${property}” from the properties of the document.`,
      mend: 'properties',
      *look(s) {
        for (const d of s.documents)
          if (d.item.properties.includes(property) && d.sound && !has(d, s) && d.item.type === XHTML)
            yield {
              message: `The manifest says that “${d.item.href}” has ${what}; it has none.`,
              about: d.path,
              ...itemPlace(s, d.item),
            };
      },
    },
  ]),
  {
    name: 'manifest/overlay-gone',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §9.3.5.1: media-overlay names a media overlay document of the manifest',
    remedy: 'Name the item of its overlay, or remove the attribute.',
    *look(s) {
      for (const e of elements(s)) {
        const id = e.attrs['media-overlay'];
        if (id !== undefined && s.byId.get(id)?.type !== SMIL)
          yield {
            message: `The media overlay “${id}” of “${e.attrs.href ?? ''}” isn’t there.`,
            file: s.path,
            line: e.line,
            column: e.column,
          };
      }
    },
  },
  {
    name: 'manifest/remote-kind',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §3.6: only audio, video, fonts and what scripts fetch may be remote',
    why: 'Readers without a connection see nothing, and shops refuse it.',
    remedy: 'Put the file into the ebook.',
    *look(s) {
      for (const i of s.manifest)
        if (
          isRemote(i.href) &&
          !/^(audio|video|font)\//.test(i.type) &&
          !/font|opentype/.test(i.type) &&
          /^(image\/|text\/css|application\/xhtml)/.test(i.type)
        )
          yield { message: `“${i.href}” is outside the ebook.`, ...itemPlace(s, i) };
    },
  },
  {
    name: 'manifest/file-address',
    severity: 'blocker',
    source: 'EPUB 3.3 §3.8: file: URLs must not be used',
    why: 'The file exists on one computer only.',
    remedy: 'Put the file into the ebook, and link to it there.',
    *look(s) {
      for (const i of s.manifest)
        if (/^file:/i.test(i.href.trim()))
          yield { message: `“${i.href}” is a file on somebody’s computer.`, ...itemPlace(s, i) };
      for (const d of s.documents)
        for (const r of d.references)
          if (/^file:/i.test(r.href.trim()))
            yield {
              message: `“${r.href}” is a file on somebody’s computer.`,
              ...atAttribute(d, r.element, r.attribute),
            };
    },
  },
];

/** Whether HTML itself shows something else where the resource can’t be shown (EPUB 3.3 §3.5.2). */
function hasOwnFallback(e: XmlElement): boolean {
  if (e.name === 'source' || e.name === 'object' || e.name === 'track' || e.name === 'script') return true;
  if (e.name === 'link') return !tokens(e.attrs.rel).includes('stylesheet');
  return false;
}
