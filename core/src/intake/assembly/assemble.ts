/** From raw paragraphs and headings to a book, with an account of every word: words in = words kept + words set aside. */
import { Fragment, type Node } from 'prosemirror-model';
import { countWords, type Finding } from '../../base';
import { emptyContent, freshSection, kindRule, schema, type Section, type SectionKind } from '../../book';
import { Links } from './links';
import type { HeadingGuess } from '../raw';
import { tidyInline, type TidyCount } from './inline';
import { withAttribution, withEpigraph } from './epigraphs';
import { Flow } from './flow';
import {
  isDisplayed,
  isEmpty,
  isText,
  type RawBlock,
  type RawManuscript,
  type RawNote,
  type RawParagraph,
} from '../raw';
import {
  emptiesAreSpacing,
  numberWordsOf,
  pageKind,
  typedLines,
  withCallsOf,
  withPictureAbove,
} from '../recognition';
import { isBreakText } from '../raw';

export interface SetAside {
  rule: string;
  text: string;
  words: number;
  section: string | null;
}
export interface SectionGuess {
  section: Section;
  /** The lines of the manuscript that were taken for its heading; '' where it has none. */
  typed: string;
  reason: string;
  score: number;
}

const newSection = (id: string, kind: SectionKind, title: string): Section =>
  freshSection(id, kind, { title, content: emptyContent('') });

const BLANKS_FOR_A_PAGE = 5;

export class Assembler {
  readonly guesses: SectionGuess[] = [];
  readonly setAside: SetAside[] = [];
  readonly tidied: TidyCount = {};
  readonly findings: Finding[] = [];
  private ids = 0;
  private sections = 0;
  /** The section being made, and where each begins among the blocks. */
  private now: string | null = null;
  private readonly starts: { at: number; section: string }[] = [];
  /** Notes by their name in the file, those that are called, and those that the section being made calls. */
  private readonly notes: ReadonlyMap<string, RawNote>;
  private readonly called = new Set<string>();
  private calls: { ref: string; id: string }[] = [];
  private readonly links = new Links();

  constructor(
    private readonly m: RawManuscript,
    private readonly headings: readonly HeadingGuess[],
  ) {
    this.notes = new Map(m.notes.map((n) => [n.id, n]));
  }

  private id(): string {
    return `b${++this.ids}`;
  }

  /** An id for the block that a paragraph becomes; links to the paragraph lead there. */
  private idFor(b: RawParagraph): string {
    const id = this.id();
    if (this.now) this.links.found(b.anchors, this.now, id);
    return id;
  }

  /** Puts text aside under a rule. */
  aside(rule: string, text: string, section = this.now): void {
    this.setAside.push({ rule, text, words: countWords(text), section });
  }

  /** Id of the section in which a block of the manuscript stands. */
  sectionAt(block: number): string | null {
    return this.starts.findLast((s) => s.at <= block)?.section ?? this.guesses[0]?.section.id ?? null;
  }

