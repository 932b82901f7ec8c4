/** Mends of the metadata, and of the package document as a whole. */
import { digestOf, escapeXml, uuidOf } from '../../base';
import {
  attributeEdit,
  elementsNamed,
  freshId,
  lineWithin,
  localName,
  packageSource,
  setModified,
  setProperties,
  textWithin,
  unescapeXml,
  valueOf,
  type Draft,
  type Located,
} from '../../emend';
import { isLanguage, meantTag } from '../epub/language';
import { NCX } from '../epub/subject';
import { atElements, isElement, valueFor, withoutAttribute, type Mend, type Mending } from './mend';
import { gone, metadataOf, removed } from './places';

const addMetadata = (d: Draft, line: string): void => {
  const { path } = d.package;
  const metadata = metadataOf(d);
  if (metadata) d.edit(path, [lineWithin(d.text(path), metadata, line)]);
};

/** Documents by the headings and words of the navigation, where the book says nothing itself. */
function titleIn({ d, s }: Mending): string {
  const ncx = s.manifest.find((i) => i.type === NCX)?.path;
  const own = ncx ? elementsNamed(d.elements(ncx), 'docTitle')[0] : undefined;
  const said = own && ncx ? textWithin(d.text(ncx), own) : '';
  if (said) return said;
  for (const { idref } of s.spine) {
    const path = s.byId.get(idref)?.path ?? '';
    const heading = elementsNamed(d.elements(path), 'h1')[0] ?? elementsNamed(d.elements(path), 'title')[0];
    const words = heading ? textWithin(d.text(path), heading) : '';
    if (words) return words;
  }
  return '';
}

/** The language that most documents say they are in. */
function languageIn({ s }: Mending): string {
  const said = new Map<string, number>();
  for (const d of s.documents) {
    const tag = d.root?.attrs['xml:lang'] ?? d.root?.attrs.lang;
    if (tag && isLanguage(tag)) said.set(tag, (said.get(tag) ?? 0) + 1);
  }
  return [...said].sort((a, b) => b[1] - a[1])[0]?.[0] ?? '';
}

/** Paths that refer to an id of their own file, or of another, in attributes that name ids. */
const ID_LISTS = new Set(['aria-labelledby', 'aria-describedby', 'aria-details', 'aria-controls', 'aria-owns', 'headers', 'for', 'idref', 'fallback', 'media-overlay', 'toc', 'unique-identifier', 'refines', 'list', 'form']); // prettier-ignore

