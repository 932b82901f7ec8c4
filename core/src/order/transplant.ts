/** Taking text over from another book: new ids for its blocks, its pictures among this book's, its links to their places. */
import { Fragment, type Node } from 'prosemirror-model';
import type { Book, Picture } from '../book';

/** Where the other book's pictures, sections and blocks are found in this one. */
export class Transplant {
  /** The other book's pictures that this book has not yet, under their new ids. */
  readonly pictures: Picture[] = [];
  private readonly pictureIds = new Map<string, string>();
  private readonly blockIds = new Map<string, string>();
  private readonly sectionIds = new Map<string, string>();

  constructor(
    book: Book,
    other: Book,
    private readonly newId: () => string,
  ) {
    for (const p of other.pictures) {
      const same = p.sha256 && book.pictures.find((x) => x.sha256 === p.sha256);
      const id = same ? same.id : `pic-${newId()}`;
      this.pictureIds.set(p.id, id);
      if (!same) this.pictures.push({ ...p, id });
    }
  }

  /** The other book's section is found in this one under that id. */
  section(other: string, id: string): void {
    this.sectionIds.set(other, id);
  }
  /** A block of the other book is one that this book has already. */
  block(other: string, id: string): void {
    this.blockIds.set(other, id);
  }

  /** A node of the other book for this one. Links are mended by `linked` when everything has come over. */
  take(n: Node): Node {
    if (n.isText) return n;
    const children: Node[] = [];
    n.forEach((c) => void children.push(this.take(c)));
    const attrs: Record<string, unknown> = { ...n.attrs };
    if (typeof attrs.id === 'string') attrs.id = this.idOf(attrs.id);
    if (typeof attrs.ref === 'string') attrs.ref = this.idOf(attrs.ref);
    if (typeof attrs.picture === 'string')
      attrs.picture = this.pictureIds.get(attrs.picture) ?? attrs.picture;
    return n.type.create(attrs, Fragment.fromArray(children), n.marks);
  }
  private idOf(other: string): string {
    let id = this.blockIds.get(other);
    if (id === undefined) {
      id = this.newId();
      this.blockIds.set(other, id);
    }
    return id;
  }

  /** Links of text that was taken, to the places that came over; those to what did not come are plain text. */
  linked(n: Node): Node {
    if (n.isText) {
      const link = n.marks.find((m) => m.type.name === 'link' && m.attrs.kind === 'place');
      if (!link) return n;
      const [section = '', block] = (link.attrs.target as string).split('#');
      const to = this.sectionIds.get(section);
      const others = link.removeFromSet(n.marks);
      if (!to) return n.mark(others);
      const target = block ? `${to}#${this.blockIds.get(block) ?? block}` : to;
      return n.mark(link.type.create({ kind: 'place', target }).addToSet(others));
    }
    const children: Node[] = [];
    n.forEach((c) => void children.push(this.linked(c)));
    return n.copy(Fragment.fromArray(children));
  }
}
