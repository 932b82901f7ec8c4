/** Rules of pictures, typefaces, sound and film: what the file really is (EPUB 3.3 §3.2; PNG, JFIF, OpenType, RFC 6381). */
import { mediaTypeOf, pictureInfo } from '../../base';
import type { ManifestItem } from '../../package';
import type { Breach, Rule } from '../rules';
import { XHTML, type EpubSubject } from './subject';

const itemPlace = (s: EpubSubject, i: ManifestItem): Pick<Breach, 'file' | 'line' | 'column'> => ({
  file: s.path,
  line: i.line,
  column: i.column,
});
const bare = (type: string): string => type.split(';')[0]?.trim().toLowerCase() ?? '';
const ascii = (b: Uint8Array, from: number, to: number): string =>
  String.fromCharCode(...b.subarray(from, to));
const u16 = (b: Uint8Array, i: number): number => ((b[i] ?? 0) << 8) | (b[i + 1] ?? 0);
const u32 = (b: Uint8Array, i: number): number => ((u16(b, i) << 16) | u16(b, i + 2)) >>> 0;

/** Names of one and the same kind. */
const KIND: Record<string, string> = {
  'image/jpg': 'image/jpeg',
  'image/pjpeg': 'image/jpeg',
  'application/vnd.ms-opentype': 'font/sfnt',
  'application/font-sfnt': 'font/sfnt',
  'application/x-font-ttf': 'font/sfnt',
  'application/x-font-truetype': 'font/sfnt',
  'application/x-font-opentype': 'font/sfnt',
  'font/otf': 'font/sfnt',
  'font/ttf': 'font/sfnt',
  'application/font-woff': 'font/woff',
  'application/x-font-woff': 'font/woff',
  'audio/mp3': 'audio/mpeg',
  'audio/mp4': 'iso',
  'video/mp4': 'iso',
  'audio/x-m4a': 'iso',
};
const kind = (type: string): string => KIND[bare(type)] ?? bare(type);
const SNIFFABLE = /^(image|font|audio|video)\/|font|opentype|xhtml/;

/** A rule that looks at each file of a sort. Obfuscated typefaces are not what they are. */
const each = (
  sort: RegExp,
  of: Omit<Rule<EpubSubject>, 'look'>,
  look: (b: Uint8Array, i: ManifestItem, s: EpubSubject) => string | null,
): Rule<EpubSubject> => ({
  ...of,
  *look(s): Iterable<Breach> {
    const obfuscated = s.xml('META-INF/encryption.xml')?.text ?? '';
    for (const i of s.manifest) {
      if (!i.path || !sort.test(bare(i.type)) || obfuscated.includes(i.path.split('/').at(-1) ?? i.path))
        continue;
      const b = s.part(i.path);
      const message = b && b.length > 0 ? look(b, i, s) : null;
      if (message) yield { message, file: i.path };
    }
  },
});
const PICTURE = /^image\/(?!svg)/;
const FACE = /^font\/|font|opentype/;

