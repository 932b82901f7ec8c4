/** Work on a section’s picture pages: each operation answers the steps that do it, so that it is logged and undone as writing is. */
import { Fragment, Slice, type Node } from 'prosemirror-model';
import { ReplaceStep, Transform } from 'prosemirror-transform';
import {
  isPictured,
  layoutOf,
  LEAST_SIDE,
  newIds,
  pageAttrs,
  schema,
  shared,
  textReplaced,
  underOtherIds,
  WHOLE_PAGE,
  type Change,
  type Frame,
  type PageLayout,
  type PicturePageAttrs,
  type Section,
  type TextBoxAttrs,
} from '../book';

type NewId = () => string;

/** A page or a box of a section, with where it stands in the content. */
export interface Found {
  node: Node;
  pos: number;
  /** Among the pages, or among the boxes of its page. */
  index: number;
  /** The page that it is, or that it stands on. */
  page: Node;
}

/** The page or the box of that id; null where it is gone. */
export function findOnPages(content: Node, id: string): Found | null {
  let found: Found | null = null;
  content.forEach((page, pos, index) => {
    if (page.attrs.id === id) found ??= { node: page, pos, index, page };
    page.forEach((box, offset, i) => {
      if (box.attrs.id === id) found ??= { node: box, pos: pos + 1 + offset, index: i, page };
    });
  });
  return found;
}

/** The steps of some work as a change; null where nothing changes. */
const changed = (section: Section, work: (tr: Transform) => void): Change | null => {
  const tr = new Transform(section.content);
  work(tr);
  if (tr.steps.length === 0) return null;
  return { type: 'text', section: section.id, steps: tr.steps.map((s) => s.toJSON() as unknown) };
};

/** Sets some fields of pages or boxes. */
export function setOnPages(
  section: Section,
  ids: readonly string[],
  fields: Partial<Omit<PicturePageAttrs, 'id'>> | Partial<Omit<TextBoxAttrs, 'id'>>,
): Change | null {
  return changed(section, (tr) => {
    for (const id of ids) {
      const at = findOnPages(tr.doc, id);
      if (!at) continue;
      for (const [name, value] of Object.entries(fields))
        if (name in at.node.attrs && JSON.stringify(at.node.attrs[name]) !== JSON.stringify(value))
          tr.setNodeAttribute(at.pos, name, value);
    }
  });
}

/** Lays a page out over two pages, or over one again. Words keep their size on the paper; those of the right page come over. */
export function layAcross(section: Section, id: string, across: boolean): Change | null {
  const at = findOnPages(section.content, id);
  if (!at || pageAttrs(at.node).across === across) return null;
  return changed(section, (tr) => {
    tr.setNodeAttribute(at.pos, 'across', across);
    at.node.forEach((box, offset) => {
      const [x, y, width, height] = box.attrs.frame as Frame;
      const wide = Math.min(1000, width * 2);
      const frame: Frame = across
        ? [Math.round(x / 2), y, Math.max(LEAST_SIDE, Math.round(width / 2)), height]
        : [Math.min((x < 500 ? x : x - 500) * 2, 1000 - wide), y, wide, height];
      tr.setNodeAttribute(at.pos + 1 + offset, 'frame', frame);
    });
  });
}

const freshBox = (newId: NewId, frame: Frame, like?: Node): Node =>
  schema.node('textBox', { ...like?.attrs, id: newId(), frame }, [schema.node('paragraph', { id: newId() })]);
const freshPage = (newId: NewId, fields: Partial<PicturePageAttrs> = {}, boxes: readonly Node[] = []): Node =>
  schema.node('picturePage', { ...fields, id: newId() }, boxes);
const isBlank = (box: Node): boolean => box.textContent.trim() === '';

/** Puts fresh pages behind one, or behind all: one for each picture, or one without. */
export function addPages(
  section: Section,
  after: string | null,
  newId: NewId,
  pictures: readonly Pick<PicturePageAttrs, 'picture'>[] = [{ picture: '' }],
): Change | null {
  return changed(section, (tr) => {
    const at = after === null ? null : findOnPages(tr.doc, after);
    const pos = at ? at.pos + at.node.nodeSize : tr.doc.content.size;
    tr.insert(
      pos,
      pictures.map((fields) => freshPage(newId, fields)),
    );
  });
}

/** A copy of each page behind the last of them. */
export function duplicatePages(section: Section, ids: readonly string[], newId: NewId): Change | null {
  return changed(section, (tr) => {
    const found = ids.flatMap((id) => findOnPages(tr.doc, id) ?? []).sort((a, b) => a.pos - b.pos);
    const last = found.at(-1);
    if (!last) return;
    const copies = found.map((f) => underOtherIds(f.node, newIds(newId)));
    tr.insert(last.pos + last.node.nodeSize, copies);
  });
}