  run(): void {
    const { blocks } = this.m;
    for (const b of blocks) {
      if (isEmpty(b)) this.count('empty-paragraphs');
      if (isText(b) && b.breakBefore) this.count('page-breaks');
    }
    const heads = this.headings.filter((h) => h.subhead === 0);
    const subheads = new Map(this.headings.filter((h) => h.subhead > 0).map((h) => [h.at, h]));
    const spaced = emptiesAreSpacing(blocks);
    const firstHead = heads[0]?.at ?? blocks.length;
    const start = withPictureAbove(blocks, firstHead);
    this.frontMatter(blocks.slice(0, start), heads.length === 0);
    let part: string | null = null;
    heads.forEach((h, i) => {
      const next = heads[i + 1]?.at ?? blocks.length;
      const from = withPictureAbove(blocks, h.at);
      const to = i + 1 < heads.length ? withPictureAbove(blocks, next) : blocks.length;
      const pictures = blocks.slice(from, h.at).filter((b) => !isEmpty(b));
      const heading = blocks.slice(h.at, h.at + h.span);
      const body = [...pictures, ...withCallsOf(heading, blocks.slice(h.at + h.span, to))];
      if (h.kind === 'contents') {
        this.typedContents(h, body);
        return;
      }
      const section = newSection(`s${++this.sections}`, h.kind, h.title);
      this.now = section.id;
      this.starts.push({ at: from, section: section.id });
      for (const b of heading) if (isText(b)) this.links.found(b.anchors, section.id);
      section.subtitle = h.subtitle;
      // A title that only says what the kind says anyway is the kind's own heading.
      if (
        h.kind !== 'chapter' &&
        h.kind !== 'part' &&
        h.title.toLowerCase() === kindRule(h.kind).heading.toLowerCase()
      )
        section.title = kindRule(h.kind).heading;
      section.numbered = kindRule(h.kind).numbered && (h.numbered || h.kind === 'part');
      if (h.numberWords > 0) this.aside('number-lines', numberWordsOf(this.m, h));
      // An epilogue ends the book, not its last part (common practice).
      if (h.kind === 'part' || h.kind === 'epilogue') part = null;
      else if (kindRule(h.kind).matter === 'body') section.parent = part;
      else part = null;
      section.content = this.content(
        body,
        subheads,
        h.at + h.span - pictures.length,
        spaced,
        pictures.length,
      );
      this.guesses.push({ section, typed: typedLines(blocks, h), reason: h.reason, score: h.score });
      if (h.kind === 'part') part = section.id;
    });
    this.orphanedNotes();
    for (const g of this.guesses) g.section.content = this.links.resolved(g.section.content);
  }

  /** Pages before the first heading, told apart by page breaks and words. */
  private frontMatter(blocks: readonly RawBlock[], isAll: boolean): void {
    if (isAll) {
      if (blocks.some((b) => !isEmpty(b))) {
        const section = newSection(`s${++this.sections}`, 'chapter', '');
        this.now = section.id;
        section.numbered = false;
        section.content = this.content(blocks, new Map(), 0, emptiesAreSpacing(blocks), 0);
        this.guesses.push({
          section,
          typed: '',
          reason: 'no headings were found: the whole text is one chapter',
          score: 0,
        });
      }
      return;
    }
    const pages: RawBlock[][] = [[]];
    let blanks = 0;
    for (const b of blocks) {
      // Many blank lines are a page break that somebody typed.
      const begins = isText(b) && (b.breakBefore || (blanks >= BLANKS_FOR_A_PAGE && !isEmpty(b)));
      if (begins && (pages.at(-1) as RawBlock[]).some((x) => !isEmpty(x))) pages.push([]);
      (pages.at(-1) as RawBlock[]).push(b);
      blanks = isEmpty(b) ? blanks + 1 : 0;
    }
    let first = true;
    for (const page of pages) {
      if (page.every((b) => isEmpty(b))) continue;
      const { kind, reason } = pageKind(page, first);
      first = false;
      if (kind === 'contents') {
        this.typedContents(null, page);
        continue;
      }
      const section = newSection(`s${++this.sections}`, kind, '');
      section.matter = 'front';
      this.now = section.id;
      section.content = this.content(page, new Map(), 0, true, 0);
      this.guesses.push({ section, typed: '', reason, score: 4 });
    }
  }

  private typedContents(h: HeadingGuess | null, body: readonly RawBlock[]): void {
    const lines = body.filter(isText).filter((b) => b.text.trim() !== '');
    this.now = null;
    if (h) this.aside('typed-contents', h.title);
    const list = lines.filter((b) => /^toc\b/i.test(b.style) || b.text.trim().length < 140);
    for (const b of list) this.aside('typed-contents', b.text);
    const rest = body.filter((b) => !list.includes(b as RawParagraph) && !isEmpty(b));
    const section = newSection(`s${++this.sections}`, 'contents', '');
    this.guesses.push({
      section,
      typed: h?.title ?? '',
      reason: 'a contents list was typed here; the book makes its own from the order',
      score: 8,
    });
    if (rest.length === 0) return;
    const more = newSection(`s${++this.sections}`, 'plain', '');
    more.matter = 'front';
    more.content = this.content(rest, new Map(), 0, true, 0);
    this.guesses.push({
      section: more,
      typed: '',
      reason: 'text that stood below the contents list',
      score: 2,
    });
  }

