'use client';
/** Pictures in the text: shown with their settings, put in by drop, paste or choice, their file replaceable. */
import type { Node } from 'prosemirror-model';
import { NodeSelection, TextSelection } from 'prosemirror-state';
import type { EditorView, NodeView } from 'prosemirror-view';
import { toast } from 'sonner';
import { fillsPages, schema, type Book } from '@pagina/core/book';
import { fileOf, takeIn } from '@/title/pictures';
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

const isPicture = (f: File): boolean => f.type.startsWith('image/');

/** Keeps pictures and inserts them after the block at `pos`; reports those that can’t be kept. */
export async function putPictures(
  session: TitleSession,
  view: EditorView,
  files: readonly File[],
  pos: number,
): Promise<void> {
  for (const file of files.filter(isPicture)) {
    const picture = await takeIn(session, file);
    if (!picture) continue;
    if (view.isDestroyed) return;
    const at = view.state.doc.resolve(Math.min(pos, view.state.doc.content.size));
    const after = at.depth > 0 ? at.after(1) : at.pos;
    const tr = view.state.tr.insert(
      bodyEnd(view.state.doc, after),
      n.figure!.create({ id: '', picture: picture.id }),
    );
    view.dispatch(tr.setSelection(TextSelection.near(tr.doc.resolve(bodyEnd(view.state.doc, after) + 1))));
  }
  const others = files.filter((f) => !isPicture(f));
  if (others.length > 0) toast(`${others[0]?.name} isn’t a picture.`);
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
