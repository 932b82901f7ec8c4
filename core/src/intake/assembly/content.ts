/** A section's blocks as a document of the schema: stretches as they were recognised, captions with their pictures. */
import { type Node } from 'prosemirror-model';
import { countWords } from '../../base';
import { schema, type SectionKind } from '../../book';
import { captionsOf, isBreak, stretchesOf, usualBlanks, type Stretch, type Whole } from '../passages';
import {
  isBreakText,
  isDisplayed,
  isTableCaption,
  isEmpty,
  isText,
  type HeadingGuess,
  type RawBlock,
  type RawParagraph,
} from '../raw';
import { Flow } from './flow';
import type { Nodes } from './nodes';

export interface Body {
  kind: SectionKind;
  blocks: readonly RawBlock[];
  /** Subheads by their index among `blocks`. */
  subheads: ReadonlyMap<number, HeadingGuess>;
}

/** What the whole manuscript says where a section says nothing. */
export interface Habits extends Whole {
  /** Blank lines between paragraphs. */
  blanks: number;
}

export function contentOf(nodes: Nodes, body: Body, habits: Habits): Node {
  return nodes.document(() => new Content(nodes, body, habits).run());
}

class Content {
  private readonly out: Flow;
  private readonly captions: ReadonlyMap<number, number>;
  private readonly stretches: ReadonlyMap<number, Stretch>;
  private readonly usual: number;

  constructor(
    private readonly nodes: Nodes,
    private readonly body: Body,
    habits: Habits,
  ) {
    const { blocks, kind, subheads } = body;
    this.out = new Flow(nodes.id);
    const isHead = (at: number): boolean => subheads.has(at);
    this.captions = captionsOf(blocks, isHead);
    const captions = new Set(this.captions.values());
    const found = stretchesOf(blocks, kind, (at) => isHead(at) || captions.has(at), habits);
    this.stretches = new Map(found.map((s) => [s.from, s]));
    this.usual = usualBlanks(blocks, habits.blanks);
  }

  run(): Node[] {
    const { blocks, subheads } = this.body;
    const captions = new Set(this.captions.values());
    let empties = 0;
    for (let i = 0; i < blocks.length; i++) {
      const b = blocks[i] as RawBlock;
      const blanks = empties;
      empties = 0;
      if (b.kind === 'table') {
        const at = isEmpty(blocks[i + 1]) ? i + 2 : i + 1;
        const below = blocks[at];
        if (isText(below) && tableOf(blocks, at) === i)
          this.out.put(
            schema.node('tableCaption', { id: this.nodes.idFor(below) }, this.nodes.inline(below)),
          );
        this.out.put(this.nodes.table(b));
      } else if (isEmpty(b)) {
        this.nodes.links.pass(b.anchors);
        empties = blanks + 1;
      } else if (/^toc\b/i.test(b.style)) {
        this.nodes.aside('typed-contents', b.text);
      } else if (captions.has(i)) {
        // It stands with its picture.
        continue;
      } else if (tableOf(blocks, i) > i) {
        this.out.put(schema.node('tableCaption', { id: this.nodes.idFor(b) }, this.nodes.inline(b)));
      } else if (tableOf(blocks, i) >= 0) {
        // Below its table in the file, above it here.
        continue;
      } else if (b.pictures.length > 0) {
        this.figures(b, this.captions.get(i));
      } else if (this.stretches.has(i)) {
        const s = this.stretches.get(i) as Stretch;
        this.out.put(this.nodes.stretch(s, blocks));
        i = s.to - 1;
      } else if (isBreakText(b.text)) {
        if (!this.out.isEmpty && this.out.last !== 'break') this.break(true);
        this.nodes.aside('break-signs', b.text);
      } else if (subheads.has(i)) {
        const level = (subheads.get(i) as HeadingGuess).subhead;
        this.out.put(schema.node('subhead', { id: this.nodes.idFor(b), level }, this.nodes.inline(b)));
      } else if (b.list) {
        let to = i + 1;
        const { level, terms = false } = b.list;
        for (let x = blocks[to]; isText(x) && x.list && x.pictures.length === 0; x = blocks[to]) {
          if (x.list.level <= level && (x.list.terms ?? false) !== terms) break;
          to++;
        }
        this.out.put(this.nodes.list(blocks.slice(i, to) as RawParagraph[]));
        i = to - 1;
      } else {
        if (isBreak(blanks, this.usual) && this.out.last === 'paragraph' && !isDisplayed(b))
          this.break(false);
        this.paragraph(b, blanks > 0);
      }
    }
    return this.out.finish().map((n) => (n.type.name === 'quotation' ? withAttribution(n) : n));
  }

