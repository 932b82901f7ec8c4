/** Links inside a manuscript: anchors of the file become places of the book, as "section" or "section#block". */
import type { Node } from 'prosemirror-model';
import { relinked } from '../../book';
import { ANCHOR } from '../raw';

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
  resolved(text: Node): Node {
    return relinked(text, (target) => this.places.get(target.slice(ANCHOR.length)) ?? null);
  }
}