/** Takes pages away; a section keeps one at least, a blank one where it must. */
export function removePages(section: Section, ids: readonly string[], newId: NewId): Change | null {
  const gone = new Set(ids);
  const left: Node[] = [];
  section.content.forEach((page) => void (gone.has(page.attrs.id as string) || left.push(page)));
  return left.length === 0
    ? textReplaced(section, Fragment.from(freshPage(newId)))
    : changed(section, (tr) => {
        for (const id of ids) {
          const at = findOnPages(tr.doc, id);
          if (at) tr.step(new ReplaceStep(at.pos, at.pos + at.node.nodeSize, Slice.empty));
        }
      });
}

/** Moves pages, in their order, so that the first of them stands before what was page `to`; null where nothing moves. */
export function movePages(section: Section, ids: readonly string[], to: number): Change | null {
  const moving = new Set(ids);
  const pages: Node[] = [];
  section.content.forEach((p) => void pages.push(p));
  const before = pages.slice(0, to).filter((p) => !moving.has(p.attrs.id as string));
  const after = pages.slice(to).filter((p) => !moving.has(p.attrs.id as string));
  const order = [...before, ...pages.filter((p) => moving.has(p.attrs.id as string)), ...after];
  // Only the stretch that changes is put anew, so that what is written elsewhere meanwhile finds its place.
  let [from, until] = [0, pages.length];
  while (from < until && order[from] === pages[from]) from++;
  while (until > from && order[until - 1] === pages[until - 1]) until--;
  if (from === until) return null;
  const size = (list: readonly Node[]): number => list.reduce((n, p) => n + p.nodeSize, 0);
  const start = size(pages.slice(0, from));
  const end = start + size(pages.slice(from, until));
  return changed(section, (tr) => {
    tr.step(new ReplaceStep(start, end, new Slice(Fragment.from(order.slice(from, until)), 0, 0)));
  });
}

/** Adds a box of words to a page, in the manner of the last one there. */
export function addBox(
  section: Section,
  page: string,
  newId: NewId,
  frame: Frame,
): { change: Change | null; id: string } | null {
  const at = findOnPages(section.content, page);
  if (!at) return null;
  const box = freshBox(newId, frame, at.node.lastChild ?? lastBoxBefore(section.content, at.index));
  return {
    id: box.attrs.id as string,
    change: changed(section, (tr) => void tr.insert(at.pos + at.node.nodeSize - 1, box)),
  };
}

/** Words look the same from page to page unless somebody says otherwise. */
function lastBoxBefore(content: Node, index: number): Node | undefined {
  for (let i = index - 1; i >= 0; i--) {
    const box = content.child(i).lastChild;
    if (box) return box;
  }
  return undefined;
}

export function removeBox(section: Section, id: string): Change | null {
  const at = findOnPages(section.content, id);
  if (!at || at.node === at.page) return null;
  return changed(section, (tr) => {
    tr.step(new ReplaceStep(at.pos, at.pos + at.node.nodeSize, Slice.empty));
  });
}

/** Puts a box earlier or later in the order in which the words are read; null where there is no further place. */
export function moveBox(section: Section, id: string, by: -1 | 1): Change | null {
  const at = findOnPages(section.content, id);
  const other = at && at.page.maybeChild(at.index + by);
  if (!at || at.node === at.page || !other) return null;
  const from = by < 0 ? at.pos - other.nodeSize : at.pos;
  const pair = by < 0 ? [at.node, other] : [other, at.node];
  return changed(section, (tr) => {
    tr.step(
      new ReplaceStep(from, from + at.node.nodeSize + other.nodeSize, new Slice(Fragment.from(pair), 0, 0)),
    );
  });
}

/** Lays pages out anew. Boxes without words go where the layout has none; one is made where it wants some. */
export function layOut(
  section: Section,
  ids: readonly string[],
  layout: PageLayout,
  newId: NewId,
): Change | null {
  return changed(section, (tr) => {
    for (const id of ids) {
      const at = findOnPages(tr.doc, id);
      if (!at) continue;
      const { across } = pageAttrs(at.node);
      const frames = layoutOf(layout, across);
      const boxes: Node[] = [];
      at.node.forEach((b) => void boxes.push(b));
      const wanted = layout === 'picture' ? boxes.filter((b) => !isBlank(b)) : boxes;
      const places = shared(frames.words, wanted.length);
      const placed = wanted.map((b, i) => b.type.create({ ...b.attrs, frame: places[i] }, b.content));
      if (layout !== 'picture' && placed.length === 0)
        placed.push(freshBox(newId, frames.words, lastBoxBefore(tr.doc, at.index)));
      tr.step(
        new ReplaceStep(at.pos + 1, at.pos + at.node.nodeSize - 1, new Slice(Fragment.from(placed), 0, 0)),
      );
      if (layout !== 'words' && JSON.stringify(at.node.attrs.frame) !== JSON.stringify(frames.picture))
        tr.setNodeAttribute(at.pos, 'frame', frames.picture);
    }
  });
}

