/**
 * What a file for the screen has beyond the printer's: bookmarks (ISO 32000-1 §12.3.3), links (§12.5.6.5), and the
 * structure of the text (§14.7, §14.8), so that it can be read aloud and in order.
 */
import { PDFHexString, PDFName, type PDFContext, type PDFDict, type PDFRef } from 'pdf-lib';
import { literal } from './strings';
import { isHeadingPart, type LinkBox, type OutlineEntry, type ScreenFacts } from '../compose';

/** A stretch of a page's content under one number. */
export interface Run {
  mcid: number;
  block: string;
  part: string;
  /** A picture's id, '' for text. */
  picture: string;
}
export interface ScreenPage {
  ref: PDFRef;
  dict: PDFDict;
  section: string;
  runs: readonly Run[];
}

/** The structure tree: a Document of sections, each with its headings, paragraphs, lists, pictures. */
export function structure(
  context: PDFContext,
  catalog: PDFDict,
  pages: readonly ScreenPage[],
  { roles, figures, sections }: ScreenFacts,
): void {
  const root = context.nextRef();
  const document = element(context, 'Document', root);
  const parents: unknown[] = [];
  const elements = new Map<string, Element>();
  const titles = new Map(sections.map((s) => [s.id, s.title]));
  const left = new Map(Object.entries(figures).map(([picture, list]) => [picture, [...list]]));
  const child = (parent: Element, type: string, key: string): Element => {
    let e = elements.get(key);
    if (!e) {
      e = element(context, type, parent.ref);
      parent.kids.push(e.ref);
      elements.set(key, e);
    }
    return e;
  };
  pages.forEach((page, index) => {
    const section = child(document, 'Sect', `section/${page.section}`);
    if (section.kids.length === 0 && titles.get(page.section))
      section.dict.set(PDFName.of('T'), PDFHexString.fromText(titles.get(page.section) as string));
    const own: PDFRef[] = [];
    for (const run of page.runs) {
      let at = section;
      if (run.picture) {
        const figure = left.get(run.picture)?.shift();
        at = child(section, 'Figure', `figure/${figure?.id ?? `${index}/${run.mcid}`}`);
        at.dict.set(PDFName.of('Alt'), PDFHexString.fromText(figure?.alt || 'Ornament'));
      } else if (run.part) {
        const type = isHeadingPart(run.part) ? 'H1' : run.part.startsWith('contents') ? 'TOCI' : 'P';
        const around = type === 'TOCI' ? child(section, 'TOC', `toc/${page.section}`) : section;
        // Number and title are one heading; an entry's words and its folio are one entry.
        at = child(around, type, `${page.section}/${type === 'H1' ? 'heading' : `${run.part}/${run.block}`}`);
      } else
        for (const [type, id] of roles[run.block] ?? [['P', run.block] as const])
          at = child(at, type, `${type}/${id}`);
      at.kids.push(context.obj({ Type: 'MCR', Pg: page.ref, MCID: run.mcid }));
      own[run.mcid] = at.ref;
    }
    page.dict.set(PDFName.of('StructParents'), context.obj(index));
    page.dict.set(PDFName.of('Tabs'), PDFName.of('S'));
    parents.push(index, context.register(context.obj(own)));
  });
  for (const e of [document, ...elements.values()]) {
    e.dict.set(PDFName.of('K'), context.obj(e.kids as never));
    context.assign(e.ref, e.dict);
  }
  context.assign(
    root,
    context.obj({
      Type: 'StructTreeRoot',
      K: [document.ref],
      ParentTree: { Nums: parents },
      ParentTreeNextKey: pages.length,
    } as never),
  );
  catalog.set(PDFName.of('StructTreeRoot'), root);
  catalog.set(PDFName.of('MarkInfo'), context.obj({ Marked: true }));
}

interface Element {
  ref: PDFRef;
  dict: PDFDict;
  kids: unknown[];
}
function element(context: PDFContext, type: string, parent: PDFRef): Element {
  const dict = context.obj({ Type: 'StructElem', S: type, P: parent });
  return { ref: context.nextRef(), dict, kids: [] };
}

