/** The dialect of EPUB 3.3 (W3C Recommendation): package (§5), navigation document (§7), and an NCX beside it for older readers. */
import { escapeXml } from '../base';
import { bookMeta } from './metadata';
import { navList } from './navigation';
import { ncxFile } from './ncx';
import { faceItems, isDocument, type Dialect, type Publication } from './publication';
import { xhtmlFile } from './xhtml';

export const EPUB_33: Dialect = {
  contents: 'nav.xhtml',
  formulas: true,
  document: (xhtml) => xhtml,
  style: (css) => css,
  packageFile,
  navigationFiles: (p) => [
    { href: 'nav.xhtml', text: navFile(p) },
    { href: 'toc.ncx', text: ncxFile(p) },
  ],
};

function packageFile(p: Publication): string {
  const manifest = [
    '<item id="nav" href="nav.xhtml" media-type="application/xhtml+xml" properties="nav"/>',
    '<item id="ncx" href="toc.ncx" media-type="application/x-dtbncx+xml"/>',
    '<item id="style" href="style.css" media-type="text/css"/>',
    ...p.spine
      .filter(isDocument)
      .map(
        (d) =>
          `<item id="${d.id}" href="${d.href}" media-type="application/xhtml+xml"${properties(d.xhtml)}/>`,
      ),
    ...p.pictures.map(
      (x) =>
        `<item id="${x.id}" href="${x.href}" media-type="${x.type}"${x.isCover ? ' properties="cover-image"' : ''}/>`,
    ),
    ...faceItems(p, 'font/ttf'),
  ];
  const spine = p.spine.map((d) =>
    isDocument(d)
      ? `<itemref idref="${d.id}"${d.side ? ` properties="${SIDES[d.side]}"` : ''}/>`
      : '<itemref idref="nav"/>',
  );
  return `<?xml version="1.0" encoding="utf-8"?>
<package xmlns="http://www.idpf.org/2007/opf" version="3.0" unique-identifier="id" xml:lang="${escapeXml(p.record.language)}">
<metadata xmlns:dc="http://purl.org/dc/elements/1.1/">
${metadata(p).join('\n')}
</metadata>
<manifest>
${manifest.join('\n')}
</manifest>
<spine toc="ncx">
${spine.join('\n')}
</spine>
</package>
`;
}

/** What a document holds besides XHTML (§5.6.2.2). */
function properties(xhtml: string): string {
  const held = [...(xhtml.includes('<math ') ? ['mathml'] : []), ...(xhtml.includes('<svg ') ? ['svg'] : [])];
  return held.length > 0 ? ` properties="${held.join(' ')}"` : '';
}
/** Where a page stands in a spread (§8.2.2.5). */
const SIDES = {
  left: 'page-spread-left',
  right: 'page-spread-right',
  centre: 'rendition:page-spread-center',
} as const;

function metadata(p: Publication): string[] {
  const meta = bookMeta(p);
  // Pages of a fixed size, two beside each other where there is room (§8.2.2).
  if (p.fixed)
    meta.push(
      '<meta property="rendition:layout">pre-paginated</meta>',
      '<meta property="rendition:orientation">auto</meta>',
      '<meta property="rendition:spread">auto</meta>',
    );
  // EPUB Previews 1.0 §3.1 (from memory).
  if (p.sampleOf !== null)
    meta.push('<dc:type>preview</dc:type>', `<dc:source>${escapeXml(p.sampleOf)}</dc:source>`);
  for (const [property, value] of p.access)
    meta.push(`<meta property="${property}"${ours(property, p)}>${escapeXml(value)}</meta>`);
  if (p.pictures.some((x) => x.isCover)) meta.push('<meta name="cover" content="cover-picture"/>');
  return meta;
}

/** The summary is written in English, whatever the book is in. */
const ours = (property: string, { record }: Publication): string =>
  property === 'schema:accessibilitySummary' && !/^en\b/.test(record.language) ? ' xml:lang="en"' : '';

function navFile(p: Publication): string {
  const heading = escapeXml(p.contents.heading);
  const marks = p.landmarks.map(
    (l) => `<li><a epub:type="${l.type}" href="${l.href}">${escapeXml(l.label)}</a></li>`,
  );
  // A list has an entry at least (§7.3).
  const landmarks = marks.length
    ? `\n<nav epub:type="landmarks" aria-label="${escapeXml(p.words.landmarks)}" hidden="hidden">\n<ol>\n${marks.join('\n')}\n</ol>\n</nav>`
    : '';
  const pages = p.pages.length
    ? `\n<nav epub:type="page-list" role="doc-pagelist" aria-label="${escapeXml(p.words.pages)}" hidden="hidden">\n<ol>\n${p.pages.map((x) => `<li><a href="${x.href}">${escapeXml(x.label)}</a></li>`).join('\n')}\n</ol>\n</nav>`
    : '';
  const body = `<nav epub:type="toc" role="doc-toc" id="toc" aria-labelledby="toc-heading">\n<h1 id="toc-heading"><span class="title">${heading}</span></h1>\n${navList(p.contents.entries)}\n</nav>${landmarks}${pages}`;
  return xhtmlFile(p.contents.heading, p.record.language, 'style.css', body, ' epub:type="frontmatter"');
}