/** The layout that a page has just as it was offered; null for one of its own. */
export function layoutIn(page: Node): PageLayout | null {
  const { across, picture, frame } = pageAttrs(page);
  const boxes: Frame[] = [];
  page.forEach((b) => void boxes.push(b.attrs.frame as Frame));
  const same = (a: readonly Frame[], b: readonly Frame[]): boolean => JSON.stringify(a) === JSON.stringify(b);
  if (boxes.length === 0) return picture !== '' && same([frame], [WHOLE_PAGE]) ? 'picture' : null;
  const fits = (layout: PageLayout): boolean => {
    const of = layoutOf(layout, across);
    return (
      same(boxes, shared(of.words, boxes.length)) &&
      (layout === 'words' ? picture === '' : picture !== '' && same([frame], [of.picture]))
    );
  };
  return (['words', 'below', 'above', 'beside', 'over'] as const).find(fits) ?? null;
}

/** Where running text begins a new page when it is laid out. */
const ENDS_PAGE: ReadonlySet<string> = new Set(['pageBreak', 'break']);

/**
 * Running text as picture pages: one for each stretch between breaks, or for each paragraph where there are none. A picture
 * begins a page. No word is lost: what has no form in a box becomes paragraphs, and notes stand behind the words that call
 * them, in brackets. `written`: the words of a page that is made from the record.
 */
export function asPicturePages(section: Section, newId: NewId, written = section.content): Change | null {
  if (isPictured(section.content)) return null;
  const notes = new Map<string, Node>();
  written.forEach((n) => void (n.type.name === 'noteBody' && notes.set(n.attrs.id as string, n)));
  const blocks: Node[] = [];
  written.forEach((n) => void (n.type.name !== 'noteBody' && blocks.push(n)));
  const divided = blocks.some((b) => ENDS_PAGE.has(b.type.name));
  const pages: Node[] = [];
  let open: { figure: Node | null; words: Node[] } | null = null;
  const close = (): void => {
    if (open) pages.push(pageOf(open.figure, open.words, newId));
    open = null;
  };
  for (const block of blocks) {
    if (ENDS_PAGE.has(block.type.name)) {
      close();
      continue;
    }
    if (block.type.name === 'figure' && open?.figure) close();
    const words = wordsIn(block, notes, newId);
    if (block.type.name !== 'figure' && words.length === 0) continue;
    open ??= { figure: null, words: [] };
    if (block.type.name === 'figure') {
      if (open.words.length > 0) {
        close();
        open = { figure: block, words: [] };
      } else open.figure = block;
    }
    open.words.push(...words);
    if (!divided && block.type.name !== 'figure') close();
  }
  close();
  if (pages.length === 0) pages.push(freshPage(newId));
  return textReplaced(section, Fragment.from(pages));
}

function pageOf(figure: Node | null, words: readonly Node[], newId: NewId): Node {
  const { picture = '', alt = '', decorative = false } = (figure?.attrs ?? {}) as Partial<PicturePageAttrs>;
  const layout = layoutOf(picture === '' ? 'words' : words.length > 0 ? 'below' : 'picture', false);
  const boxes = words.length > 0 ? [schema.node('textBox', { id: newId(), frame: layout.words }, words)] : [];
  return freshPage(newId, { picture, alt, decorative, frame: layout.picture }, boxes);
}

/** The words of a block as paragraphs. */
function wordsIn(block: Node, notes: ReadonlyMap<string, Node>, newId: NewId): Node[] {
  const found: Node[] = [];
  const take = (n: Node): void => {
    if (!n.isTextblock) return n.forEach(take);
    const inline: Node[] = [];
    n.forEach((c) => {
      if (c.type.name !== 'note') return void inline.push(c);
      const said = notes
        .get(c.attrs.ref as string)
        ?.textBetween(0, notes.get(c.attrs.ref as string)?.content.size ?? 0, ' ');
      if (said) inline.push(schema.text(` [${said}]`));
    });
    if (inline.length > 0)
      found.push(schema.node('paragraph', { id: (n.attrs.id as string) || newId() }, lines(inline)));
    const credit = n.attrs.credit as string | undefined;
    if (credit) found.push(schema.node('paragraph', { id: newId() }, [schema.text(credit)]));
  };
  take(block);
  return found;
}

/** Ends of lines in monospace become those of a paragraph. */
function lines(inline: readonly Node[]): Node[] {
  return inline.flatMap((n) =>
    n.isText && (n.text as string).includes('\n')
      ? (n.text as string)
          .split('\n')
          .flatMap((part, i) => [
            ...(i > 0 ? [schema.node('lineBreak')] : []),
            ...(part === '' ? [] : [schema.text(part, n.marks)]),
          ])
      : [n],
  );
}
