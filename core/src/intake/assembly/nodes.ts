/** Nodes of the schema from raw paragraphs: with ids, links, notes, and an account of what was cleaned or put aside. */
import { Fragment, type Node } from 'prosemirror-model';
import { countWords } from '../../base';
import { schema } from '../../book';
import { markLength, type Stretch } from '../passages';
import type { RawBlock, RawCell, RawManuscript, RawNote, RawParagraph, RawTable } from '../raw';
import { isEmpty, isText, withoutFirst } from '../raw';
import { tidyInline, type TidyCount } from './inline';
import { Links } from './links';

export interface SetAside {
  rule: string;
  text: string;
  words: number;
  section: string | null;
}

/** Spaces at a line’s head that make one step of indent. */
const STEP = 4;

export class Nodes {
  readonly setAside: SetAside[] = [];
  readonly tidied: TidyCount = {};
  readonly links = new Links();
  /** The section being made. */
  now: string | null = null;
  private ids = 0;
  /** Notes by their name in the file, those that are called, and those that the section being made calls. */
  private readonly notes: ReadonlyMap<string, RawNote>;
  private readonly called = new Set<string>();
  private calls: { ref: string; id: string }[] = [];

  constructor(m: Pick<RawManuscript, 'notes'>) {
    this.notes = new Map(m.notes.map((n) => [n.id, n]));
  }

  readonly id = (): string => `b${++this.ids}`;

  /** An id for the block that a paragraph becomes; links to the paragraph lead there. */
  idFor(b: RawParagraph): string {
    const id = this.id();
    if (this.now) this.links.found(b.anchors, this.now, id);
    return id;
  }

  /** Puts text aside under a rule. */
  aside(rule: string, text: string, section = this.now): void {
    this.setAside.push({ rule, text, words: countWords(text), section });
  }

  count(what: string): void {
    this.tidied[what] = (this.tidied[what] ?? 0) + 1;
  }

  /** Makes a section’s document: its blocks, and the notes that they call. */
  document(blocks: () => Node[]): Node {
    const outside = this.calls;
    this.calls = [];
    const made = blocks();
    if (made.length === 0) made.push(schema.node('paragraph', { id: this.id() }));
    const doc = schema.node('doc', null, Fragment.fromArray([...made, ...this.noteBodies()]));
    this.calls = outside;
    return doc;
  }

  /** A paragraph's text, cleaned. A note that has been called already is called again as a copy: each has one call. */
  inline(b: Pick<RawParagraph, 'inline'>): Node[] {
    return tidyInline(b.inline, this.tidied).map((n) => {
      if (n.type.name !== 'note') return n;
      const ref = n.attrs.ref as string;
      const id = this.called.has(ref) ? `${ref}-${this.id()}` : ref;
      this.called.add(ref);
      this.calls.push({ ref, id });
      return id === ref ? n : schema.node('note', { ref: id });
    });
  }

  paragraph(b: RawParagraph): Node {
    return schema.node('paragraph', { id: this.idFor(b) }, this.inline(b));
  }

  /** The node of a stretch, of the blocks that it takes up. */
  stretch(s: Stretch, blocks: readonly RawBlock[]): Node {
    const body = blocks.slice(s.from, s.source ?? s.to);
    const texts = body.filter((b): b is RawParagraph => isText(b) && !isEmpty(b));
    const last = blocks[s.source ?? -1];
    const source = isText(last)
      ? [schema.node('attribution', { id: this.idFor(last) }, this.inline(last))]
      : [];
    const attrs = { id: this.id() };
    switch (s.form) {
      case 'verse':
        return schema.node('verse', attrs, [...this.stanzas(body), ...source]);
      case 'list':
        return this.typedList(texts, s);
      case 'inset':
        return schema.node(
          'passage',
          { ...attrs, align: 'inset' },
          texts.map((b) => this.paragraph(b)),
        );
      default:
        return schema.node(s.form, attrs, [...texts.map((b) => this.paragraph(b)), ...source]);
    }
  }

  /** Stanzas end at blank lines; a paragraph of several lines is a stanza of its own. */
  private stanzas(blocks: readonly RawBlock[]): Node[] {
    const out: Node[] = [];
    let lines: Node[] = [];
    const close = (): void => {
      if (lines.length > 0) out.push(schema.node('stanza', { id: this.id() }, lines));
      lines = [];
    };
    const texts = blocks.filter((b): b is RawParagraph => isText(b) && !isEmpty(b));
    const hung = texts.every((b) => b.indented);
    for (const b of blocks) {
      if (!isText(b) || isEmpty(b)) {
        close();
        continue;
      }
      const parts = linesOf(b.inline);
      if (parts.length > 1) close();
      parts.forEach((inline, i) => {
        const text = inline.map((n) => n.text ?? '').join('');
        const spaces = /^[ \u00a0]*/.exec(text)?.[0].length ?? 0;
        const tabs = /^\t*/.exec(text)?.[0].length ?? 0;
        const steps = Math.ceil(spaces / STEP) + tabs + (b.indented && !hung ? 1 : 0);
        lines.push(this.verseLine({ inline }, i === 0 ? this.idFor(b) : this.id(), steps));
      });
      if (parts.length > 1) close();
    }
    close();
    return out;
  }

