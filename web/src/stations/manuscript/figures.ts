'use client';
/** Pictures in the text: shown with their settings, put in by drop, paste or choice, their file replaceable. */
import type { Node } from 'prosemirror-model';
import { NodeSelection, TextSelection } from 'prosemirror-state';
import { Transform } from 'prosemirror-transform';
import type { EditorView, NodeView } from 'prosemirror-view';
import { toast } from 'sonner';
import { fillsPages, isPictured, pageAttrs, schema, type Book, type Change } from '@pagina/core/book';
import { addPages } from '@pagina/core/order';
import { shortId } from '@/title/ids';
import { fileOf, keepPictures, takeIn } from '@/title/pictures';
import type { TitleSession } from '@/title/session';
import { fileOfData } from './paste';

const n = schema.nodes;

export const figureView =
  (book: () => Book) =>
  (first: Node, view: EditorView, getPos: () => number | undefined): NodeView => {
    const dom = document.createElement('figure');
    const image = document.createElement('img');
    const caption = document.createElement('figcaption');
    image.contentEditable = 'false';
    image.draggable = true;
    image.addEventListener('click', () => {
      const pos = getPos();
      if (pos === undefined) return;
      view.dispatch(view.state.tr.setSelection(NodeSelection.create(view.state.doc, pos)));
      view.focus();
    });
    dom.append(image, caption);
    const draw = (node: Node): void => {
      dom.dataset.id = node.attrs.id as string;
      const picture = book().pictures.find((p) => p.id === node.attrs.picture);
      const src = picture ? fileOf(picture) : '';
      if (src && image.getAttribute('src') !== src) image.src = src;
      // Its height is known before its file has come.
      image.style.aspectRatio = picture ? `${picture.width} / ${picture.height}` : '';
      image.alt = node.attrs.alt as string;
      image.className = node.attrs.mask as string;
      image.style.width = fillsPages(node) ? '100%' : `${Number(node.attrs.width)}%`;
      caption.dataset.credit = node.attrs.credit as string;
      caption.dataset.empty = node.content.size === 0 ? 'Caption' : '';
    };
    draw(first);
    return {
      dom,
      contentDOM: caption,
      update(node) {
        if (node.type !== n.figure) return false;
        draw(node);
        return true;
      },
      ignoreMutation: (m) => m.type !== 'selection' && !caption.contains(m.target),
    };
  };

/** A picture page in the text: its picture small beside its words. */
export const pageView =
  (book: () => Book) =>
  (first: Node): NodeView => {
    const dom = document.createElement('section');
    const image = document.createElement('img');
    const words = document.createElement('div');
    dom.className = 'picture-page';
    image.contentEditable = 'false';
    dom.append(image, words);
    const draw = (node: Node): void => {
      const { id, picture: shown, alt, ground } = pageAttrs(node);
      dom.dataset.id = id;
      const picture = book().pictures.find((p) => p.id === shown);
      const src = picture ? fileOf(picture) : '';
      if (image.getAttribute('src') !== src) image.src = src;
      image.hidden = src === '';
      image.alt = alt;
      image.style.background = ground;
      words.dataset.empty = node.childCount === 0 ? 'No words on this page' : '';
    };
    draw(first);
    return {
      dom,
      contentDOM: words,
      update(node) {
        if (node.type !== n.picturePage) return false;
        draw(node);
        return true;
      },
      ignoreMutation: (m) => m.type !== 'selection' && !words.contains(m.target),
    };
  };

const isPicture = (f: File): boolean => f.type.startsWith('image/');

/** Keeps pictures and inserts them after the block at `pos`, in one step; reports those that can’t be kept. */
export async function putPictures(
  session: TitleSession,
  section: string,
  view: EditorView,
  files: readonly File[],
  pos: number,
): Promise<void> {
  const others = files.filter((f) => !isPicture(f));
  if (others.length > 0) toast(`${others[0]?.name} isn’t a picture.`);
  const { doc } = view.state;
  const at = doc.resolve(Math.min(pos, doc.content.size));
  const block = (at.depth > 0 ? at.node(1) : at.nodeBefore)?.attrs.id as string | undefined;
  const pictures = await keepPictures(session, files.filter(isPicture));
  if (pictures.length === 0) return;
  const figures = pictures.map((p) => n.figure!.create({ id: `k${shortId()}`, picture: p.id }));
  await session.flush();
  await session.change((b) => {
    const own = b.sections.find((s) => s.id === section);
    if (!own) return null;
    const content = own.content;
    const change: Change | null = isPictured(content)
      ? addPages(
          own,
          pageAround(content, block),
          () => `k${shortId()}`,
          pictures.map((p) => ({ picture: p.id })),
        )
      : {
          type: 'text',
          section,
          steps: new Transform(content)
            .insert(placeAfter(content, block), figures)
            .steps.map((s) => s.toJSON() as unknown),
        };
    if (!change) return null;
    return {
      type: 'group',
      label: pictures.length === 1 ? 'Insert a picture' : `Insert ${pictures.length} pictures`,
      changes: [{ type: 'add-pictures', pictures }, change],
    };
  });
  if (view.isDestroyed) return;
  view.state.doc.descendants((x, found) => {
    if (x.attrs.id === figures[0]?.attrs.id)
      view.dispatch(view.state.tr.setSelection(TextSelection.near(view.state.doc.resolve(found + 1))));
  });
}

/** The picture page of that id. */
const pageAround = (doc: Node, block: string | undefined): string | null =>
  block !== undefined && doc.children.some((p) => p.attrs.id === block) ? block : null;

/** Behind a block, or before the notes where it is gone. */
function placeAfter(doc: Node, block: string | undefined): number {
  let place = -1;
  doc.forEach((x, offset) => {
    if (block !== undefined && x.attrs.id === block) place = offset + x.nodeSize;
  });
  return bodyEnd(doc, place < 0 ? doc.content.size : place);
}

/** A place among the blocks, not among the notes below them. */
function bodyEnd(doc: Node, pos: number): number {
  let end = 0;
  doc.forEach((x) => {
    if (x.type !== n.noteBody) end += x.nodeSize;
  });
  return Math.min(pos, end);
}

/** Pictures that came with pasted text are kept, and the figures that wait for them get them. */
export async function fillPasted(
  session: TitleSession,
  view: EditorView,
  pictures: readonly { src: string }[],
): Promise<void> {
  for (const [i, { src }] of pictures.entries()) {
    const file = await fileOfData(src);
    const picture = file && (await takeIn(session, file));
    if (!file) toast('A picture in the text can’t be read.');
    if (view.isDestroyed) return;
    const tr = view.state.tr;
    view.state.doc.descendants((x, pos) => {
      if (x.type !== n.figure || x.attrs.picture !== `pasted-${i}`) return;
      if (!picture) tr.delete(tr.mapping.map(pos), tr.mapping.map(pos + x.nodeSize));
      else tr.setNodeAttribute(tr.mapping.map(pos), 'picture', picture.id);
    });
    if (tr.docChanged) view.dispatch(tr);
  }
}

/** The figure that the selection is in or on. */
export function figureAt(view: EditorView): { node: Node; pos: number } | null {
  const { selection } = view.state;
  if (selection instanceof NodeSelection && selection.node.type === n.figure)
    return { node: selection.node, pos: selection.from };
  const { $from } = selection;
  for (let d = $from.depth; d > 0; d--)
    if ($from.node(d).type === n.figure) return { node: $from.node(d), pos: $from.before(d) };
  return null;
}
