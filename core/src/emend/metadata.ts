/** The metadata of the package as rows that can be changed one by one; everything else of the document stays. */
import { escapeXml, refused, type Outcome } from '../base';
import type { Emended } from './container';
import { Draft, indentOf, withIndent, type Emendation } from './draft';
import { elementsNamed, localName, textWithin, valueOf, type Located } from './located';
import { attribute, type Replacement } from './markup';
import { attributeEdit, freshId, lineWithin, packageSource, type PackageSource } from './opf';

export interface MetadataRow {
  /** Number among the children of `metadata`. */
  at: number;
  /** `dc:title`, `dcterms:modified`, `schema:accessMode`, `cover`: an element, a property, or a name of the older form. */
  name: string;
  value: string;
  /** What refines it (EPUB 3.3 §5.5.3), or attributes of the older form that do: `role`, `file-as`, `scheme`. */
  refines: { at: number; name: string; value: string }[];
}

const metadataIn = (s: PackageSource): Located | undefined => elementsNamed(s.elements, 'metadata')[0];

function nameOf(e: Located): string {
  if (localName(e.name) !== 'meta') return `dc:${localName(e.name)}`;
  return valueOf(e, 'property') ?? valueOf(e, 'name') ?? 'meta';
}
const valueIn = (s: PackageSource, e: Located): string =>
  textWithin(s.text, e) || (valueOf(e, 'content') ?? '');

/** Names that the older form gives to what refines an element (OPF 2.0.1 §2.2). */
const OLDER = ['opf:role', 'opf:file-as', 'opf:scheme', 'opf:event'];

