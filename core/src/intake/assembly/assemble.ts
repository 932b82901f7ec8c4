/** From raw paragraphs and headings to a book, with an account of every word: words in = words kept + words set aside. */
import { Fragment } from 'prosemirror-model';
import { appendixLabel } from '../../base';
import { emptyContent, freshSection, kindRule, type Section, type SectionKind } from '../../book';
import { isPoetry, usualBlanks } from '../passages';
import { isEmpty, isText, type HeadingGuess, type RawBlock, type RawManuscript } from '../raw';
import {
  frontPages,
  linesOf,
  typedLines,
  withCallsOf,
  withPictureAbove,
  type Recognition,
  type TitleBlock,
} from '../recognition';
import { contentOf, type Habits } from './content';
import { Nodes } from './nodes';
import { OwnNumbers } from './numbers';

export interface SectionGuess {
  section: Section;
  /** The lines of the manuscript that were taken for its heading; '' where it has none. */
  typed: string;
  reason: string;
  score: number;
  look: string;
}

const newSection = (id: string, kind: SectionKind, title: string): Section =>
  freshSection(id, kind, { title, content: emptyContent('') });

/** The first pictures of a text stand above its title: as many as stood above it in the manuscript. */
function withAbove(content: Section['content'], count: number): Section['content'] {
  const first = content.children.findIndex((n) => n.type.name !== 'figure');
  const until = Math.min(count, first < 0 ? content.childCount : first);
  return content.copy(
    Fragment.fromArray(
      content.children.map((n, i) =>
        i < until ? n.type.create({ ...n.attrs, place: 'above' }, n.content) : n,
      ),
    ),
  );
}

export class Assembler {
  readonly guesses: SectionGuess[] = [];
  readonly nodes: Nodes;
  /** What the title page says; null where there is none. */
  title: TitleBlock | null = null;
  /** Words of the title page that the book shows from its record. */
  onTitlePage = '';
  readonly numbers: OwnNumbers;
  private sections = 0;
  /** The place in the alphabet of the last appendix. */
  private appendices = 0;
  /** Where each section begins among the blocks. */
  private readonly starts: { at: number; section: string }[] = [];
  private readonly habits: Habits;
  private readonly subheads: ReadonlyMap<number, HeadingGuess>;

  constructor(
    private readonly m: RawManuscript,
    private readonly found: Recognition,
  ) {
    this.nodes = new Nodes(m);
    this.numbers = new OwnNumbers(found.headings);
    const heads = found.headings.filter((h) => h.subhead === 0);
    const bodies = heads.map((h, i) => m.blocks.slice(h.at + h.span, heads[i + 1]?.at));
    this.habits = { blocks: m.blocks, blanks: usualBlanks(m.blocks), poetry: isPoetry(bodies) };
    this.subheads = new Map(found.headings.filter((h) => h.subhead > 0).map((h) => [h.at, h]));
  }

  /** Id of the section in which a block of the manuscript stands. */
  sectionAt(block: number): string | null {
    return this.starts.findLast((s) => s.at <= block)?.section ?? this.guesses[0]?.section.id ?? null;
  }

  run(): void {
    const { blocks } = this.m;
    for (const b of blocks) {
      if (isEmpty(b)) this.nodes.count('empty-paragraphs');
      if (isText(b) && b.breakBefore) this.nodes.count('page-breaks');
    }
    const heads = this.found.headings.filter((h) => h.subhead === 0);
    const first = heads[0];
    if (!first) this.wholeText();
    else this.front(0, withPictureAbove(blocks, first.at), true);
    let part: string | null = null;
    heads.forEach((h, i) => {
      const next = heads[i + 1];
      const to = next ? withPictureAbove(blocks, next.at) : blocks.length;
      if (h.kind === 'contents') this.typedContents(h, to);
      else part = this.section(h, to, part);
    });
    this.nodes.orphanedNotes();
    for (const g of this.guesses) g.section.content = this.nodes.links.resolved(g.section.content);
  }

  /** Makes the section that begins at a heading; gives the part in which the next one stands. */
  private section(h: HeadingGuess, to: number, part: string | null): string | null {
    const { blocks } = this.m;
    const from = withPictureAbove(blocks, h.at);
    const pictures = blocks.slice(from, h.at).filter((b) => !isEmpty(b));
    const heading = blocks.slice(h.at, h.at + h.span);
    const body = [...pictures, ...withCallsOf(heading, blocks.slice(h.at + h.span, to))];
    const section = this.begin(h.kind, h.title, from);
    for (const b of heading) if (isText(b)) this.nodes.links.found(b.anchors, section.id);
    section.subtitle = h.subtitle;
    // A title that only says what the kind says anyway is the kind's own heading.
    const rule = kindRule(h.kind);
    if (h.kind !== 'chapter' && h.kind !== 'part' && h.title.toLowerCase() === rule.heading.toLowerCase())
      section.title = rule.heading;
    const appendix = h.kind === 'appendix' ? appendixLabel(h.title) : null;
    if (appendix) {
      section.title = appendix.title;
      this.nodes.aside('number-lines', appendix.typed);
      // The first says its letter even where it stays alone.
      if (appendix.number !== ++this.appendices || this.appendices === 1)
        section.number = this.appendices = appendix.number;
    }
    section.numbered = rule.numbered && (h.numbered || h.kind === 'part' || appendix !== null);
    if (section.numbered && !appendix) section.number = this.numbers.own(h, part);
    if (h.label !== '' && !appendix) this.nodes.aside('number-lines', h.label);
    // An epilogue ends the book, not its last part (common practice).
    const inPart = rule.matter === 'body' && h.kind !== 'part' && h.kind !== 'epilogue';
    if (inPart) section.parent = part;
    const content = this.listsCaptions(h.kind, body)
      ? emptyContent('b0')
      : this.content(h.kind, body, h.at + h.span - pictures.length);
    const shown = pictures.reduce((n, b) => n + (isText(b) ? b.pictures.length : 0), 0);
    section.content = rule.opening === 'heading' && pictures.length > 0 ? withAbove(content, shown) : content;
    this.guesses.push({
      section,
      typed: typedLines(blocks, h),
      reason: h.reason,
      score: h.score,
      look: h.look,
    });
    return h.kind === 'part' ? section.id : inPart ? part : null;
  }

