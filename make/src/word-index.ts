/** Entries of the index as fields of a .docx (ECMA-376-1 §17.16.5.81), and the stretches of text over which they go. */
import { BookmarkEnd, bookmarkUniqueNumericId, BookmarkStart, SimpleField, type ParagraphChild } from 'docx';
import type { Node } from 'prosemirror-model';
import type { Book } from '@pagina/core/book';
import { indexOf, termParts } from '@pagina/core/order';

/** "tides: neap" as an XE field; `to` is the entry it leads to, `range` the bookmark over whose pages it goes. */
export function entryField(marked: string, { to = '', range = '' } = {}): string {
  const escaped = (t: string): string => t.replace(/["\\:]/g, '\\$&');
  const term = termParts(marked).filter(Boolean).map(escaped).join(':');
  const lead = to === '' ? '' : ` \\t "${to.replace(/"/g, '')}"`;
  return `XE "${term}"${lead}${range === '' ? '' : ` \\r "${range}"`}`;
}

/** What parts of a paragraph have around them: docx writes it, though its types know such marks in other places only. */
type Part = ParagraphChild | BookmarkStart | BookmarkEnd;

export class WordIndex {
  /** Passages that go on into later blocks, by where they begin and where they end. */
  private readonly begin = new Map<string, string>();
  private readonly end = new Map<string, string>();
  private readonly open = new Map<string, number>();

  constructor(book: Book) {
    let n = 0;
    for (const e of indexOf(book.sections, book))
      for (const { term, places } of [e, ...e.under.map((u) => ({ ...u, term: `${e.term}: ${u.term}` }))])
        for (const p of places) {
          if (p.until === p.block) continue;
          const name = `entry_${++n}`;
          this.begin.set(`${p.block} ${p.from} ${term}`, name);
          this.end.set(`${p.until} ${p.to} ${term}`, name);
        }
  }

  /** What stands before and behind the child of a block at that offset. */
  around(block: Node, child: Node, offset: number, next: Node | null): { before: Part[]; after: Part[] } {
    const before: Part[] = [];
    const after: Part[] = [];
    const id = block.attrs.id as string;
    for (const m of child.marks) {
      if (m.type.name !== 'indexed') continue;
      const term = termParts(m.attrs.term as string)
        .filter(Boolean)
        .join(': ');
      const begun = this.begin.get(`${id} ${offset} ${term}`);
      if (begun) {
        const number = bookmarkUniqueNumericId();
        this.open.set(begun, number);
        before.push(new BookmarkStart(begun, number));
      }
      const ended = this.end.get(`${id} ${offset + child.nodeSize} ${term}`);
      const number = this.open.get(ended ?? '');
      if (ended && number !== undefined) {
        this.open.delete(ended);
        after.push(new BookmarkEnd(number), new SimpleField(entryField(term, { range: ended })));
      } else if (!m.isInSet(next?.marks ?? []) && !this.within(term, block, offset + child.nodeSize))
        after.push(new SimpleField(entryField(term)));
    }
    return { before, after };
  }

  /** Whether a passage of that entry goes on into the next block. */
  private within(term: string, block: Node, to: number): boolean {
    if (to !== block.content.size) return false;
    return [...this.begin].some(([at, name]) => this.open.has(name) && at.endsWith(` ${term}`));
  }
}