/** Whether a JPEG, PNG or GIF has its end, and what it is drawn in. */
function pictureEnds(b: Uint8Array): boolean {
  const type = mediaTypeOf(b);
  const tail = b.subarray(Math.max(0, b.length - 64));
  if (type === 'image/png') return ascii(tail, 0, tail.length).includes('IEND');
  if (type === 'image/jpeg') return Array.from(tail).some((x, i) => x === 0xff && tail[i + 1] === 0xd9);
  if (type === 'image/gif') return tail.includes(0x3b);
  if (type === 'image/webp')
    return b.length + 1 >= 8 + (b[4]! | (b[5]! << 8) | (b[6]! << 16) | (b[7]! << 24));
  return true;
}
/** Components of a JPEG, 4 of which are inks; 0 where it can’t be told (ITU-T T.81 §B.2.2). */
function jpegComponents(b: Uint8Array): number {
  for (let i = 2; i + 9 < b.length && b[i] === 0xff;) {
    const mark = b[i + 1] ?? 0;
    if (mark >= 0xc0 && mark <= 0xcf && mark !== 0xc4 && mark !== 0xc8 && mark !== 0xcc) return b[i + 9] ?? 0;
    i += 2 + u16(b, i + 2);
  }
  return 0;
}
/** Bits of what a face allows (OpenType, OS/2, fsType); null where it doesn’t say. */
function embedding(b: Uint8Array): number | null {
  const tables = u16(b, 4);
  for (let t = 0; t < Math.min(tables, 100); t++) {
    const at = 12 + t * 16;
    if (ascii(b, at, at + 4) === 'OS/2') return u16(b, u32(b, at + 8) + 8);
  }
  return null;
}
/** Whether all tables of a face lie within its file (OpenType, table directory). */
function faceIsWhole(b: Uint8Array): boolean {
  const first = ascii(b, 0, 4);
  if (first === 'wOFF' || first === 'wOF2') return b.length >= u32(b, 8);
  const tables = u16(b, 4);
  if (tables === 0 || b.length < 12 + tables * 16) return false;
  for (let t = 0; t < tables; t++)
    if (u32(b, 12 + t * 16 + 8) + u32(b, 12 + t * 16 + 12) > b.length) return false;
  return true;
}

const coverOf = (s: EpubSubject): ManifestItem | undefined =>
  s.manifest.find((i) => i.properties.includes('cover-image')) ??
  s.byId.get(s.metadata.find((m) => m.attrs.name === 'cover')?.attrs.content ?? '');

