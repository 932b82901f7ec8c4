/** The dialect of EPUB 3.3 (W3C Recommendation): package (§5), navigation document (§7), and an NCX beside it for older readers. */
import { escapeXml } from '../base';
import { depthOfContents, navList, navPoints } from './navigation';
import { isDocument, type Dialect, type Publication } from './publication';
import { xhtmlFile } from './xhtml';

export const EPUB_33: Dialect = {
  contents: 'nav.xhtml',
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
          `<item id="${d.id}" href="${d.href}" media-type="application/xhtml+xml"${d.xhtml.includes('<math ') ? ' properties="mathml"' : ''}/>`,
      ),
    ...p.pictures.map(
      (x) =>
        `<item id="${x.id}" href="${x.href}" media-type="${x.type}"${x.isCover ? ' properties="cover-image"' : ''}/>`,
    ),
  ];
  const spine = p.spine.map((d) => `<itemref idref="${isDocument(d) ? d.id : 'nav'}"/>`);
  return `<?xml version="1.0" encoding="utf-8"?>
<package xmlns="http://www.idpf.org/2007/opf" version="3.0" unique-identifier="id" xml:lang="${escapeXml(p.language)}">
<metadata xmlns:dc="http://purl.org/dc/elements/1.1/">
${p.metadata.join('\n')}
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

function navFile(p: Publication): string {
  const heading = escapeXml(p.contents.heading);
  const landmarks = p.landmarks
    .map((l) => `<li><a epub:type="${l.type}" href="${l.href}">${escapeXml(l.label)}</a></li>`)
    .join('\n');
  const pages = p.pages.length
    ? `\n<nav epub:type="page-list" role="doc-pagelist" aria-label="Pages" hidden="hidden">\n<ol>\n${p.pages.map((x) => `<li><a href="${x.href}">${escapeXml(x.label)}</a></li>`).join('\n')}\n</ol>\n</nav>`
    : '';
  const body = `<nav epub:type="toc" role="doc-toc" id="toc" aria-labelledby="toc-heading">\n<h1 id="toc-heading">${heading}</h1>\n${navList(p.contents.entries)}\n</nav>
<nav epub:type="landmarks" aria-label="Landmarks" hidden="hidden">\n<ol>\n${landmarks}\n</ol>\n</nav>${pages}`;
  return xhtmlFile(p.contents.heading, p.language, 'style.css', body, ' epub:type="frontmatter"');
}

function ncxFile(p: Publication): string {
  return `<?xml version="1.0" encoding="utf-8"?>
<ncx xmlns="http://www.daisy.org/z3986/2005/ncx/" version="2005-1" xml:lang="${escapeXml(p.language)}">
<head><meta name="dtb:uid" content="${escapeXml(p.identifier)}"/><meta name="dtb:depth" content="${depthOfContents(p.contents.entries)}"/><meta name="dtb:totalPageCount" content="0"/><meta name="dtb:maxPageNumber" content="0"/></head>
<docTitle><text>${escapeXml(p.title)}</text></docTitle>
<navMap>
${navPoints(p.contents.entries)}
</navMap>
</ncx>
`;
}
