/** Adopting text from another book: new ids for its blocks, its pictures among this book’s, its links to their places. */
import type { Node } from 'prosemirror-model';
import { relinked, underOtherIds, type Book, type Picture } from '../book';

/** Where the other book's pictures, sections and blocks are found in this one. */
export class Adopting {
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
  /** This book's name for a picture of the other. */
  readonly picture = (id: string): string => this.pictureIds.get(id) ?? id;

  /** A node of the other book for this one. Links are mended by `linked` when everything has come over. */
  take(n: Node): Node {
    const idOf = (other: string): string => {
      let id = this.blockIds.get(other);
      if (id === undefined) this.blockIds.set(other, (id = this.newId()));
      return id;
    };
    return underOtherIds(n, idOf, this.picture);
  }

  /** Links of text that was taken, to the places that came over; those to what did not come are plain text. */
  linked(n: Node): Node {
    return relinked(n, (target) => {
      const [section = '', block] = target.split('#');
      const to = this.sectionIds.get(section);
      if (!to || !block) return to ?? null;
      return `${to}#${this.blockIds.get(block) ?? block}`;
    });
  }
}