  verseLine(b: Pick<RawParagraph, 'inline'>, id: string, indent: number): Node {
    return schema.node('verseLine', { id, indent: Math.min(4, indent) }, this.inline(b));
  }

  /** A list whose marks were typed: the book sets its own. */
  private typedList(items: readonly RawParagraph[], s: Stretch): Node {
    const nodes = items.map((b) => {
      const length = markLength(b.text);
      const mark = b.text.slice(0, length).trim();
      if (countWords(mark, 0) > 0) this.aside('list-numbers', mark);
      const item = this.paragraph({ ...b, inline: withoutFirst(b.inline, length) });
      return schema.node('item', { id: this.id() }, [item]);
    });
    return schema.node(
      'list',
      { id: this.id(), ordered: s.ordered ?? false, start: s.start ?? 1, numbers: s.numbers ?? 'figures' },
      nodes,
    );
  }

  list(items: readonly RawParagraph[], level = 0, end = items.length): Node {
    const within: Node[][] = [];
    for (let i = 0; i < end; i++) {
      const p = items[i] as RawParagraph;
      const goesOn = p.list?.goesOn === true && p.list.level === level ? within.at(-1) : undefined;
      const children = goesOn ?? [];
      children.push(this.paragraph(p));
      if (!goesOn) within.push(children);
      const deeper: RawParagraph[] = [];
      while (i + 1 < end && (items[i + 1]?.list?.level ?? 0) > level) deeper.push(items[++i] as RawParagraph);
      if (deeper.length > 0) children.push(this.list(deeper, deeper[0]?.list?.level ?? level + 1));
    }
    const { ordered = false, numbers = 'figures', start = 1, terms = false } = items[0]?.list ?? {};
    return schema.node(
      'list',
      { id: this.id(), ordered, numbers, start, terms },
      within.map((children) => schema.node('item', { id: this.id() }, children)),
    );
  }

  /** Tables as they lie in the file: merged cells, heads, and lists and pictures in cells. */
  table({ rows, cells }: RawTable): Node {
    const cell = (
      c: readonly RawParagraph[],
      { colspan = 1, rowspan = 1, head = false }: RawCell = {},
    ): Node =>
      schema.node('cell', { id: this.id(), colspan, rowspan, head, align: alignOf(c) }, this.inCell(c));
    const nodes = rows.flatMap((r, i) =>
      r.length > 0
        ? [
            schema.node(
              'row',
              { id: this.id() },
              r.map((c, k) => cell(c, cells?.[i]?.[k])),
            ),
          ]
        : [],
    );
    if (nodes.length === 0) return schema.node('paragraph', { id: this.id() });
    return schema.node('table', { id: this.id() }, nodes);
  }

  private inCell(paragraphs: readonly RawParagraph[]): Node[] {
    const out: Node[] = [];
    for (let i = 0; i < paragraphs.length; i++) {
      const p = paragraphs[i] as RawParagraph;
      for (const picture of p.pictures)
        out.push(schema.node('figure', { id: this.id(), picture: picture.id, alt: picture.alt }));
      if (p.pictures.length > 0 && p.text.trim() === '') continue;
      if (!p.list) {
        out.push(this.paragraph(p));
        continue;
      }
      let to = i + 1;
      while (paragraphs[to]?.list && paragraphs[to]?.pictures.length === 0) to++;
      out.push(this.list(paragraphs.slice(i, to)));
      i = to - 1;
    }
    return out.length > 0 ? out : [schema.node('paragraph', { id: this.id() })];
  }

  /** The notes that the section calls, and those that they call themselves, in order. */
  private noteBodies(): Node[] {
    const out: Node[] = [];
    for (let i = 0; i < this.calls.length; i++) {
      const { ref, id } = this.calls[i]!;
      const note = this.notes.get(ref);
      const paragraphs = (note?.paragraphs ?? [])
        .filter((p) => p.text.trim() !== '')
        .map((p) => this.paragraph(p));
      const content = paragraphs.length ? paragraphs : [schema.node('paragraph', { id: this.id() })];
      out.push(schema.node('noteBody', { id, kind: note?.kind ?? 'foot' }, content));
    }
    return out;
  }

  /** Notes that nothing calls any more are debris, but their words are told. */
  orphanedNotes(): void {
    this.now = null;
    for (const n of this.notes.values())
      if (!this.called.has(n.id))
        for (const p of n.paragraphs) if (p.text.trim()) this.aside('uncalled-notes', p.text);
  }
}

/** How a cell is ranged: as all that is in it. */
const alignOf = (c: readonly RawParagraph[]): string => {
  const [first] = c.filter((p) => p.text.trim() !== '');
  const same = first && c.every((p) => p.text.trim() === '' || p.align === first.align);
  return same && (first.align === 'centre' || first.align === 'right') ? first.align : 'left';
};

/** Inline content cut at its line breaks. */
function linesOf(inline: readonly Node[]): Node[][] {
  const out: Node[][] = [[]];
  for (const n of inline) {
    if (n.type.name === 'lineBreak') out.push([]);
    else out.at(-1)?.push(n);
  }
  return out.filter((l) => l.some((n) => !n.isText || (n.text as string).trim() !== ''));
}
