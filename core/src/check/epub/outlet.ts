/** Rules of outlets: an ebook that breaks no standard, and is refused all the same. Each finding says by which. */
import { pictureInfo, primaryLanguage } from '../../base';
import { EBOOK_OUTLETS, type EbookDemands, type EbookOutlet } from '../../trade';
import { bareIsbn, isbnFault } from '../../record';
import { navigationOf } from '../../package';
import type { Breach, Rule } from '../rules';
import { isDataBlock } from './resources';
import { at, atAttribute, isOlder, type EpubSubject } from './subject';

export interface OutletSubject {
  epub: EpubSubject;
  outlets: readonly EbookOutlet[];
}
type OutletRule = Omit<Rule<OutletSubject>, 'look' | 'severity' | 'profiles' | 'source' | 'why'> & {
  /** What of an ebook the outlet doesn’t take: a sentence that begins with its name. Of many places the first. */
  refuses: (epub: EpubSubject, demands: EbookDemands, outlet: EbookOutlet) => Breach | null;
};

const rule = ({ refuses, ...r }: OutletRule): Rule<OutletSubject> => ({
  ...r,
  severity: 'caution',
  profiles: ['outlets'],
  source: 'common practice: outlets ask more than the standard; the figures are those of invented outlets',
  why: 'The standard allows it, but this outlet doesn’t.',
  *look({ epub, outlets }) {
    // Without a package there is no ebook to speak of.
    if (!epub.root) return;
    for (const outlet of outlets) {
      const breach = refuses(epub, outlet.ebook, outlet);
      if (breach) yield { ...breach, outlet: outlet.id };
    }
  },
});

const megabytes = (bytes: number): string =>
  `${(bytes / 1_000_000).toLocaleString('en-GB', { maximumFractionDigits: 1 })} MB`;
const kilobytes = (bytes: number): string => `${Math.round(bytes / 1_000).toLocaleString('en-GB')} kB`;
const more = (n: number): string =>
  n > 1 ? ` There ${n === 2 ? 'is 1' : `are ${n - 1}`} more like it.` : '';

type Size = { width: number; height: number } | null;
/** Looked up once for all outlets: a large picture is unpacked for it. */
const sizes = new WeakMap<EpubSubject, Map<string, Size>>();
function pixelsOf(s: EpubSubject, path: string): Size {
  const known = sizes.get(s) ?? new Map<string, Size>();
  sizes.set(s, known);
  const before = known.get(path);
  if (before !== undefined) return before;
  const bytes = s.part(path);
  const size = bytes && pictureInfo(bytes);
  known.set(path, size);
  return size;
}
const coverOf = (s: EpubSubject): string | null => {
  const named = s.metadata.find((m) => m.name === 'cover')?.attrs.content;
  const item = s.manifest.find((i) => i.properties.includes('cover-image')) ?? s.byId.get(named ?? '');
  return item?.path ?? null;
};
const NAMES = new Intl.DisplayNames('en', { type: 'language' });
const LIST = new Intl.ListFormat('en', { type: 'conjunction' });
const spoken = (languages: readonly string[]): string =>
  LIST.format(languages.map((l) => (/^[a-z]{2,3}$/.test(l) ? NAMES.of(l) : undefined) ?? l));