  private break(ornament: boolean): void {
    this.out.put(schema.node('break', { id: this.nodes.id(), ornament }));
  }

  private figures(b: RawParagraph, captionAt: number | undefined): void {
    const caption = this.body.blocks[captionAt ?? -1];
    b.pictures.forEach((p, i) => {
      const last = i === b.pictures.length - 1;
      const attrs = { id: this.nodes.idFor(b), picture: p.id, alt: p.alt };
      this.out.put(schema.node('figure', attrs, last && isText(caption) ? this.nodes.inline(caption) : []));
    });
  }

  /** A paragraph by its style and place; joins a displayed block before it of the same sort. */
  private paragraph(b: RawParagraph, apart: boolean): void {
    const { nodes, out } = this;
    const style = b.style.toLowerCase();
    if (/verse|poe(m|try)|lyric|gedicht/.test(style)) {
      // Spaces before a line of verse are its indent; a blank line between lines begins a stanza.
      const spaces = /^[ \t\u00a0]*/.exec(b.text)?.[0].length ?? 0;
      return out.line(nodes.verseLine(b, nodes.idFor(b), Math.ceil(spaces / 4)), apart);
    }
    if (/attribution/.test(style) && /^(quotation|verse)$/.test(out.last ?? '')) {
      const line = schema.node('attribution', { id: nodes.idFor(b) }, nodes.inline(b));
      if (!out.attribution(line)) out.put(schema.node('paragraph', line.attrs, line.content));
      return;
    }
    if (/quot|block text|zitat|citation/.test(style)) return out.into('quotation', {}, nodes.paragraph(b));
    if (/letter|brief/.test(style)) return out.into('letter', {}, nodes.paragraph(b));
    if (/code|preformatted|html pre/.test(style) && b.monospace)
      return out.put(schema.node('monospace', { id: nodes.idFor(b) }, b.text ? [schema.text(b.text)] : []));
    if (b.align === 'centre' || b.align === 'right')
      return out.into('passage', { align: b.align }, nodes.paragraph(b));
    out.put(nodes.paragraph(b));
  }
}

/** The table whose caption a paragraph is: right below it, else right above it; -1 for none. */
function tableOf(blocks: readonly RawBlock[], at: number): number {
  const b = blocks[at];
  if (!isText(b) || b.pictures.length > 0 || b.list || countWords(b.text, LONGEST_CAPTION) > LONGEST_CAPTION)
    return -1;
  if (!isTableCaption(b.text.trim())) return -1;
  const near = (step: 1 | -1): number => {
    const i = isEmpty(blocks[at + step]) ? at + 2 * step : at + step;
    return blocks[i]?.kind === 'table' ? i : -1;
  };
  const below = near(1);
  if (below >= 0) return below;
  const above = near(-1);
  // A table that has a caption above it wants no other.
  const other = above > 0 ? blocks[isEmpty(blocks[above - 1]) ? above - 2 : above - 1] : undefined;
  return above >= 0 && !(isText(other) && isTableCaption(other.text.trim())) ? above : -1;
}
const LONGEST_CAPTION = 60;

const SOURCE = /^\s*[\u2013\u2014-]\s*\S/;

/** A quotation whose last paragraph says whose it is has an attribution. */
function withAttribution(quotation: Node): Node {
  const last = quotation.lastChild;
  const says =
    last?.type.name === 'paragraph' &&
    SOURCE.test(last.textContent) &&
    countWords(last.textContent, 16) <= 16;
  if (quotation.childCount < 2 || !last || !says) return quotation;
  const source = schema.node('attribution', { id: last.attrs.id as string }, last.content);
  return quotation.copy(quotation.content.replaceChild(quotation.childCount - 1, source));
}