  /** A section's blocks as a document of the schema. `offset` is the index of body[0] among all blocks, for subheads. */
  private content(
    body: readonly RawBlock[],
    subheads: ReadonlyMap<number, HeadingGuess>,
    offset: number,
    spaced: boolean,
    pictures: number,
  ): Node {
    const out = new Flow(() => this.id());
    const outside = this.calls;
    this.calls = [];
    let empties = 0;
    for (let i = 0; i < body.length; i++) {
      const b = body[i] as RawBlock;
      if (b.kind === 'table') {
        out.put(this.table(b.rows));
        continue;
      }
      if (isEmpty(b)) {
        this.links.pass(b.anchors);
        empties++;
        continue;
      }
      if (/^toc\b/i.test(b.style)) {
        this.aside('typed-contents', b.text);
        continue;
      }
      const gap = empties > 0 && !spaced && out.last === 'paragraph';
      const apart = empties > 0;
      empties = 0;
      if (b.pictures.length > 0) {
        for (const p of b.pictures) {
          const caption = body[i + 1];
          const captioned = isText(caption) && /caption|legende|beschriftung/i.test(caption.style);
          out.put(
            schema.node(
              'figure',
              { id: this.idFor(b), picture: p.id, alt: p.alt },
              captioned ? this.inline(caption) : [],
            ),
          );
          if (captioned) i++;
        }
        continue;
      }
      if (isBreakText(b.text)) {
        if (!out.isEmpty && out.last !== 'break')
          out.put(schema.node('break', { id: this.id(), ornament: true }));
        this.aside('break-signs', b.text);
        continue;
      }
      const subhead = i >= pictures ? subheads.get(offset + i) : undefined;
      if (subhead) {
        out.put(schema.node('subhead', { id: this.idFor(b), level: subhead.subhead }, this.inline(b)));
        continue;
      }
      if (gap && !isDisplayed(b)) out.put(schema.node('break', { id: this.id(), ornament: false }));
      if (b.list) {
        const items: RawParagraph[] = [];
        while (i < body.length) {
          const x = body[i];
          if (!isText(x) || !x.list) break;
          items.push(x);
          i++;
        }
        i--;
        out.put(this.list(items, 0, items.length));
        continue;
      }
      this.paragraph(b, out, apart);
    }
    const blocks = out.finish();
    if (blocks.length === 0) blocks.push(schema.node('paragraph', { id: this.id() }));
    const told = withEpigraph(blocks, () => this.id()).map((n) =>
      n.type.name === 'quotation' ? withAttribution(n) : n,
    );
    const doc = schema.node('doc', null, Fragment.fromArray([...told, ...this.noteBodies()]));
    this.calls = outside;
    return doc;
  }

  private count(what: string): void {
    this.tidied[what] = (this.tidied[what] ?? 0) + 1;
  }

  /** A paragraph's text, cleaned. A note that has been called already is called again as a copy: each has one call. */
  private inline(b: RawParagraph): Node[] {
    return tidyInline(b.inline, this.tidied).map((n) => {
      if (n.type.name !== 'note') return n;
      const ref = n.attrs.ref as string;
      const id = this.called.has(ref) ? `${ref}-${this.id()}` : ref;
      this.called.add(ref);
      this.calls.push({ ref, id });
      return id === ref ? n : schema.node('note', { ref: id });
    });
  }

