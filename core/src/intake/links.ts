/** Links inside a manuscript: anchors of the file become places of the book, as "section" or "section#block". */
import { Fragment, type Node } from 'prosemirror-model';
import { ANCHOR } from './raw';

export class Links {
  private readonly places = new Map<string, string>();
  /** Anchors of paragraphs that were left out: they go to the next one kept. */
  private passed: string[] = [];

  pass(anchors: readonly string[]): void {
    this.passed.push(...anchors);
  }

  found(anchors: readonly string[], section: string, block = ''): void {
    for (const name of [...this.passed, ...anchors])
      if (!this.places.has(name)) this.places.set(name, block ? `${section}#${block}` : section);
    this.passed = [];
  }

  /** The text with its links to places of the book; links to what was not kept are plain text. */
  resolved(node: Node): Node {
    if (node.isText) {
      const link = node.marks.find(
        (m) =>
          m.type.name === 'link' && (m.attrs.target as string).startsWith(ANCHOR) && m.attrs.kind === 'place',
      );
      if (!link) return node;
      const others = link.removeFromSet(node.marks);
      const target = this.places.get((link.attrs.target as string).slice(ANCHOR.length));
      return node.mark(target ? link.type.create({ kind: 'place', target }).addToSet(others) : others);
    }
    let changed = false;
    const children: Node[] = [];
    node.forEach((c) => {
      const r = this.resolved(c);
      changed ||= r !== c;
      children.push(r);
    });
    return changed ? node.copy(Fragment.fromArray(children)) : node;
  }
}