export const OUTLET_RULES: readonly Rule<OutletSubject>[] = [
  rule({
    name: 'outlet/version',
    remedy: 'Send an ebook of the other version.',
    refuses: (s, { versions }, { name }) => {
      const version = isOlder(s) ? '2' : '3';
      return versions.includes(version)
        ? null
        : {
            message: `${name} takes EPUB ${versions.join(' and ')} only; this is EPUB ${s.version || '3'}.`,
            ...(s.root && s.path ? { file: s.path, line: s.root.line, column: s.root.column } : {}),
          };
    },
  }),
  rule({
    name: 'outlet/file-size',
    remedy: 'Make the pictures lighter.',
    refuses: (s, { most }, { name }) =>
      s.bytes.length > most.file
        ? {
            message: `${name} takes up to ${megabytes(most.file)}; this ebook has ${megabytes(s.bytes.length)}.`,
          }
        : null,
  }),
  rule({
    name: 'outlet/page-size',
    remedy: 'Split it into several files.',
    refuses: (s, { most }, { name }) => {
      const sizes = s.documents
        .map((d) => ({ path: d.path, size: s.zip.entries.find((e) => e.name === d.path)?.size ?? 0 }))
        .filter((d) => d.size > most.page);
      const [first] = sizes;
      return first
        ? {
            message: `${name} takes text files up to ${kilobytes(most.page)}; this one has ${kilobytes(first.size)}.${more(sizes.length)}`,
            file: first.path,
          }
        : null;
    },
  }),
  rule({
    name: 'outlet/picture-size',
    remedy: 'Make the picture smaller.',
    refuses: (s, { pixels }, { name }) => {
      const large = s.manifest.flatMap(({ path, type }) => {
        const size = /^image\/(?!svg)/.test(type) ? pixelsOf(s, path) : null;
        return size && size.width * size.height > pixels ? [{ path, ...size }] : [];
      });
      const [first] = large;
      return first
        ? {
            message: `${name} takes pictures up to ${pixels / 1_000_000} million pixels; this one has ${first.width} × ${first.height}.${more(large.length)}`,
            file: first.path,
          }
        : null;
    },
  }),
  rule({
    name: 'outlet/picture-kind',
    remedy: 'Save the picture as JPEG or PNG.',
    refuses: (s, { pictures }, { name }) => {
      const other = s.manifest.filter(
        (i) => i.path && i.type.startsWith('image/') && !pictures.includes(i.type),
      );
      const [first] = other;
      return first
        ? {
            message: `${name} doesn’t take pictures of the type ${first.type}.${more(other.length)}`,
            file: first.path,
          }
        : null;
    },
  }),
  rule({
    name: 'outlet/cover',
    remedy: 'Add a larger picture and mark it as the cover.',
    refuses: (s, { cover }, { name }) => {
      if (cover === 0) return null;
      const path = coverOf(s);
      if (path === null) return { message: `${name} requires a cover in the file; none is marked as one.` };
      const size = pixelsOf(s, path);
      return size && size.height < cover
        ? {
            message: `${name} requires a cover at least ${cover.toLocaleString('en-GB')} pixels high; this one has ${size.height.toLocaleString('en-GB')}.`,
            file: path,
          }
        : null;
    },
  }),
  rule({
    name: 'outlet/fixed-layout',
    remedy: 'Send an ebook whose text flows, or leave this outlet out.',
    refuses: (s, { fixed }, { name }) =>
      s.fixed && !fixed ? { message: `${name} doesn’t take fixed-layout ebooks.` } : null,
  }),
  rule({
    name: 'outlet/sound-or-film',
    remedy: 'Remove the audio or video, or leave this outlet out.',
    refuses: (s, { media }, { name }) => {
      const found = s.manifest.filter((i) => /^(audio|video)\//.test(i.type));
      const [first] = found;
      return first && !media
        ? { message: `${name} doesn’t take ebooks with audio or video.`, file: first.path }
        : null;
    },
  }),
  rule({
    name: 'outlet/script',
    remedy: 'Remove the script.',
    refuses: (s, { scripts }, { name }) => {
      if (scripts) return null;
      for (const d of s.documents) {
        const e = d.elements.find((x) => x.name === 'script' && !isDataBlock(x));
        if (e) return { message: `${name} refuses ebooks that run scripts.`, ...at(d, e) };
      }
      return null;
    },
  }),
  rule({
    name: 'outlet/other-shop',
    remedy: 'Remove the link, or make the ebook for this outlet.',
    refuses: (s, _, { id, name }) => {
      const hosts = EBOOK_OUTLETS.filter((o) => o.id !== id).flatMap((o) => o.hosts);
      for (const d of s.documents)
        for (const r of d.references) {
          const host = /^\s*https?:\/\/(?:[^/?#@]*@)?([^/?#:]+)/i.exec(r.href)?.[1]?.toLowerCase();
          const shop = host && hosts.find((h) => host === h || host.endsWith(`.${h}`));
          if (shop)
            return {
              message: `${name} refuses links to another shop: ${shop}.`,
              ...atAttribute(d, r.element, r.attribute),
            };
        }
      return null;
    },
  }),
  rule({
    name: 'outlet/contents',
    remedy: 'Add the chapters to the contents.',
    refuses: (s, { contents }, { name }) => {
      const { length } = navigationOf(s).contents;
      return length < contents
        ? {
            message: `${name} requires at least ${contents} ${contents === 1 ? 'entry' : 'entries'} in the contents; ${length === 0 ? 'there is none' : `there ${length === 1 ? 'is' : 'are'} ${length}`}.`,
          }
        : null;
    },
  }),
  rule({
    name: 'outlet/isbn',
    remedy: 'Make the ebook’s ISBN its identifier.',
    refuses: (s, { isbn }, { name }) => {
      const identifiers = s.metadata.filter((m) => m.name === 'identifier').map((m) => m.value);
      const found = identifiers.some(
        (v) => isbnFault(bareIsbn(v.replace(/^urn:isbn:|^isbn[:\s]*/i, ''))) === null,
      );
      return isbn && !found
        ? { message: `${name} requires an ISBN among the identifiers; there is none.` }
        : null;
    },
  }),
  rule({
    name: 'outlet/language',
    remedy: 'Leave this outlet out.',
    refuses: (s, { languages }, { name }) => {
      const language = s.metadata.find((m) => m.name === 'language');
      const primary = language && primaryLanguage(language.value);
      return languages && primary && !languages.includes(primary)
        ? {
            message: `${name} sells books in ${spoken(languages)}; this one is in ${spoken([primary])}.`,
            file: s.path,
            line: language.line,
          }
        : null;
    },
  }),
];
