/**
 * The blocks of a section as they are made. A displayed block (quotation, letter, passage, verse) stays open as long as
 * paragraphs of its sort come, and becomes a node once: adding to a node copies it, which a long one pays for at every line.
 */
import type { Node } from 'prosemirror-model';
import { schema } from '../../book';

interface Open {
  type: string;
  attrs: Record<string, unknown>;
  children: Node[];
  /** Lines of the stanza that is open; null in what is no verse. */
  lines: Node[] | null;
}

export class Flow {
  private readonly made: Node[] = [];
  private open: Open | null = null;

  constructor(private readonly newId: () => string) {}

  /** Type of the block that was last put in. */
  get last(): string | undefined {
    return this.open?.type ?? this.made.at(-1)?.type.name;
  }
  get isEmpty(): boolean {
    return this.made.length === 0 && this.open === null;
  }

  put(block: Node): void {
    this.close();
    this.made.push(block);
  }

  /** A paragraph into the displayed block of that sort which is open, or into a new one. */
  into(type: string, attrs: Record<string, unknown>, child: Node): void {
    const same =
      this.open?.type === type && Object.entries(attrs).every(([k, v]) => this.open?.attrs[k] === v);
    if (!same || this.open?.children.at(-1)?.type.name === 'attribution') this.begin(type, attrs, null);
    this.open?.children.push(child);
  }

  /** A line of verse; `apart` from the line before it, it begins a stanza. */
  line(line: Node, apart: boolean): void {
    if (this.open?.type !== 'verse' || !this.open.lines) this.begin('verse', {}, []);
    if (apart) this.endStanza();
    this.open?.lines?.push(line);
  }

  /** Says whose a quotation or a poem is; false where none is open. */
  attribution(line: Node): boolean {
    const { open } = this;
    if (!open || !/^(quotation|verse)$/.test(open.type) || open.children.at(-1)?.type.name === 'attribution')
      return false;
    this.endStanza();
    open.lines = null;
    open.children.push(line);
    return true;
  }

  /** The blocks, without breaks that end them. */
  finish(): Node[] {
    this.close();
    while (this.made.at(-1)?.type.name === 'break') this.made.pop();
    return this.made;
  }

  private begin(type: string, attrs: Record<string, unknown>, lines: Node[] | null): void {
    this.close();
    this.open = { type, attrs: { id: this.newId(), ...attrs }, children: [], lines };
  }
  private endStanza(): void {
    if (!this.open?.lines?.length) return;
    this.open.children.push(schema.node('stanza', { id: this.newId() }, this.open.lines));
    this.open.lines = [];
  }
  private close(): void {
    this.endStanza();
    if (this.open) this.made.push(schema.node(this.open.type, this.open.attrs, this.open.children));
    this.open = null;
  }
}
