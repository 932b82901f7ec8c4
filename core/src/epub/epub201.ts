/**
 * The dialect of EPUB 2.0.1, for readers and shops that know nothing newer: package with a guide (OPF 2.0.1 §2), XHTML 1.1
 * (OPS 2.0.1 §2), the NCX to navigate by, and the contents as a page like any other.
 */
import { escapeXml } from '../base';
import { plainDescription, RELATOR, sortNameOf, subjectOf } from '../record';
import { rights } from './metadata';
import { navList } from './navigation';
import { ncxFile } from './ncx';
import { faceItems, isDocument, type Dialect, type Publication } from './publication';
import { xhtmlFile } from './xhtml';
import { asXhtml11, cssFor11 } from './xhtml11';

export const EPUB_201: Dialect = {
  contents: 'text/contents.xhtml',
  formulas: false,
  document: asXhtml11,
  style: cssFor11,
  packageFile,
  navigationFiles: (p) => [
    { href: 'toc.ncx', text: ncxFile(p) },
    ...(p.spine.includes('contents') ? [{ href: 'text/contents.xhtml', text: contentsFile(p) }] : []),
  ],
};

function packageFile(p: Publication): string {
  const page = (id: string, href: string): string =>
    `<item id="${id}" href="${href}" media-type="application/xhtml+xml"/>`;
  const manifest = [
    '<item id="ncx" href="toc.ncx" media-type="application/x-dtbncx+xml"/>',
    '<item id="style" href="style.css" media-type="text/css"/>',
    ...p.spine.map((d) => (isDocument(d) ? page(d.id, d.href) : page('contents', 'text/contents.xhtml'))),
    ...p.pictures.map((x) => `<item id="${x.id}" href="${x.href}" media-type="${x.type}"/>`),
    ...faceItems(p, 'application/vnd.ms-opentype'),
  ];
  const spine = p.spine.map((d) => `<itemref idref="${isDocument(d) ? d.id : 'contents'}"/>`);
  const guide = p.landmarks.map(
    (l) =>
      `<reference type="${GUIDE[l.type]}" title="${escapeXml(l.label)}" href="${l.href.replace(/#toc$/, '')}"/>`,
  );
  return `<?xml version="1.0" encoding="utf-8"?>
<package xmlns="http://www.idpf.org/2007/opf" version="2.0" unique-identifier="id">
<metadata xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:opf="http://www.idpf.org/2007/opf">
${metadata(p).join('\n')}
</metadata>
<manifest>
${manifest.join('\n')}
</manifest>
<spine toc="ncx">
${spine.join('\n')}
</spine>
${guide.length > 0 ? `<guide>\n${guide.join('\n')}\n</guide>\n` : ''}</package>
`;
}

/** Types of the guide (OPF 2.0.1 §2.6) for landmarks. */
const GUIDE = { cover: 'cover', toc: 'toc', bodymatter: 'text' } as const;

/** Dublin Core with the attributes of OPF 2.0.1 §2.2; what refines is told nowhere else. */
function metadata({ record, identifier, sampleOf, date, modified, pictures }: Publication): string[] {
  const scheme = identifier.startsWith('urn:isbn:') ? 'ISBN' : 'UUID';
  const meta = [
    `<dc:identifier id="id" opf:scheme="${scheme}">${escapeXml(identifier)}</dc:identifier>`,
    // An older reader shows one title.
    `<dc:title>${escapeXml([record.title, record.subtitle].filter(Boolean).join(': '))}</dc:title>`,
    `<dc:language>${escapeXml(record.language)}</dc:language>`,
  ];
  for (const c of record.contributors) {
    const tag = c.role === 'author' ? 'creator' : 'contributor';
    meta.push(
      `<dc:${tag} opf:role="${RELATOR[c.role]}" opf:file-as="${escapeXml(sortNameOf(c))}">${escapeXml(c.name)}</dc:${tag}>`,
    );
  }
  if (record.imprint) meta.push(`<dc:publisher>${escapeXml(record.imprint)}</dc:publisher>`);
  if (record.description)
    meta.push(`<dc:description>${escapeXml(plainDescription(record.description))}</dc:description>`);
  for (const k of record.keywords) meta.push(`<dc:subject>${escapeXml(k)}</dc:subject>`);
  for (const code of record.subjects)
    meta.push(`<dc:subject>${escapeXml(subjectOf(code)?.name ?? code)}</dc:subject>`);
  const published = record.published || date.slice(0, 10);
  if (published) meta.push(`<dc:date opf:event="publication">${escapeXml(published)}</dc:date>`);
  if (modified) meta.push(`<dc:date opf:event="modification">${escapeXml(modified.slice(0, 10))}</dc:date>`);
  meta.push(...rights(record));
  if (sampleOf !== null) meta.push(`<dc:source>${escapeXml(sampleOf)}</dc:source>`);
  if (pictures.some((x) => x.isCover)) meta.push('<meta name="cover" content="cover-picture"/>');
  return meta;
}

function contentsFile(p: Publication): string {
  const entries = p.contents.entries.map((e) => ({
    ...e,
    href: e.href.startsWith('text/') ? e.href.slice(5) : `../${e.href}`,
  }));
  const body = `<section class="contents">\n<h1 id="toc"><span class="title">${escapeXml(p.contents.heading)}</span></h1>\n${navList(entries)}\n</section>`;
  return asXhtml11(xhtmlFile(p.contents.heading, p.record.language, '../style.css', body));
}
