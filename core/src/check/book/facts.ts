/** What the rules of the set pages look at: facts of a composition, small enough to go from one thread to another. */
import type { Node } from 'prosemirror-model';
import type { Mp, Place } from '../../base';
import { placeOf, showsPicture, type Book } from '../../book';
import { sheetPictures, textLines, type Composition, type ReportMark } from '../../compose';
import { rowsOf, type Interior } from '../../design';

export interface PagesFacts {
  edition: string;
  /** Folio of each page. */
  labels: readonly string[];
  interior: Pick<Interior, 'trim' | 'margins'> & { size: Mp; leading: Mp };
  marks: readonly ReportMark[];
  missing: readonly { char: string; place: Place }[];
  /** Every picture as it is drawn. */
  pictures: readonly {
    picture: string;
    place: Place;
    page: number;
    width: Mp;
    /** No wider than its pixels allow, whatever width was asked for. */
    limited: boolean;
  }[];
  /** Pages before a forced break that hold a few lines and no more. */
  bare: readonly { page: number; rows: number; place: Place }[];
}

/** A page with fewer of its rows in use than this share is nearly empty. */
const BARE = 1 / 6;

/** The first block of a text that shows a picture. */
function figureOf(content: Node, picture: string): Node | null {
  let found: Node | null = null;
  content.descendants((n) => {
    if (!found && showsPicture(n) && n.attrs.picture === picture) found = n;
    return !found;
  });
  return found;
}

export function pagesFacts(c: Composition, book: Pick<Book, 'sections'>): PagesFacts {
  const { interior: i } = c;
  const sections = new Map(book.sections.map((s) => [s.id, s.content]));
  const pictures: PagesFacts['pictures'][number][] = [];
  const bare: PagesFacts['bare'][number][] = [];
  const rows = rowsOf(i);
  for (const page of c.pages) {
    const content = sections.get(page.section);
    let drawn = 0;
    for (const { picture, width } of sheetPictures(page.body)) {
      drawn++;
      const node = content && figureOf(content, picture);
      pictures.push({
        picture,
        width,
        page: page.index,
        place: { section: page.section, block: node?.attrs.id as string | undefined },
        limited: node?.type.name === 'figure' && !/^(?:edges|spread)$/.test(placeOf(node)),
      });
    }
    if (drawn > 0 || page.last || page.blank || page.used > rows * BARE || !content) continue;
    let last = '';
    for (const line of textLines(page.body)) last = line.block;
    let passed = false;
    let forced: string | null = null;
    content.descendants((n) => {
      if (n.attrs.id === last) passed = true;
      else if (passed && n.type.name === 'pageBreak') forced ??= n.attrs.id as string;
      return !n.isTextblock;
    });
    if (forced !== null && last !== '')
      bare.push({ page: page.index, rows: page.used, place: { section: page.section, block: last } });
  }
  return {
    edition: c.edition,
    labels: c.pages.map((p) => p.label),
    interior: { trim: i.trim, margins: i.margins, size: i.text.size, leading: i.text.leading },
    marks: c.marks,
    missing: c.missing,
    pictures,
    bare,
  };
}
