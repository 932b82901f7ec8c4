/** Lines of a PDF's pages, told from where its glyphs stand: a page knows nothing of paragraphs. */
import type { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import type { PaintedPicture, PictureTaker } from './pdf-pictures';

type Document = Awaited<ReturnType<typeof getDocument>['promise']>;

/** A stretch of text in one face. Points from the page's left and foot. */
export interface Run {
  text: string;
  x: number;
  y: number;
  width: number;
  size: number;
  italic: boolean;
  bold: boolean;
}
export interface Line {
  runs: Run[];
  text: string;
  left: number;
  right: number;
  y: number;
  size: number;
}
export interface PdfPage {
  lines: Line[];
  /** From the head of the page down. */
  pictures: PaintedPicture[];
  width: number;
  height: number;
}

/** `pictures` takes those of the pages; without it only the text is read. */
export async function pagesOf(document: Document, pictures: PictureTaker | null): Promise<PdfPage[]> {
  const pages: PdfPage[] = [];
  for (let n = 1; n <= document.numPages; n++) {
    const page = await document.getPage(n);
    const { width, height } = page.getViewport({ scale: 1 });
    const content = await page.getTextContent();
    // Names of faces are known only once a page's commands have been read, which takes long.
    const unknown = content.items.some((i) => 'str' in i && i.str !== '' && !page.commonObjs.has(i.fontName));
    if (unknown) await page.getOperatorList();
    const runs: Run[] = [];
    for (const item of content.items) {
      if (!('str' in item) || item.str === '') continue;
      const [a = 1, b = 0, , , x = 0, y = 0] = item.transform as number[];
      // Text that does not run from left to right is decoration.
      if (Math.abs(b) > Math.abs(a) / 10) continue;
      const face = page.commonObjs.has(item.fontName)
        ? ((page.commonObjs.get(item.fontName) as { name?: string }).name ?? '')
        : '';
      runs.push({
        text: item.str,
        x,
        y,
        width: item.width,
        size: Math.abs(item.height || a),
        italic: /italic|oblique/i.test(face),
        bold: /bold|black|heavy/i.test(face),
      });
    }
    const lines = linesOf(runs);
    pages.push({ lines, pictures: (await pictures?.of(page, lines.length > 0)) ?? [], width, height });
    page.cleanup();
  }
  return pages;
}

/** A letter over two lines high belongs to the line at whose head it stands. */
const DROPPED = 1.8;

export function linesOf(runs: readonly Run[]): Line[] {
  const sizes = runs.filter((r) => r.text.trim() !== '').map((r) => r.size);
  sizes.sort((x, y) => x - y);
  const usual = sizes[sizes.length >> 1] ?? 12;
  const isCap = (r: Run): boolean =>
    r.size >= usual * DROPPED && /^["\u201c\u2018']?\p{Lu}$/u.test(r.text.trim());
  const caps = runs.filter(isCap);
  const rows: Run[][] = [];
  for (const r of runs) {
    if (caps.includes(r)) continue;
    // Raised and lowered figures stand on the line around them.
    const row = rows.find((x) => {
      const first = x[0] as Run;
      return Math.abs(first.y - r.y) < Math.max(first.size, r.size) * 0.42;
    });
    if (row) row.push(r);
    else rows.push([r]);
  }
  const lines = rows
    .map((row) => lineOf([...row].sort((x, y) => x.x - y.x)))
    .filter((l) => l.text.trim() !== '')
    .sort((x, y) => y.y - x.y);
  for (const cap of caps) {
    const beside = lines.filter(
      (l) => l.left > cap.x && l.y >= cap.y - usual * 0.4 && l.y < cap.y + cap.size,
    );
    const first = beside[0];
    if (!first) lines.push(lineOf([cap]));
    else {
      first.text = cap.text.trim() + first.text;
      first.runs = [
        { ...cap, text: cap.text.trim(), size: first.size, italic: false, bold: false },
        ...first.runs,
      ];
      // All lines beside the letter begin where the paragraph does.
      for (const l of beside) l.left = cap.x;
    }
  }
  return lines.sort((x, y) => y.y - x.y);
}

function lineOf(runs: Run[]): Line {
  const own: Run[] = [];
  let end = -Infinity;
  for (const r of runs) {
    const before = own.at(-1);
    const gap = r.x - end;
    const spaced = before && (/\s$/.test(before.text) || /^\s/.test(r.text));
    if (before && !spaced && gap > Math.min(before.size, r.size) * 0.15) before.text += ' ';
    own.push({ ...r });
    end = r.x + r.width;
  }
  const shown = own.filter((r) => r.text.trim() !== '');
  const widest = shown.reduce((a, b) => (b.width > a.width ? b : a), shown[0] ?? (own[0] as Run));
  return {
    runs: own,
    text: own.map((r) => r.text).join(''),
    left: shown[0]?.x ?? 0,
    right: Math.max(...shown.map((r) => r.x + r.width), 0),
    y: widest.y,
    size: widest.size,
  };
}
