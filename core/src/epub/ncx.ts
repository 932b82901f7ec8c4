/** The navigation that older readers know: NCX (OPF 2.0.1 §2.4.1; ANSI/NISO Z39.86-2005 §8). */
import { escapeXml } from '../base';
import { branches, depthOfContents, type Branch } from './navigation';
import { isDocument, type Publication } from './publication';

/** Numbers of places in reading order; two points that lead to one place have one number (§8.4.1.5). */
function playOrder(p: Publication): (href: string) => number {
  const hrefs: string[] = [...p.contents.entries, ...p.pages].map((x) => x.href);
  const documents = new Map(
    p.spine.filter(isDocument).map(({ href, xhtml }, i) => [href, { xhtml, i }] as const),
  );
  const at = new Map(
    hrefs.map((href) => {
      const [file = '', id] = href.split('#');
      const found = documents.get(file);
      return [href, [found?.i ?? -1, id && found ? found.xhtml.indexOf(` id="${id}"`) : 0]] as const;
    }),
  );
  const order = [...at].sort(
    ([, a], [, b]) => (a[0] as number) - (b[0] as number) || (a[1] as number) - (b[1] as number),
  );
  const numbers = new Map(order.map(([href], i) => [href, i + 1]));
  return (href) => numbers.get(href) as number;
}

export function ncxFile(p: Publication): string {
  const orderOf = playOrder(p);
  let n = 0;
  const label = (words: string): string => `<navLabel><text>${escapeXml(words)}</text></navLabel>`;
  const point = ({ entry, children }: Branch): string =>
    `<navPoint id="n${++n}" playOrder="${orderOf(entry.href)}">${label(entry.label)}<content src="${entry.href}"/>${children.map(point).join('')}</navPoint>`;
  const points = branches(p.contents.entries).map(point).join('\n');
  const targets = p.pages.map(
    ({ label: folio, href }, i) =>
      `<pageTarget id="f${i + 1}" type="${/^\d+$/.test(folio) ? `normal" value="${folio}` : 'front'}" playOrder="${orderOf(href)}">${label(folio)}<content src="${href}"/></pageTarget>`,
  );
  const most = Math.max(0, ...p.pages.map((x) => Number(x.label) || 0));
  const pages = targets.length > 0 ? `<pageList>\n${targets.join('\n')}\n</pageList>\n` : '';
  return `<?xml version="1.0" encoding="utf-8"?>
<ncx xmlns="http://www.daisy.org/z3986/2005/ncx/" version="2005-1" xml:lang="${escapeXml(p.record.language)}">
<head><meta name="dtb:uid" content="${escapeXml(p.identifier)}"/><meta name="dtb:depth" content="${depthOfContents(p.contents.entries)}"/><meta name="dtb:totalPageCount" content="${p.pages.length}"/><meta name="dtb:maxPageNumber" content="${most}"/></head>
<docTitle><text>${escapeXml(p.record.title)}</text></docTitle>
<navMap>
${points}
</navMap>
${pages}</ncx>
`;
}