/** Rows in the order of the document; what refines another stands with it. */
export function metadataRows(d: Draft): MetadataRow[] {
  const s = packageSource(d);
  const all = metadataIn(s)?.children ?? [];
  const refining = (e: Located): string | undefined => valueOf(e, 'refines')?.replace(/^#/, '');
  return all.flatMap((e, at) => {
    if (refining(e) !== undefined || localName(e.name) === 'link') return [];
    const id = valueOf(e, 'id');
    const newer = all.flatMap((x, k) =>
      id !== undefined && refining(x) === id ? [{ at: k, name: nameOf(x), value: valueIn(s, x) }] : [],
    );
    const older = e.attributes.flatMap((a) =>
      OLDER.includes(a.name) ? [{ at: -1, name: localName(a.name), value: a.value }] : [],
    );
    return [{ at, name: nameOf(e), value: valueIn(s, e), refines: [...newer, ...older] }];
  });
}

export type MetadataChange =
  | { do: 'set'; at: number; value: string }
  | { do: 'add'; name: string; value: string }
  | { do: 'remove'; at: number }
  /** Sets, adds or (with '') removes what refines a row. */
  | { do: 'refine'; at: number; name: string; value: string };

/** Elements that a package must have (EPUB 3.3 §5.5.3.1). */
const NEEDED = new Set(['dc:title', 'dc:language', 'dc:identifier']);

const SCRAMBLING = 'http://www.idpf.org/2008/embedding';

/** Errors: `emend/gone`, `emend/needed`. */
export function changeMetadata(e: Emended, change: MetadataChange): Outcome<Emendation> {
  const d = new Draft(e);
  const s = packageSource(d);
  const metadata = metadataIn(s);
  if (!metadata) return refused('emend/gone', 'The package has no metadata.');
  const newer = !d.package.version.startsWith('2');
  if (change.do === 'add') {
    d.edit(s.path, [lineWithin(s.text, metadata, written(change.name, change.value.trim(), newer))]);
    return d.done('Add to the package');
  }
  const row = metadata.children[change.at];
  if (!row) return refused('emend/gone', 'That line of the package no longer exists.');
  const name = nameOf(row);
  const alone = metadata.children.filter((x) => nameOf(x) === name).length === 1;
  if (change.do === 'remove') {
    if (NEEDED.has(name) && alone)
      return refused('emend/needed', 'An ebook must have a title, a language and an identifier.');
    const id = valueOf(row, 'id');
    const refining = metadata.children.filter((x) => id !== undefined && valueOf(x, 'refines') === `#${id}`);
    d.edit(
      s.path,
      [row, ...refining].map((x) => ({ ...withIndent(s.text, x), with: '' })),
    );
    return d.done('Remove from the package');
  }
  if (change.do === 'set') {
    const value = change.value.trim();
    if (value === '' && NEEDED.has(name))
      return refused('emend/needed', 'An ebook must have a title, a language and an identifier.');
    // Typefaces scrambled by it (EPUB 3.3 §4.4) could not be read any more.
    if (isUniqueIdentifier(s, row) && d.text('META-INF/encryption.xml').includes(SCRAMBLING))
      return refused(
        'emend/needed',
        'Typefaces of this ebook are scrambled by its identifier, so the identifier has to stay.',
      );
    d.edit(s.path, valueEdits(s, row, value));
    if (isUniqueIdentifier(s, row)) ncxFollows(d, value);
    return d.done('Change the package');
  }
  d.edit(s.path, refineEdits(s, metadata, row, change, newer));
  return d.done('Change the package');
}

const valueEdits = (s: PackageSource, row: Located, value: string): Replacement[] =>
  valueOf(row, 'content') !== undefined && textWithin(s.text, row) === ''
    ? attributeEdit(s.text, row, 'content', value)
    : s.text.slice(row.open.from, row.open.to).endsWith('/>')
      ? [
          {
            ...row.open,
            with: `${s.text.slice(row.open.from, row.open.to).replace(/\s*\/>$/, '>')}${escapeXml(value)}</${row.name}>`,
          },
        ]
      : [{ ...row.inner, with: escapeXml(value) }];

function written(name: string, value: string, newer: boolean): string {
  if (name.startsWith('dc:')) return `<${name}>${escapeXml(value)}</${name}>`;
  return newer
    ? `<meta${attribute('property', name)}>${escapeXml(value)}</meta>`
    : `<meta${attribute('name', name)}${attribute('content', value)}/>`;
}

function refineEdits(
  s: PackageSource,
  metadata: Located,
  row: Located,
  { name, value }: { name: string; value: string },
  newer: boolean,
): Replacement[] {
  if (!newer) return attributeEdit(s.text, row, `opf:${name}`, value.trim() || null);
  const id = valueOf(row, 'id');
  const known = metadata.children.find(
    (x) => id !== undefined && valueOf(x, 'refines') === `#${id}` && nameOf(x) === name,
  );
  if (known)
    return value.trim() === ''
      ? [{ ...withIndent(s.text, known), with: '' }]
      : valueEdits(s, known, value.trim());
  if (value.trim() === '') return [];
  const given = id ?? freshId(s, localName(row.name));
  const scheme = name === 'role' ? attribute('scheme', 'marc:relators') : '';
  const line = `<meta${attribute('refines', `#${given}`)}${attribute('property', name)}${scheme}>${escapeXml(value.trim())}</meta>`;
  return [
    ...(id === undefined ? attributeEdit(s.text, row, 'id', given) : []),
    { from: row.to, to: row.to, with: `${indentOf(s.text, row)}${line}` },
  ];
}

const isUniqueIdentifier = (s: PackageSource, row: Located): boolean =>
  valueOf(row, 'id') !== undefined &&
  valueOf(row, 'id') === valueOf(s.elements[0] as Located, 'unique-identifier');

/** The NCX says the package’s identifier again (OPF 2.0.1 §2.4.1). */
function ncxFollows(d: Draft, identifier: string): void {
  const ncx = d.package.manifest.find((i) => i.type === 'application/x-dtbncx+xml')?.path;
  if (ncx === undefined) return;
  const uid = d.elements(ncx).find((x) => localName(x.name) === 'meta' && valueOf(x, 'name') === 'dtb:uid');
  if (uid) d.edit(ncx, attributeEdit(d.text(ncx), uid, 'content', identifier));
}

/** States when the ebook was last changed, as `2026-11-28T22:00:00Z` (EPUB 3.3 §5.5.4.1). EPUB 2 has no place for it. */
export function setModified(d: Draft, moment: string): void {
  if (d.package.version.startsWith('2')) return;
  const s = packageSource(d);
  const metadata = metadataIn(s);
  const row = metadata?.children.find((x) => nameOf(x) === 'dcterms:modified');
  if (row) d.edit(s.path, valueEdits(s, row, moment));
  else if (metadata)
    d.edit(s.path, [lineWithin(s.text, metadata, written('dcterms:modified', moment, true))]);
}
export function restamp(e: Emended, moment: string): Outcome<Emendation> {
  const d = new Draft(e);
  setModified(d, moment);
  return d.done('Set the date of modification');
}
