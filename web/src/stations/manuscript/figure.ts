/** A picture in the text: the file as it is, with its caption below to write in. */
import type { Node } from 'prosemirror-model';
import type { NodeView } from 'prosemirror-view';
import type { Book } from '@pagina/core/book';
import { fileOf } from '@/title/pictures';

export const figureView =
  (book: () => Book) =>
  (node: Node): NodeView => {
    const dom = document.createElement('figure');
    dom.dataset.id = node.attrs.id as string;
    const image = document.createElement('img');
    const picture = book().pictures.find((p) => p.id === node.attrs.picture);
    if (picture) image.src = fileOf(picture);
    image.alt = node.attrs.alt as string;
    image.contentEditable = 'false';
    const caption = document.createElement('figcaption');
    dom.append(image, caption);
    return { dom, contentDOM: caption };
  };
