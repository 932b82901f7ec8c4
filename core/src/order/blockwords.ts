/** Blocks by their words: two blocks of the same words are the same block, however they are set. */
import type { Node } from 'prosemirror-model';
import { showsPicture, wordsOfLeaf, type Book } from '../book';

/** A section's blocks without the notes at its end. */
export function blocksOf(doc: Node): Node[] {
  const blocks: Node[] = [];
  doc.forEach((n) => {
    if (n.type.name !== 'noteBody') blocks.push(n);
  });
  return blocks;
}

/** Reads keys of blocks in a book; a picture counts by its file, which two readings name differently. */
export function keysIn(book: Pick<Book, 'pictures'>): (doc: Node) => string[] {
  const files = new Map(book.pictures.map((p) => [p.id, p.sha256 ?? p.id]));
  return (doc) => {
    const notes = new Map<string, string>();
    doc.forEach((n) => {
      if (n.type.name === 'noteBody') notes.set(n.attrs.id as string, n.textContent);
    });
    return blocksOf(doc).map((b) => keyOf(b, notes, files));
  };
}

const SIGNS: Record<string, string> = { break: '❦', pageBreak: '⏎' };

/** The words of a block with those of the notes it calls. */
function keyOf(block: Node, notes: ReadonlyMap<string, string>, files: ReadonlyMap<string, string>): string {
  const called: string[] = [];
  const own = block.textBetween(0, block.content.size, '\n', (l) => {
    if (l.type.name === 'note') called.push(notes.get(l.attrs.ref as string) ?? '');
    return wordsOfLeaf(l);
  });
  const picture = showsPicture(block) ? (files.get(block.attrs.picture as string) ?? '') : '';
  return `${SIGNS[block.type.name] ?? ''}${picture}${own}¦${called.join('¦')}`;
}