/** Ids of a part by other names, and everything that leads to them with them. */
function renameIds(d: Draft, path: string, names: ReadonlyMap<string, string>): void {
  d.lead((r) => {
    const to = r.path === path && r.fragment ? names.get(unescapeXml(r.fragment)) : undefined;
    return to === undefined ? null : { path: r.path, fragment: to };
  });
  const text = d.text(path);
  d.edit(
    path,
    d.elements(path).flatMap((e) =>
      e.attributes.flatMap((a) => {
        if (a.name === 'id') return names.has(a.value) ? [valueFor(text, a, names.get(a.value) ?? '')] : [];
        if (!ID_LISTS.has(a.name)) return [];
        const bare = a.value.replace(/^#/, '');
        const whole = names.get(bare);
        return whole === undefined ? [] : [valueFor(text, a, a.value.startsWith('#') ? `#${whole}` : whole)];
      }),
    ),
  );
}

export const PACKAGE_MENDS: Record<string, Mend> = {
  identifier: {
    label: 'Give the book an identifier',
    apply({ d, s }) {
      // The same each time: it is made of what the pages hold.
      const made = uuidOf(digestOf(s.documents.map((x) => x.text).join('\n')));
      const { path } = d.package;
      const wanted = valueOf(d.elements(path)[0] as Located, 'unique-identifier');
      const taken = d.elements(path).some((e) => valueOf(e, 'id') === wanted);
      const id = wanted && !taken ? wanted : freshId(packageSource(d), 'bookid');
      addMetadata(d, `<dc:identifier id="${escapeXml(id)}">urn:uuid:${made}</dc:identifier>`);
      d.edit(path, attributeEdit(d.text(path), d.elements(path)[0] as Located, 'unique-identifier', id));
    },
  },

  'unique-identifier': {
    label: 'Name the book’s identifier',
    apply({ d }) {
      const { path } = d.package;
      const identifier = elementsNamed(d.elements(path), 'identifier')[0];
      const root = d.elements(path)[0];
      if (!identifier || !root) return;
      let id = valueOf(identifier, 'id');
      if (!id) {
        id = freshId(packageSource(d), 'bookid');
        d.edit(path, attributeEdit(d.text(path), identifier, 'id', id));
      }
      d.edit(path, attributeEdit(d.text(path), d.elements(path)[0] as Located, 'unique-identifier', id));
    },
  },
  'package-order': {
    label: 'Put the parts of the package in their order',
    apply({ d }) {
      const order = ['metadata', 'manifest', 'spine', 'tours', 'guide', 'bindings', 'collection'];
      const { path } = d.package;
      const text = d.text(path);
      const parts = (d.elements(path)[0]?.children ?? []).filter((e) => order.includes(localName(e.name)));
      const sorted = [...parts].sort(
        (a, b) => order.indexOf(localName(a.name)) - order.indexOf(localName(b.name)),
      );
      d.edit(
        path,
        parts.map((e, i) => ({ from: e.from, to: e.to, with: text.slice(sorted[i]?.from, sorted[i]?.to) })),
      );
    },
  },
  'id-form': {
    label: 'Correct ids, and everything that refers to them',
    apply(m) {
      for (const path of new Set(m.findings.map((f) => f.file ?? ''))) {
        const taken = new Set(m.d.elements(path).flatMap((e) => valueOf(e, 'id') ?? []));
        const names = new Map<string, string>();
        for (const id of taken) {
          if (id !== '' && /^[\p{L}_][\p{L}\p{N}\p{M}._\u00b7-]*$/u.test(id)) continue;
          const plain = id.trim().replace(/[^\p{L}\p{N}\p{M}._-]+/gu, '-') || 'part';
          const start = /^[\p{L}_]/u.test(plain) ? plain : `id-${plain}`;
          let to = start;
          for (let n = 2; taken.has(to) || [...names.values()].includes(to); n++) to = `${start}-${n}`;
          names.set(id, to);
        }
        renameIds(m.d, path, names);
      }
    },
  },
  title: {
    label: 'Take the title from the text',
    apply(m) {
      const title = titleIn(m);
      if (title) addMetadata(m.d, `<dc:title>${escapeXml(title)}</dc:title>`);
    },
  },
  language: {
    label: 'Take the language from the pages',
    apply(m) {
      const tag = languageIn(m);
      if (tag) addMetadata(m.d, `<dc:language>${escapeXml(tag)}</dc:language>`);
    },
  },
  'language-tag': {
    label: 'Correct the language tag',
    apply: atElements((e, text, _m, _path, a) => {
      const tag = meantTag(a ? a.value : textWithin(text, e));
      if (tag === null) return [];
      return a ? [valueFor(text, a, tag)] : [{ ...e.inner, with: tag }];
    }),
  },
  'empty-metadata': { label: 'Remove empty lines', apply: removed },
  'dead-refines': {
    label: 'Remove metadata that describes nothing',
    apply: atElements((e, text) => gone(e, text)),
  },
  modified: {
    label: 'Set the date of the last change',
    apply({ d, moment }) {
      setModified(d, moment);
    },
  },
  'older-attribute': {
    label: 'Convert to EPUB 3 metadata',
    apply({ d }) {
      const { path } = d.package;
      for (;;) {
        const metadata = metadataOf(d);
        const e = metadata?.children.find((c) => c.attributes.some((a) => a.name.startsWith('opf:')));
        const a = e?.attributes.find((x) => x.name.startsWith('opf:'));
        if (!metadata || !e || !a) return;
        const id = valueOf(e, 'id') ?? freshId(packageSource(d), localName(e.name));
        const name = localName(a.name);
        const line =
          name === 'role'
            ? `<meta refines="#${id}" property="role" scheme="marc:relators">${escapeXml(a.value)}</meta>`
            : name === 'file-as'
              ? `<meta refines="#${id}" property="file-as">${escapeXml(a.value)}</meta>`
              : '';
        const text = d.text(path);
        d.edit(path, [withoutAttribute(text, a), ...(line ? [lineWithin(text, metadata, line, e)] : [])]);
        const now = metadataOf(d)?.children.find((c) => c.from === e.from);
        if (line && now && valueOf(now, 'id') === undefined)
          d.edit(path, attributeEdit(d.text(path), now, 'id', id));
      }
    },
  },
  cover: {
    label: 'Name the picture of the cover',
    apply({ d, s }) {
      const named = s.manifest.find((i) => i.properties.includes('cover-image'));
      const olderMeta = d
        .elements(d.package.path)
        .find((e) => isElement(e, 'meta') && valueOf(e, 'name') === 'cover');
      // A page in place of a picture: the one picture that it shows.
      const first = s.documentAt.get(named && !named.type.startsWith('image/') ? named.path : '');
      const shown = first
        ? first.references.filter(
            (r) => r.sort === 'shown' && r.to && s.items.get(r.to.path)?.type.startsWith('image/'),
          )
        : [];
      const picture = named?.type.startsWith('image/')
        ? named.path
        : shown.length === 1
          ? (shown[0]?.to?.path ?? null)
          : null;
      if (named && !named.type.startsWith('image/')) {
        setProperties(d, named.path, { 'cover-image': false });
        if (picture) setProperties(d, picture, { 'cover-image': true });
      }
      if (!olderMeta) return;
      const { path } = d.package;
      const id = picture ? d.package.manifest.find((i) => i.path === picture)?.id : undefined;
      const meta = d.elements(path).find((e) => isElement(e, 'meta') && valueOf(e, 'name') === 'cover');
      if (meta)
        d.edit(path, id ? attributeEdit(d.text(path), meta, 'content', id) : gone(meta, d.text(path)));
    },
  },
};
