/** A page of HTML, element by element, into raw paragraphs. */
import type { DefaultTreeAdapterTypes as Tree } from 'parse5';
import type { Mark, Node } from 'prosemirror-model';
import { cleanFormula, formulaText, schema, type SectionKind } from '../../book';
import { BLOCKS, KIND_BY_TYPE, SKIPPED, STYLES } from './html-elements';
import {
  attribute,
  isElement,
  isEndnote,
  type ChildNode,
  type Element,
  withoutBackLinks,
  type NotesFound,
} from './html-notes';
import { inherited, marksOf, type Context } from './html-marks';
import { anchorName, idOf, listOf, mathNode, ownRows, spanOf, trimmed } from './html-parts';
import { BASE_SIZE, styleAttribute, type StyleSheet, type Look } from './html-style';
import type { PictureShelf } from './pictures';
import {
  linkToAnchor,
  looksOf,
  paragraphsOf,
  rawParagraph,
  type RawBlock,
  type RawCell,
  type RawListPlace,
  type RawManuscript,
  type RawParagraph,
} from '../raw';

export interface HtmlPage {
  /** Path in its container, '' for a file that stands alone. */
  path: string;
  document: Tree.Document;
  sheet: StyleSheet;
}
export interface HtmlPlaces {
  /** Bytes of a picture; null when it is missing, undefined when it lies outside and is not fetched. */
  picture(page: HtmlPage, src: string): Uint8Array | null | undefined;
  /** Page and id that a reference points to, null for what leaves the book. */
  target(page: HtmlPage, href: string): { path: string; id: string } | null;
}

const OUTSIDE: Context = {
  marks: [],
  look: {},
  style: '',
  outline: 0,
  list: null,
  pre: false,
  heading: false,
};

export class PageReader {
  private out: RawBlock[] = [];
  private now: RawParagraph | null = null;
  private breakPending = false;
  private opens: SectionKind | '' = '';
  /** Paragraphs of notes by their names. */
  private readonly found = new Map<string, RawParagraph[]>();
  /** Anchors that the next paragraph bears. */
  private anchors: string[];

  constructor(
    private readonly page: HtmlPage,
    private readonly places: HtmlPlaces,
    private readonly shelf: PictureShelf,
    private readonly notes: NotesFound,
    private readonly m: RawManuscript,
  ) {
    this.anchors = [anchorName(page.path, '')];
  }

  read(nodes: readonly ChildNode[], context: Context = OUTSIDE): RawBlock[] {
    const { out, now } = this;
    this.out = [];
    this.now = null;
    this.children(nodes, context);
    this.flush();
    const made = this.out;
    this.out = out;
    this.now = now;
    return made;
  }

  private begin(c: Context): RawParagraph {
    if (this.now) return this.now;
    const { look } = c;
    this.now = rawParagraph({
      style: c.style,
      outline: c.outline,
      list: c.list,
      align: look.align ?? 'left',
      size: look.size ?? BASE_SIZE,
      bold: look.bold ?? false,
      italic: look.italic ?? false,
      indented: look.indented ?? false,
      monospace: look.monospace ?? false,
      breakBefore: this.breakPending,
      opens: this.opens,
      anchors: this.anchors,
    });
    this.anchors = [];
    this.breakPending = false;
    this.opens = '';
    return this.now;
  }

  private flush(): void {
    const p = this.now;
    this.now = null;
    if (!p) return;
    while (p.inline.at(-1)?.type.name === 'lineBreak') p.inline.pop();
    if (p.inline.length === 0 && p.pictures.length === 0) return this.restore(p);
    if (p.text.trim() === '' && p.pictures.length === 0 && !p.inline.some((n) => n.type.name === 'note')) {
      // A paragraph of a no-break space alone is a blank line.
      this.anchors.push(...p.anchors.splice(0));
      this.out.push({ ...p, inline: [], text: '' });
      return;
    }
    const looks = looksOf(p);
    if (looks.bold) p.bold = true;
    if (looks.italic) p.italic = true;
    if (looks.monospace) p.monospace = true;
    this.out.push(p);
  }
  /** What an element said that turned out empty goes to the paragraph after it. */
  private restore(p: RawParagraph): void {
    this.breakPending ||= p.breakBefore;
    this.opens ||= p.opens;
    this.anchors.push(...p.anchors);
  }

  /** Notes that links may point to this element. */
  private anchor(e: Element): void {
    const id = idOf(e);
    if (id) (this.now?.anchors ?? this.anchors).push(anchorName(this.page.path, id));
  }