  /** Sets a list of captions aside that a word processor made: the book makes its own. */
  private listsCaptions(kind: SectionKind, body: readonly RawBlock[]): boolean {
    if (kind !== 'list-of-figures' && kind !== 'list-of-tables') return false;
    const lines = body.filter(isText).filter((b) => !isEmpty(b));
    const made = lines.length > 0 && lines.every((b) => /^table of figures$/i.test(b.style));
    if (made) for (const b of lines) this.nodes.aside('typed-contents', b.text);
    return made;
  }

  private begin(kind: SectionKind, title: string, at: number): Section {
    const section = newSection(`s${++this.sections}`, kind, title);
    this.nodes.now = section.id;
    this.starts.push({ at, section: section.id });
    return section;
  }

  /** `offset` is the index of body[0] among all blocks, for subheads. */
  private content(kind: SectionKind, blocks: readonly RawBlock[], offset: number): Section['content'] {
    const subheads = new Map<number, HeadingGuess>();
    blocks.forEach((b, i) => {
      const h = this.subheads.get(offset + i);
      if (h && b === this.m.blocks[offset + i]) subheads.set(i, h);
    });
    return contentOf(this.nodes, { kind, blocks, subheads }, this.habits);
  }

  private wholeText(): void {
    const { blocks } = this.m;
    if (blocks.every((b) => isEmpty(b))) return;
    const section = this.begin('chapter', '', 0);
    section.numbered = false;
    section.content = this.content('chapter', blocks, 0);
    const reason = 'no headings were found: the whole text is one chapter';
    this.guesses.push({ section, typed: '', reason, score: 0, look: '' });
  }

  /** Pages without a heading of their own, before the first heading or after the contents. */
  private front(from: number, to: number, first: boolean): void {
    const { blocks } = this.m;
    for (const page of frontPages(blocks, from, to, first, this.m.author)) {
      const section = this.begin(page.kind, '', page.from);
      section.matter = 'front';
      // A page that will be made from the record has no words of its own to be known by.
      const typed = page.title ? linesOf(blocks.slice(page.from, page.to)) : '';
      const guess: SectionGuess = { section, typed, reason: page.reason, score: 4, look: '' };
      const body = blocks.slice(page.from, page.to);
      if (page.kind === 'contents') {
        for (const b of body) if (isText(b)) this.nodes.aside('typed-contents', b.text);
      } else if (page.title) {
        this.title = page.title;
        section.content = this.titlePage(page.title, body, page.from);
      } else section.content = this.content(page.kind, body, -1 - blocks.length);
      this.guesses.push(guess);
    }
  }

  /** A title page that says nothing but the record’s words is made from the record; else it stays as it was typed. */
  private titlePage(t: TitleBlock, body: readonly RawBlock[], from: number): Section['content'] {
    const contact = new Set(t.contact);
    const rest = body.filter((_, i) => !contact.has(from + i));
    for (const [i, b] of body.entries())
      if (contact.has(from + i) && isText(b)) this.nodes.aside('contact-lines', b.text);
    // A picture, such as a device, is no words of the record.
    if (!t.whole || rest.some((b) => !isText(b) || b.pictures.length > 0))
      return this.content('title-page', rest, -1 - this.m.blocks.length);
    for (const b of rest) if (isText(b)) this.nodes.links.pass(b.anchors);
    for (const word of t.by) this.nodes.aside('title-page', word);
    const names = t.authors.join('\n');
    this.onTitlePage = [t.title, t.subtitle, names].filter(Boolean).join('\n');
    return emptyContent('b0');
  }

  /** The contents as typed are set aside; pages that follow the list have text of their own. */
  private typedContents(h: HeadingGuess, to: number): void {
    const { blocks } = this.m;
    const section = this.begin('contents', '', h.at);
    const end = h.at + h.span;
    for (const b of blocks.slice(h.at, end)) if (isText(b)) this.nodes.aside('typed-contents', b.text);
    const reason = 'a contents list was typed here; the book makes its own from the order';
    this.guesses.push({
      section,
      typed: typedLines(blocks.slice(0, h.at + 1), { ...h, span: 1 }),
      reason,
      score: 8,
      look: '',
    });
    this.front(end, to, false);
  }
}