/** Where in the file a place of the book is: the page, and its height from the foot in points. */
export type PlaceOf = (section: string, block: string | null) => { page: PDFRef; top: number } | null;

export function outlines(
  context: PDFContext,
  catalog: PDFDict,
  entries: readonly OutlineEntry[],
  placeOf: PlaceOf,
): void {
  const shown = entries.flatMap((e) => {
    const place = placeOf(e.section, e.block);
    return place ? [{ ...e, place }] : [];
  });
  if (shown.length === 0) return;
  const root = context.nextRef();
  const items = shown.map((e) => ({
    e,
    ref: context.nextRef(),
    dict: context.obj({}),
    kids: [] as number[],
  }));
  const top: number[] = [];
  /** The open entry of each level. */
  const open: number[] = [];
  items.forEach(({ e }, i) => {
    const depth = Math.min(e.depth, open.length);
    open.length = depth;
    (depth === 0 ? top : (items[open[depth - 1] as number]?.kids ?? top)).push(i);
    open.push(i);
  });
  const link = (list: readonly number[], parent: PDFRef): void =>
    list.forEach((i, n) => {
      const { e, dict, ref, kids } = items[i] as (typeof items)[number];
      dict.set(PDFName.of('Title'), PDFHexString.fromText(e.title));
      dict.set(PDFName.of('Parent'), parent);
      dict.set(PDFName.of('Dest'), context.obj([e.place.page, 'XYZ', null, e.place.top, null] as never));
      const at = (k: number | undefined): PDFRef | undefined => (k === undefined ? undefined : items[k]?.ref);
      const [before, after] = [at(list[n - 1]), at(list[n + 1])];
      if (before) dict.set(PDFName.of('Prev'), before);
      if (after) dict.set(PDFName.of('Next'), after);
      if (kids.length > 0) {
        dict.set(PDFName.of('First'), at(kids[0]) as PDFRef);
        dict.set(PDFName.of('Last'), at(kids.at(-1)) as PDFRef);
        dict.set(PDFName.of('Count'), context.obj(-kids.length));
        link(kids, ref);
      }
      context.assign(ref, dict);
    });
  link(top, root);
  context.assign(
    root,
    context.obj({
      Type: 'Outlines',
      First: items[top[0] as number]?.ref,
      Last: items[top.at(-1) as number]?.ref,
      Count: top.length,
    } as never),
  );
  catalog.set(PDFName.of('Outlines'), root);
  catalog.set(PDFName.of('PageMode'), PDFName.of('UseOutlines'));
}

/** A page's links as annotations without a border. `height` is the page's, in points. */
export function annotations(
  context: PDFContext,
  positions: readonly LinkBox[],
  height: number,
  placeOf: PlaceOf,
): PDFRef[] {
  const refs: PDFRef[] = [];
  for (const s of positions) {
    const [section, block] = s.target.split('#');
    const web = /^(https?|mailto):/i.test(s.target);
    const place = web ? null : placeOf(section ?? '', block ?? null);
    if (!web && !place) continue;
    const dict = context.obj({
      Type: 'Annot',
      Subtype: 'Link',
      Rect: [s.x / 1000, height - (s.y + s.height) / 1000, (s.x + s.width) / 1000, height - s.y / 1000],
      Border: [0, 0, 0],
    });
    if (place) dict.set(PDFName.of('Dest'), context.obj([place.page, 'XYZ', null, place.top, null] as never));
    else
      dict.set(PDFName.of('A'), context.obj({ S: 'URI', URI: literal(encodeURI(decodeSafely(s.target))) }));
    refs.push(context.register(dict));
  }
  return refs;
}

/** An address is written in ASCII: what is encoded already is not encoded again. */
function decodeSafely(url: string): string {
  try {
    return decodeURI(url);
  } catch {
    return url;
  }
}