  private linkOf(e: Element): Mark | null {
    if (e.tagName !== 'a') return null;
    const href = attribute(e, 'href');
    if (/^(https?|mailto):/i.test(href)) return schema.mark('link', { kind: 'web', target: href });
    const to = href ? this.places.target(this.page, href) : null;
    return to && linkToAnchor(anchorName(to.path, to.id));
  }

  private add(n: Node, c: Context): void {
    const p = this.begin(c);
    p.inline.push(n);
    p.text += n.isText ? (n.text as string) : n.type.name === 'lineBreak' ? '\n' : '';
  }

  private children(nodes: readonly ChildNode[], c: Context): void {
    for (const n of nodes) {
      if (n.nodeName === '#text') this.text((n as Tree.TextNode).value, c);
      else if (isElement(n)) this.element(n, c);
    }
  }

  private text(value: string, c: Context): void {
    let text = value.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f]/g, '');
    if (!c.pre) {
      text = text.replace(/[ \t\r\n]+/g, ' ');
      const before = this.now?.inline.at(-1);
      const open =
        !before || before.type.name === 'lineBreak' || (before.isText && / $/.test(before.text as string));
      if (open) text = text.replace(/^ +/, '');
    }
    if (text !== '') this.add(schema.text(text, c.marks as Mark[]), c);
  }

  private element(e: Element, outer: Context): void {
    const tag = e.tagName;
    if (SKIPPED.has(tag)) {
      if (tag === 'svg') this.drop('drawings');
      return;
    }
    if (tag === 'math') {
      const formula = cleanFormula(mathNode(e));
      for (const n of formula ? formulaText(formula, outer.marks) : []) this.add(n, outer);
      return;
    }
    const noteBody = this.notes.bodies.get(e);
    if (noteBody !== undefined) return this.note(e, noteBody);
    const classes = attribute(e, 'class').split(/\s+/).filter(Boolean);
    const look = this.lookOf(e);
    if (look.hidden) return;
    const call = this.notes.calls.get(e);
    if (call !== undefined) return this.add(schema.node('note', { ref: call }), outer);
    switch (tag) {
      case 'br':
        if (/^verse/i.test(outer.style)) return this.flush();
        if (this.now) this.add(schema.node('lineBreak'), outer);
        return;
      case 'img':
      case 'image':
        return this.picture(e, outer);
      case 'hr': {
        this.flush();
        const blank = classes.includes('blank');
        this.out.push(
          rawParagraph(blank ? {} : { inline: [schema.text('* * *')], text: '* * *', align: 'centre' }),
        );
        return;
      }
      case 'table':
        this.flush();
        return this.table(e, outer);
    }
    if (/pagebreak/.test(attribute(e, 'epub:type')) || attribute(e, 'role') === 'doc-pagebreak') return;
    if (BLOCKS.has(tag) || this.isBlockByType(e)) return this.block(e, outer, classes, look);
    this.anchor(e);
    this.children(e.childNodes, { ...outer, marks: marksOf(e, outer, look, classes, this.linkOf(e)) });
    // The number of a heading stands on a line of its own.
    if (outer.heading && classes.includes('number')) this.add(schema.node('lineBreak'), outer);
  }

  private lookOf(e: Element): Look {
    const classes = attribute(e, 'class').split(/\s+/).filter(Boolean);
    return { ...this.page.sheet.of(e.tagName, classes), ...styleAttribute(attribute(e, 'style')) };
  }

  private isBlockByType = (e: Element): boolean => e.tagName.includes('pagebreak');

  private drop(what: string): void {
    this.m.dropped[what] = (this.m.dropped[what] ?? 0) + 1;
  }

  private block(e: Element, outer: Context, classes: readonly string[], look: Look): void {
    this.flush();
    this.anchor(e);
    if (look.breakBefore || classes.includes('page-break')) this.breakPending = true;
    const c: Context = { ...outer, look: { ...inherited(outer.look), ...look } };
    const tag = e.tagName;
    const heading =
      /^h([1-6])$/.exec(tag) ?? /^mso-?heading([1-6])$/i.exec(classes.find((x) => /heading/i.test(x)) ?? '');
    if (heading) {
      c.outline = Number(heading[1]);
      c.heading = true;
    }
    if (tag === 'center') c.look = { ...c.look, align: 'centre' };
    const align = attribute(e, 'align').toLowerCase();
    if (align === 'center' || align === 'right')
      c.look = { ...c.look, align: align === 'center' ? 'centre' : 'right' };
    if (tag === 'blockquote') c.style = /verse|poe/i.test(classes.join(' ')) ? 'Verse' : 'Quotation';
    if (tag === 'figcaption' || tag === 'caption') c.style = 'Caption';
    if (tag === 'nav' || /(^|\s)toc(\s|$)/.test(attribute(e, 'epub:type'))) c.style = 'toc';
    for (const name of classes) {
      const known = STYLES.find(([test]) => test.test(name));
      if (known) c.style = known[1];
      if (name === 'passage') c.look = { ...c.look, align: classes.includes('right') ? 'right' : 'centre' };
    }
    if (tag === 'pre') {
      c.pre = true;
      c.style = 'Preformatted';
      c.look = { ...c.look, monospace: true };
    }
    if (tag === 'ul' || tag === 'ol') c.list = listOf(e, tag === 'ol', outer.list ? outer.list.level + 1 : 0);
    if (tag === 'dl') c.list = { level: outer.list ? outer.list.level + 1 : 0, ordered: false, terms: true };
    if (tag === 'ul' && /toc/.test(c.style)) c.list = null;
    this.opens ||= this.kindOf(e);
    const language = attribute(e, 'lang') || attribute(e, 'xml:lang');
    if (language && tag === 'html') this.m.language ||= language;
    const indent = /^in(\d)$/.exec(classes.find((x) => /^in\d$/.test(x)) ?? '');
    if (indent && c.style === 'Verse') this.begin(c).text = '    '.repeat(Number(indent[1]));
    if (classes.includes('stanza') && this.out.at(-1)?.kind === 'paragraph')
      this.out.push(rawParagraph({ style: c.style }));
    const from = this.out.length;
    this.children(tag === 'pre' ? trimmed(e.childNodes) : e.childNodes, c);
    this.flush();
    if (tag === 'li' || tag === 'dd') this.asOneItem(from, tag === 'li' ? 1 : 0, c.list);
    if (look.breakAfter) this.breakPending = true;
  }

  /** Paragraphs of an item, and of what a term means, go on in one item. */
  private asOneItem(from: number, first: number, list: RawListPlace | null): void {
    for (const p of this.out.slice(from + first))
      if (p.kind === 'paragraph' && p.list && p.list.level === list?.level)
        p.list = { ...p.list, goesOn: true };
  }

  private kindOf(e: Element): SectionKind | '' {
    if (!/^(section|body|div|article|aside|nav)$/.test(e.tagName)) return '';
    for (const type of attribute(e, 'epub:type').split(/\s+/)) {
      const kind = KIND_BY_TYPE.get(type);
      if (kind) return kind;
      if (type === 'bodymatter' && e.tagName === 'section') return 'plain';
    }
    return '';
  }

  private picture(e: Element, c: Context): void {
    const src = attribute(e, 'src') || attribute(e, 'href') || attribute(e, 'xlink:href');
    const bytes = src ? this.places.picture(this.page, src) : null;
    if (bytes === undefined) return this.shelf.linked();
    const id = bytes ? this.shelf.add(bytes) : null;
    if (!id) return;
    if (this.now && this.now.text.trim() !== '') this.flush();
    const p = this.begin(c);
    p.inline = [];
    p.text = '';
    p.pictures.push({ id, alt: attribute(e, 'alt').replace(/\s+/g, ' ').trim() });
    this.flush();
  }

  private table(e: Element, c: Context): void {
    const rows: RawParagraph[][][] = [];
    const lie: RawCell[][] = [];
    for (const tr of ownRows(e)) {
      const cells = tr.childNodes.filter((n): n is Element => isElement(n) && /^t[dh]$/.test(n.tagName));
      const row: RawParagraph[][] = [];
      const own: RawCell[] = [];
      for (const cell of cells) {
        const note = this.notes.bodies.get(cell);
        if (note !== undefined) {
          this.note(cell, note);
          continue;
        }
        const within = { ...c, list: null, outline: 0, look: { ...c.look, ...inherited(this.lookOf(cell)) } };
        row.push(this.read(cell.childNodes, within).flatMap(paragraphsOf));
        own.push({
          colspan: spanOf(cell, 'colspan'),
          rowspan: spanOf(cell, 'rowspan'),
          head: cell.tagName === 'th',
        });
      }
      if (row.length === 0) continue;
      rows.push(row);
      lie.push(own);
    }
    const filled = rows;
    // A table of one column is how some pages are laid out, not a table.
    if (filled.every((r) => r.length === 1)) this.out.push(...filled.flat(2));
    else if (filled.length > 0) this.out.push({ kind: 'table', rows: filled, cells: lie });
  }

  private note(e: Element, id: string): void {
    const nodes = withoutBackLinks(e.childNodes);
    const paragraphs = this.read(nodes, OUTSIDE).flatMap(paragraphsOf);
    const begun = this.found.get(id);
    if (begun) begun.push(...paragraphs);
    else {
      this.found.set(id, paragraphs);
      this.m.notes.push({ id, kind: isEndnote(e) ? 'end' : 'foot', paragraphs });
    }
  }
}