export const MEDIA_RULES: Rule<EpubSubject>[] = [
  {
    name: 'media/other-kind',
    severity: 'blocker',
    source: 'EPUB 3.3 §5.6.2: media-type is that of the resource',
    why: 'Reading systems trust the declared type, and show nothing.',
    remedy: 'Declare its actual type.',
    mend: 'media-type',
    *look(s) {
      const obfuscated = s.xml('META-INF/encryption.xml')?.text ?? '';
      for (const i of s.manifest) {
        if (
          !i.path ||
          !i.type ||
          !SNIFFABLE.test(bare(i.type)) ||
          obfuscated.includes(i.path.split('/').at(-1) ?? i.path)
        )
          continue;
        const b = s.part(i.path);
        const is = b && b.length > 0 ? mediaTypeOf(b) : null;
        if (is && kind(is) !== kind(i.type))
          yield { message: `“${i.href}” is declared as “${i.type}”, but is “${is}”.`, ...itemPlace(s, i) };
      }
    },
  },
  {
    name: 'media/nameless-kind',
    severity: 'caution',
    source: 'EPUB 3.3 §3.2: the names of the core media types',
    why: 'Some reading systems know only the standard name.',
    remedy: 'Use the standard name.',
    mend: 'media-type',
    *look(s) {
      for (const i of s.manifest)
        if (
          /^(image\/jpg|image\/pjpeg|audio\/mp3|image\/svg|text\/html|application\/x-font-(woff|truetype|opentype))$/.test(
            bare(i.type),
          )
        )
          yield { message: `“${i.type}” isn’t the name of a media type.`, ...itemPlace(s, i) };
    },
  },
  {
    name: 'media/ending',
    severity: 'note',
    source: 'common practice: programs that go by the ending of a name',
    why: 'A few programs can’t open it.',
    remedy: 'Rename the file.',
    *look(s) {
      const endings: Record<string, RegExp> = {
        'image/jpeg': /\.jpe?g$/i,
        'image/png': /\.png$/i,
        'image/gif': /\.gif$/i,
        'image/svg+xml': /\.svg$/i,
        'text/css': /\.css$/i,
      };
      for (const i of s.manifest) {
        const fits = endings[bare(i.type)];
        if (i.path && fits && !fits.test(i.path) && s.names.has(i.path))
          yield {
            message: `“${i.href}” doesn’t have the usual ending for ${bare(i.type)}.`,
            ...itemPlace(s, i),
          };
      }
    },
  },
  each(
    PICTURE,
    {
      name: 'picture/broken',
      severity: 'blocker',
      source: 'PNG §5, ITU-T T.81 §B, GIF89a §17: the beginning of a picture',
      why: 'Readers see an empty frame.',
      remedy: 'Add the picture again.',
    },
    (b, i) => (mediaTypeOf(b) === null ? `“${i.href}” isn’t a picture, or is damaged.` : null),
  ),
  each(
    PICTURE,
    {
      name: 'picture/cut-short',
      severity: 'caution',
      source: 'PNG §5.3 (IEND), ITU-T T.81 §B.1.1.3 (EOI), GIF89a §27 (trailer)',
      why: 'The lower part is missing.',
      remedy: 'Add the picture again.',
    },
    (b, i) => (mediaTypeOf(b) !== null && !pictureEnds(b) ? `The end of “${i.href}” is missing.` : null),
  ),
  each(
    PICTURE,
    {
      name: 'picture/no-size',
      severity: 'blocker',
      source: 'PNG §11.2.2, ITU-T T.81 §B.2.2: width and height are not zero',
      remedy: 'Add the picture again.',
    },
    (b, i) => {
      const info = pictureInfo(b);
      return info && (info.width === 0 || info.height === 0) ? `“${i.href}” has no size.` : null;
    },
  ),
  each(
    PICTURE,
    {
      name: 'picture/very-large',
      severity: 'caution',
      source: 'common practice: older devices hold about sixteen million pixels',
      why: 'Older devices don’t show it, and some shops refuse it.',
      remedy: 'Make it smaller: 2,500 pixels on its longer side are enough for any screen.',
    },
    (b, i) => {
      const info = pictureInfo(b);
      return info && info.width * info.height > 16_000_000
        ? `“${i.href}” has ${info.width} × ${info.height} pixels.`
        : null;
    },
  ),
  each(
    PICTURE,
    {
      name: 'picture/heavy',
      severity: 'note',
      source: 'common practice: pictures of up to five megabytes',
      why: 'It makes the file large, and some shops take a charge per megabyte.',
      remedy: 'Save it with more compression.',
    },
    (b, i) =>
      b.length > 5_000_000 ? `“${i.href}” has ${(b.length / 1_000_000).toFixed(1)} megabytes.` : null,
  ),
  each(
    PICTURE,
    {
      name: 'picture/inks',
      severity: 'caution',
      source: 'common practice: screens show red, green and blue',
      why: 'Many readers show a JPEG in printing inks in wrong colours, or not at all.',
      remedy: 'Save it in RGB.',
    },
    (b, i) =>
      mediaTypeOf(b) === 'image/jpeg' && jpegComponents(b) === 4 ? `“${i.href}” is in printing inks.` : null,
  ),
  each(
    PICTURE,
    {
      name: 'picture/moving',
      severity: 'caution',
      source: 'WCAG 2.2, 2.2.2 (Pause, Stop, Hide)',
      why: 'Readers can’t stop it.',
      remedy: 'Use a still picture instead.',
    },
    (b, i) => {
      if (mediaTypeOf(b) !== 'image/gif') return null;
      let frames = 0;
      for (let k = 0; k + 3 < b.length && frames < 2; k++)
        if (b[k] === 0x21 && b[k + 1] === 0xf9 && b[k + 2] === 4) frames++;
      return frames > 1 ? `“${i.href}” moves.` : null;
    },
  ),
  {
    name: 'picture/cover-missing',
    severity: 'note',
    source: 'EPUB 3.3 D.6.1; common practice: shops show the cover',
    why: 'Libraries show a grey box instead.',
    remedy: 'Choose a picture for the cover.',
    *look(s) {
      if (s.packageFile?.root && !coverOf(s)) yield { message: 'The ebook has no cover.', file: s.path };
    },
  },
  {
    name: 'picture/cover-small',
    severity: 'note',
    source: 'common practice: covers of at least 1,000 pixels in height',
    why: 'It looks blurred in shops.',
    remedy: 'Use a picture about 2,500 pixels high.',
    *look(s) {
      const cover = coverOf(s);
      const b = cover?.path ? s.part(cover.path) : null;
      const info = b ? pictureInfo(b) : null;
      if (cover && info && info.height < 1_000)
        yield { message: `The cover has ${info.width} × ${info.height} pixels.`, file: cover.path };
    },
  },
  {
    name: 'picture/unused',
    severity: 'note',
    source: 'common practice',
    why: 'It makes the file larger, and nobody sees it.',
    remedy: 'Remove it.',
    *look(s) {
      const used = new Set<string>();
      for (const d of s.documents) for (const r of d.references) if (r.to) used.add(r.to.path);
      const css = s.sheets.map((x) => x.css).join('\n');
      for (const i of s.manifest)
        if (
          bare(i.type).startsWith('image/') &&
          i.path &&
          s.names.has(i.path) &&
          !used.has(i.path) &&
          i !== coverOf(s) &&
          !css.includes(encodeURI(i.path.split('/').at(-1) ?? '')) &&
          !css.includes(i.path.split('/').at(-1) ?? '')
        )
          yield { message: `No page shows “${i.href}”.`, file: i.path };
    },
  },
  each(
    FACE,
    {
      name: 'face/broken',
      severity: 'blocker',
      source: 'OpenType 1.9 (table directory); WOFF 1.0 §3; WOFF 2.0 §4',
      why: 'Readers see a different typeface.',
      remedy: 'Add the typeface again.',
    },
    (b, i) => {
      const is = mediaTypeOf(b);
      return is === null || !/^font\//.test(is)
        ? `“${i.href}” isn’t a typeface, or is damaged.`
        : !faceIsWhole(b)
          ? `The end of “${i.href}” is missing.`
          : null;
    },
  ),
  each(
    FACE,
    {
      name: 'face/embedding',
      severity: 'caution',
      source: 'OpenType 1.9, OS/2 fsType: bit 1 forbids embedding',
      why: 'Its maker doesn’t allow it in ebooks.',
      remedy: 'Get a licence, or choose another typeface.',
    },
    (b, i) => {
      const bits = /^(font\/(otf|ttf))$/.test(mediaTypeOf(b) ?? '') ? embedding(b) : null;
      return bits !== null && (bits & 0x000f) === 2 ? `“${i.href}” says it must not be embedded.` : null;
    },
  ),
  {
    name: 'face/unused',
    severity: 'note',
    source: 'common practice',
    why: 'It makes the file larger, and nothing uses it.',
    remedy: 'Remove it.',
    *look(s) {
      const css = s.sheets.map((x) => x.css).join('\n');
      const svg = s.documents
        .filter((d) => d.item.type !== XHTML)
        .map((d) => d.text)
        .join('\n');
      for (const i of s.manifest) {
        const name = i.path.split('/').at(-1) ?? '';
        if (
          FACE.test(bare(i.type)) &&
          i.path &&
          s.names.has(i.path) &&
          ![css, svg].some((t) => t.includes(name) || t.includes(encodeURI(name)))
        )
          yield { message: `No style sheet uses “${i.href}”.`, file: i.path };
      }
    },
  },
  {
    name: 'media/film-kind',
    severity: 'note',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §3.2, note on video codecs: H.264 and VP8 are known most widely',
    remedy: 'Use H.264 in MP4.',
    *look(s) {
      for (const i of s.manifest)
        if (/^video\//.test(bare(i.type)) && !/^video\/(mp4|webm|h264)$/.test(bare(i.type)))
          yield { message: `Few reading systems show films of the kind “${i.type}”.`, ...itemPlace(s, i) };
    },
  },
];
