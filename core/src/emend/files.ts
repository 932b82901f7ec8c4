/** Pictures, typefaces, style sheets and other files: listed with what uses them, added, replaced, removed; the cover. */
import { refused, type Outcome } from '../base';
import { reference } from '../package';
import { zipOf, type Emended } from './container';
import { Draft, withIndent, type Emendation } from './draft';
import { elementsNamed, localName, valueOf } from './located';
import { attribute, nameFrom, type Replacement } from './markup';
import { addItem, attributeEdit, lineWithin, packageSource, removeItem, setProperties } from './opf';
import type { Reference } from './references';
import { freePath, renamePart } from './renaming';

export interface FileRow {
  path: string;
  /** As the manifest declares it, '' where it declares nothing. */
  type: string;
  bytes: number;
  isCover: boolean;
  /** Parts that refer to it, each once, in the order of the container; not the manifest. */
  usedBy: string[];
  /** Of a picture: what the documents say of it, one for each time it is shown. `offset` is that of the element. */
  alternatives: { path: string; offset: number; text: string | null; decorative: boolean }[];
}

/** All parts but the container’s own, with what uses them. */
export function fileRows(e: Emended): FileRow[] {
  const d = new Draft(e);
  const p = d.package;
  const sizes = new Map(zipOf(e).entries.map((x) => [x.name, x.size]));
  const types = new Map(p.manifest.map((i) => [i.path, i]));
  const cover = coverPath(d);
  const used = new Map<string, Reference[]>();
  for (const r of d.references())
    if (r.in !== p.path && r.path !== r.in) used.set(r.path, [...(used.get(r.path) ?? []), r]);
  return [...e.parts.keys()]
    .filter(
      (path) =>
        path !== 'mimetype' && !path.startsWith('META-INF/') && !path.endsWith('/') && path !== p.path,
    )
    .map((path) => ({
      path,
      type: types.get(path)?.type ?? '',
      bytes: sizes.get(path) ?? 0,
      isCover: path === cover,
      usedBy: [...new Set((used.get(path) ?? []).map((r) => r.in))],
      alternatives: (used.get(path) ?? []).flatMap((r) => {
        if (!r.element || localName(r.element.name) !== 'img') return [];
        const role = valueOf(r.element, 'role');
        return [
          {
            path: r.in,
            offset: r.element.from,
            text: valueOf(r.element, 'alt') ?? null,
            decorative: role === 'presentation' || role === 'none',
          },
        ];
      }),
    }));
}

/** The cover’s picture: by its property (EPUB 3.3 §5.6.2.1), or by the name of the older form. */
function coverPath(d: Draft): string | null {
  const p = d.package;
  const id = p.metadata.find((m) => m.name === 'cover')?.attrs.content;
  return (
    p.manifest.find((i) => i.properties.includes('cover-image'))?.path ??
    p.manifest.find((i) => i.id === id && i.type.startsWith('image/'))?.path ??
    null
  );
}

/** A picture’s words, or that it only decorates; `offset` is that of its element. */
export function setAlternative(
  e: Emended,
  path: string,
  offset: number,
  to: { text: string; decorative: boolean },
): Outcome<Emendation> {
  const d = new Draft(e);
  const img = d.elements(path).find((x) => x.from === offset && localName(x.name) === 'img');
  if (!img) return refused('emend/gone', 'That picture is no longer there.');
  const text = d.text(path);
  // XHTML 1.1 has no roles.
  const roles = !d.package.version.startsWith('2');
  const decorative = /^(presentation|none)$/.test(valueOf(img, 'role') ?? '');
  const edits = attributeEdit(text, img, 'alt', to.decorative ? '' : to.text.trim());
  if (roles && to.decorative && !decorative)
    edits.push(...behind(attributeEdit(text, img, 'role', 'presentation'), edits));
  if (roles && !to.decorative && decorative) edits.push(...attributeEdit(text, img, 'role', null));
  d.edit(path, edits);
  return d.done('Describe a picture', path);
}
/** Two attributes put in at one place become one replacement. */
function behind(more: Replacement[], edits: Replacement[]): Replacement[] {
  const [a] = more;
  const [b] = edits;
  if (!a || !b || a.from !== b.from || a.from !== a.to || b.from !== b.to) return more;
  b.with += a.with;
  return [];
}

export interface IncomingFile {
  sha256: string;
  bytes: Uint8Array;
  type: string;
  /** As it was called where it came from. */
  name: string;
}
const ENDINGS: Record<string, string> = {
  'image/jpeg': 'jpg',
  'image/png': 'png',
  'image/gif': 'gif',
  'image/webp': 'webp',
  'image/svg+xml': 'svg',
  'font/ttf': 'ttf',
  'font/otf': 'otf',
  'font/woff': 'woff',
  'font/woff2': 'woff2',
  'text/css': 'css',
};
const withFile = (e: Emended, f: IncomingFile): Emended => ({
  ...e,
  files: new Map(e.files).set(f.sha256, f.bytes),
});