  private paragraphNode(b: RawParagraph): Node {
    return schema.node('paragraph', { id: this.idFor(b) }, this.inline(b));
  }

  /** A paragraph by its style and place; joins a displayed block before it of the same sort. */
  private paragraph(b: RawParagraph, out: Flow, apart: boolean): void {
    const style = b.style.toLowerCase();
    if (/verse|poe(m|try)|lyric|gedicht/.test(style)) {
      // Spaces before a line of verse are its indent; a blank line between lines begins a stanza.
      const indent = Math.min(4, Math.ceil((/^[ \t\u00a0]*/.exec(b.text)?.[0].length ?? 0) / 4));
      return out.line(schema.node('verseLine', { id: this.idFor(b), indent }, this.inline(b)), apart);
    }
    if (/attribution/.test(style) && /^(quotation|verse)$/.test(out.last ?? '')) {
      const line = schema.node('attribution', { id: this.idFor(b) }, this.inline(b));
      if (!out.attribution(line)) out.put(schema.node('paragraph', line.attrs, line.content));
      return;
    }
    if (/quot|block text|zitat|citation/.test(style)) return out.into('quotation', {}, this.paragraphNode(b));
    if (/letter|brief/.test(style)) return out.into('letter', {}, this.paragraphNode(b));
    if (/code|preformatted|html pre/.test(style) && b.monospace)
      return out.put(schema.node('monospace', { id: this.idFor(b) }, b.text ? [schema.text(b.text)] : []));
    if (b.align === 'centre' || b.align === 'right')
      return out.into('passage', { align: b.align }, this.paragraphNode(b));
    out.put(this.paragraphNode(b));
  }

  private list(items: readonly RawParagraph[], level: number, end: number): Node {
    const nodes: Node[] = [];
    for (let i = 0; i < end; i++) {
      const item = items[i] as RawParagraph;
      const children: Node[] = [this.paragraphNode(item)];
      const deeper: RawParagraph[] = [];
      while (i + 1 < end && (items[i + 1]?.list?.level ?? 0) > level) deeper.push(items[++i] as RawParagraph);
      if (deeper.length > 0)
        children.push(this.list(deeper, deeper[0]?.list?.level ?? level + 1, deeper.length));
      nodes.push(schema.node('item', { id: this.id() }, children));
    }
    return schema.node('list', { id: this.id(), ordered: items[0]?.list?.ordered ?? false }, nodes);
  }

  private table(rows: readonly (readonly (readonly RawParagraph[])[])[]): Node {
    const nodes = rows
      .filter((r) => r.length > 0)
      .map((r) =>
        schema.node(
          'row',
          { id: this.id() },
          r.map((c) =>
            schema.node(
              'cell',
              { id: this.id() },
              c.length ? c.map((p) => this.paragraphNode(p)) : [schema.node('paragraph', { id: this.id() })],
            ),
          ),
        ),
      );
    if (nodes.length === 0) return schema.node('paragraph', { id: this.id() });
    return schema.node('table', { id: this.id() }, nodes);
  }

  /** The notes that the section calls, and those that they call themselves, in order. */
  private noteBodies(): Node[] {
    const out: Node[] = [];
    for (let i = 0; i < this.calls.length; i++) {
      const { ref, id } = this.calls[i]!;
      const paragraphs = (this.notes.get(ref)?.paragraphs ?? [])
        .filter((p) => p.text.trim() !== '')
        .map((p) => this.paragraphNode(p));
      const content = paragraphs.length ? paragraphs : [schema.node('paragraph', { id: this.id() })];
      out.push(schema.node('noteBody', { id }, content));
    }
    return out;
  }

  /** Notes that nothing calls any more are debris, but their words are told. */
  private orphanedNotes(): void {
    this.now = null;
    for (const n of this.m.notes)
      if (!this.called.has(n.id))
        for (const p of n.paragraphs) if (p.text.trim()) this.aside('uncalled-notes', p.text);
  }
}
