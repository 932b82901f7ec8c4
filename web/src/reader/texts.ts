/**
 * The text of a document as one line of characters. A place in it is a number, which stays the same whatever the size of
 * the screen or the type, and in the document as it was fetched as in the one that is shown.
 */

/** Elements whose text nobody reads. */
const SILENT = /^(script|style|template)$/i;

export class TextMap {
  readonly nodes: Text[] = [];
  /** Characters before each node. */
  readonly starts: number[] = [];
  readonly length: number;
  /** Places of the elements that have an id, in document order. */
  readonly ids = new Map<string, number>();

  constructor(document: Document) {
    let length = 0;
    const walk = (e: Element): void => {
      if (e.id && !this.ids.has(e.id)) this.ids.set(e.id, length);
      if (SILENT.test(e.localName) || e.hasAttribute('hidden')) return;
      for (let n = e.firstChild; n; n = n.nextSibling) {
        if (n.nodeType === 1) walk(n as Element);
        else if (n.nodeType === 3 || n.nodeType === 4) {
          this.nodes.push(n as Text);
          this.starts.push(length);
          length += (n as Text).length;
        }
      }
    };
    const body = document.body as Element | null;
    if (body) walk(body);
    this.length = length;
  }

  text(): string {
    return this.nodes.map((n) => n.data).join('');
  }
  /** The node that holds a character, by binary search; the last one for a place behind the end. */
  private nodeAt(offset: number): number {
    let low = 0;
    let high = this.nodes.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if ((this.starts[middle] as number) <= offset) low = middle;
      else high = middle - 1;
    }
    return low;
  }
  /** The characters from one place to another; null in a document without text. */
  range(from: number, to: number): Range | null {
    const [a, b] = [this.nodeAt(from), this.nodeAt(Math.max(from, to - 1))];
    const [first, last] = [this.nodes[a], this.nodes[b]];
    if (!first || !last) return null;
    const within = (node: Text, offset: number): number => Math.max(0, Math.min(node.length, offset));
    const range = first.ownerDocument.createRange();
    range.setStart(first, within(first, from - (this.starts[a] as number)));
    range.setEnd(last, within(last, to - (this.starts[b] as number)));
    return range;
  }
  /** Ids at or before a place, the nearest first. */
  idsBefore(offset: number): string[] {
    const before: string[] = [];
    for (const [id, at] of this.ids) if (at <= offset) before.push(id);
    return before.reverse();
  }
}