/** Other bytes under the same name; where they are of another sort, the name’s ending and the manifest follow. */
export function replaceFile(e: Emended, path: string, f: IncomingFile): Outcome<Emendation> {
  if (!e.parts.has(path)) return refused('emend/gone', `“${path}” is no longer in the ebook.`);
  const ending = ENDINGS[f.type];
  if (!ending) return refused('emend/sort', 'Ebooks show JPEG, PNG, GIF, WebP and SVG pictures.');
  const d = new Draft(withFile(e, f));
  d.replace(path, { sha256: f.sha256 });
  const s = packageSource(d);
  const item = s.items.get(path);
  if (item && valueOf(item, 'media-type') !== f.type)
    d.edit(s.path, attributeEdit(s.text, item, 'media-type', f.type));
  const was = path.replace(/\.[^./]*$/, '');
  const fits = path.toLowerCase().endsWith(`.${ending}`) || (ending === 'jpg' && /\.jpeg$/i.test(path));
  if (fits) return d.done('Replace a file', path);
  const to = freePath(e, `${was}.${ending}`);
  const renamed = renamePart(d.now, path, to);
  if (!renamed.ok) return renamed;
  return {
    ok: true,
    value: {
      label: 'Replace a file',
      changes: [...d.changes, ...renamed.value.changes],
      notes: [],
      show: to,
    },
  };
}

/** Adds a file beside others of its sort, and lists it in the manifest. */
export function addFile(e: Emended, f: IncomingFile): Outcome<Emendation> {
  const ending = ENDINGS[f.type];
  if (!ending)
    return refused('emend/sort', 'Pagina adds pictures, typefaces and style sheets that readers know.');
  const d = new Draft(withFile(e, f));
  const path = put(d, f, ending);
  return d.done('Add a file', path);
}
function put(d: Draft, f: IncomingFile, ending: string): string {
  const p = d.package;
  const sort = f.type.split('/')[0] ?? '';
  const beside = p.manifest.filter((i) => i.type.split('/')[0] === sort && i.path).at(-1)?.path ?? p.path;
  const folder = beside.slice(0, beside.lastIndexOf('/') + 1);
  const stem = nameFrom(f.name.replace(/\.[^.]*$/, '')) || 'file';
  const path = freePath(d.now, `${folder}${stem}.${ending}`);
  d.add(path, { sha256: f.sha256 });
  addItem(d, { href: reference(p.path, { path }), type: f.type, wanted: stem });
  return path;
}

/** Takes out a file that nothing shows. Rules of typefaces and links of style sheets to it go with it. */
export function removeFile(e: Emended, path: string): Outcome<Emendation> {
  if (!e.parts.has(path)) return refused('emend/gone', `“${path}” is no longer in the ebook.`);
  const d = new Draft(e);
  const inTheWay: string[] = [];
  d.editReferences((r) => {
    if (r.path !== path || r.in === d.package.path || r.in === path) return [];
    const text = d.text(r.in);
    if (r.element && localName(r.element.name) === 'link')
      return [{ ...withIndent(text, r.element), with: '' }];
    const rule = r.element ? null : faceRule(text, r);
    if (!rule) inTheWay.push(r.in);
    return rule ? [{ ...rule, with: '' }] : [];
  });
  const [first] = inTheWay;
  if (first !== undefined)
    return refused(
      'emend/used',
      `It is used in “${first}”${inTheWay.length > 1 ? ` and ${inTheWay.length - 1} more` : ''}. Take it out there first.`,
    );
  d.remove(path);
  removeItem(d, path);
  return d.done('Remove a file');
}
/** The `@font-face` rule that an address stands in. */
function faceRule(css: string, r: Reference): { from: number; to: number } | null {
  const from = css.lastIndexOf('@font-face', r.from);
  const to = css.indexOf('}', r.to);
  return from >= 0 && to > 0 && !css.slice(from, r.from).includes('}') ? { from, to: to + 1 } : null;
}

/** Makes a picture of the ebook its cover’s, or puts a new one in place of it. */
export function setCover(e: Emended, cover: { path: string } | IncomingFile): Outcome<Emendation> {
  const d = new Draft('sha256' in cover ? withFile(e, cover) : e);
  const was = coverPath(d);
  if ('sha256' in cover && was !== null) {
    const replaced = replaceFile(e, was, cover);
    return replaced.ok ? { ok: true, value: { ...replaced.value, label: 'Replace the cover' } } : replaced;
  }
  const ending = 'sha256' in cover ? ENDINGS[cover.type] : '';
  if (ending === undefined)
    return refused('emend/sort', 'Ebooks show JPEG, PNG, GIF, WebP and SVG pictures.');
  const path = 'sha256' in cover ? put(d, cover, ending) : cover.path;
  if (!d.package.manifest.some((i) => i.path === path))
    return refused('emend/gone', 'The manifest doesn’t list that picture.');
  if (!d.package.version.startsWith('2')) {
    if (was !== null) setProperties(d, was, { 'cover-image': false });
    setProperties(d, path, { 'cover-image': true });
  }
  olderCover(d, path);
  // A cover page shows the cover, whichever picture that is.
  if (was !== null && was !== path) showInstead(d, was, path);
  return d.done('Change the cover', path);
}
function olderCover(d: Draft, path: string): void {
  const s = packageSource(d);
  const id = valueOf(s.items.get(path) ?? (s.elements[0] as never), 'id') ?? '';
  const meta = s.elements.find((x) => localName(x.name) === 'meta' && valueOf(x, 'name') === 'cover');
  const metadata = elementsNamed(s.elements, 'metadata')[0];
  if (meta) d.edit(s.path, attributeEdit(s.text, meta, 'content', id));
  else if (metadata && d.package.version.startsWith('2'))
    d.edit(s.path, [
      lineWithin(s.text, metadata, `<meta${attribute('name', 'cover')}${attribute('content', id)}/>`),
    ]);
}
/** In the first document, the picture that was the cover becomes the one that is. */
function showInstead(d: Draft, was: string, now: string): void {
  const p = d.package;
  const first = p.manifest.find((i) => i.id === p.spine[0]?.idref)?.path;
  if (first === undefined) return;
  d.lead((r) => (r.in === first && r.path === was ? { path: now, fragment: '' } : null));
}
