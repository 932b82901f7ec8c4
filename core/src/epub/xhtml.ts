/** A section's document as XHTML: the schema's blocks and marks in the ebook's own elements. */
import type { Mark, Node } from 'prosemirror-model';
import { escapeXml } from '../base';
import {
  altOf,
  besideText,
  fillsPages,
  formulasIn,
  gridOf,
  headRows,
  isTerms,
  listType,
  notesIn,
} from '../book';
import type { Reference } from '../order';
import { idIn, Ids } from './ids';
import type { Piece } from './split';

/** A page of the print edition that begins inside a block, for the page list. */
export interface PageMark {
  offset: number;
  label: string;
}

export interface SectionContext {
  /** File of the pictures by id, relative to the text folder; null when the picture is not in the book. */
  pictureHref(id: string): { href: string; width: number; height: number } | null;
  /** Print pages that begin in a block, by block id. */
  pages: ReadonlyMap<string, readonly PageMark[]>;
  /** Address of a place in the book, null when that section is not carried. */
  placeHref(target: string): string | null;
  /** Address of an id that this very section has. */
  here(id: string): string;
  /** Marks of a text's notes by their ids. */
  noteMarks(doc: Node): ReadonlyMap<string, string>;
  /** Address of a note that was sent to another section; null for one that stands in its own. */
  noteHref(note: Node): string | null;
  /** What a reference to a place of the book says here. */
  reference(r: Reference): string;
  /** What stands before a caption, such as "Figure 2.3."; '' for nothing. */
  captionLabel(block: string): string;
  /** Where a book of this ISBN is sold, null when the file is made for no shop. */
  shopHref(isbn: string): string | null;
  /** Whether formulas may be shown as MathML. */
  readonly formulas: boolean;
}

const attr = (name: string, value: string): string => (value === '' ? '' : ` ${name}="${escapeXml(value)}"`);

export class SectionWriter {
  private marks: ReadonlyMap<string, string> = new Map();
  /** Note bodies by id, written after the text. */
  private readonly notes = new Map<string, Node>();
  private firstParagraph = true;
  /** The caption of the table that comes next. */
  private caption: Node | null = null;
  private readonly ids = new Ids();
  /** Notes called in what is being written. */
  private called: string[] = [];

  constructor(
    private readonly c: SectionContext,
    /** The next paragraph opens a chapter, or what stands like one. */
    private opens = false,
  ) {}

  /** The text by its blocks, each with the notes that it calls and that stand in the section itself. */
  body(doc: Node): Piece[] {
    this.marks = this.c.noteMarks(doc);
    for (const n of notesIn(doc)) {
      const id = n.attrs.id as string;
      if (!this.notes.has(id)) this.notes.set(id, n);
    }
    const pieces: (Piece & { calls: string[] })[] = [];
    doc.forEach((n, _offset, i) => {
      if (n.type.name === 'noteBody') return;
      const table = n.type.name === 'tableCaption' && doc.maybeChild(i + 1)?.type.name === 'table';
      if (table) this.caption = n;
      else {
        this.called = [];
        const html = this.block(n);
        pieces.push({ html, notes: '', leads: n.type.name === 'subhead', calls: this.called });
      }
    });
    const written = new Set<string>();
    for (const piece of pieces) piece.notes = this.notesCalled(piece.calls, written);
    return pieces;
  }

  private notesCalled(calls: readonly string[], written: Set<string>): string {
    const out: string[] = [];
    const waiting = [...calls];
    for (let id = waiting.shift(); id !== undefined; id = waiting.shift()) {
      const note = this.notes.get(id);
      if (!note || written.has(id) || this.c.noteHref(note) !== null) continue;
      written.add(id);
      this.called = [];
      out.push(this.noteBody(note));
      // Notes may have notes.
      waiting.push(...this.called);
    }
    return out.join('\n');
  }

  /** Notes of other sections, below the name of each; `back` leads to a note's call. */
  gathered(label: string, notes: readonly { note: Node; mark: string; id: string; back: string }[]): Piece[] {
    const piece = (html: string, leads: boolean): Piece => ({ html, notes: '', leads });
    return [
      piece(`<h2>${escapeXml(label)}</h2>`, true),
      ...notes.map(({ note, mark, id, back }) =>
        piece(
          `<div${this.ids.own(id)} epub:type="endnote">\n${this.noteText(note, mark, back)}\n</div>`,
          false,
        ),
      ),
    ];
  }

  private children(n: Node, f: (c: Node, i: number) => string): string {
    const out: string[] = [];
    n.forEach((c, _o, i) => void out.push(f(c, i)));
    return out.join('\n');
  }

  private block(n: Node): string {
    const id = this.ids.attribute(n.attrs.id as string);
    switch (n.type.name) {
      case 'paragraph': {
        const first = this.firstParagraph;
        this.firstParagraph = false;
        const opens = this.opens ? ' opens' : '';
        this.opens = false;
        return `<p${id}${first ? ` class="first${opens}"` : ''}>${this.inline(n)}</p>`;
      }
      case 'subhead':
        this.firstParagraph = true;
        return `<h${Number(n.attrs.level) + 1}${id}>${this.inline(n)}</h${Number(n.attrs.level) + 1}>`;
      case 'break':
        this.firstParagraph = true;
        return `<hr${id} class="${n.attrs.ornament ? 'ornament' : 'blank'}"/>`;
      case 'pageBreak':
        return `<div${id} class="page-break"></div>`;
      case 'quotation':
        return `<blockquote${id}>\n${this.children(n, (c) => this.block(c))}\n</blockquote>`;
      case 'attribution':
        return `<p${id} class="attribution">${this.inline(n)}</p>`;
      case 'verse':
        return `<div${id} class="verse">\n${this.children(n, (c) => (c.type.name === 'stanza' ? `<div class="stanza">\n${this.children(c, (l) => this.verseLine(l))}\n</div>` : this.block(c)))}\n</div>`;
      case 'list': {
        if (isTerms(n)) return `<dl${id}>\n${this.terms(n)}\n</dl>`;
        const tag = n.attrs.ordered ? 'ol' : 'ul';
        const start =
          n.attrs.ordered && Number(n.attrs.start) !== 1 ? ` start="${Number(n.attrs.start)}"` : '';
        const { type } = n.attrs.ordered ? listType(n.attrs.numbers) : {};
        return `<${tag}${id}${type ? ` type="${type}"` : ''}${start}>\n${this.children(n, (item) => `<li>${this.children(item, (c) => this.block(c))}</li>`)}\n</${tag}>`;
      }
      case 'figure':
        return this.figure(n, id);
      case 'passage':
        return `<div${id} class="passage ${escapeXml(n.attrs.align as string)}">\n${this.children(n, (c) => this.block(c))}\n</div>`;
      case 'letter':
        return `<div${id} class="letter">\n${this.children(n, (c) => this.block(c))}\n</div>`;
      case 'monospace':
        return `<pre${id}><code>${this.inline(n)}</code></pre>`;
      case 'table':
        return this.table(n, id);
      case 'tableCaption':
        return `<p${id} class="table-caption">${this.inline(n)}</p>`;
      default:
        return '';
    }
  }

  private verseLine(n: Node): string {
    const indent = Number(n.attrs.indent);
    return `<p${this.ids.attribute(n.attrs.id as string)} class="line${indent ? ` in${Math.min(indent, 4)}` : ''}">${this.inline(n)}</p>`;
  }

  private table(n: Node, id: string): string {
    const heads = headRows(n);
    const rows: string[] = [];
    n.forEach((r, _, at) => void rows.push(`<tr>${this.children(r, (c) => this.cell(c, at < heads))}</tr>`));
    const part = (tag: string, of: readonly string[]): string =>
      of.length === 0 ? '' : `<${tag}>\n${of.join('\n')}\n</${tag}>\n`;
    const caption = this.takeCaption();
    const { widths } = gridOf(n);
    const columns = widths
      ? `<colgroup>${widths.map((w) => `<col style="width: ${Number((w / 10).toFixed(1))}%"/>`).join('')}</colgroup>\n`
      : '';
    const above = caption
      ? `<caption${this.ids.attribute(caption.attrs.id as string)}>${this.label(caption.attrs.id as string)}${this.inline(caption)}</caption>\n`
      : '';
    return `<table${id}>\n${above}${columns}${part('thead', rows.slice(0, heads))}${part('tbody', rows.slice(heads))}</table>`;
  }

  private takeCaption(): Node | null {
    const caption = this.caption;
    this.caption = null;
    return caption;
  }

  /** `inHead`: in a row of headings, which are those of their columns. */
  private cell(n: Node, inHead: boolean): string {
    const tag = n.attrs.head ? 'th' : 'td';
    const { colspan, rowspan, align } = n.attrs as Record<string, unknown>;
    const how = [
      n.attrs.head ? ` scope="${inHead ? 'col' : 'row'}"` : '',
      colspan === 1 ? '' : ` colspan="${Number(colspan)}"`,
      rowspan === 1 ? '' : ` rowspan="${Number(rowspan)}"`,
      align === 'left' ? '' : ` class="${align === 'right' ? 'right' : 'centre'}"`,
    ].join('');
    const [only] = n.childCount === 1 ? [n.firstChild] : [];
    return only?.type.name === 'paragraph'
      ? `<${tag}${this.ids.attribute(only.attrs.id as string)}${how}>${this.inline(only)}</${tag}>`
      : `<${tag}${how}>${this.children(n, (c) => this.block(c))}</${tag}>`;
  }

  private figure(n: Node, id: string): string {
    const picture = this.c.pictureHref(n.attrs.picture as string);
    const credit = n.attrs.credit as string;
    const caption = n.content.size > 0 || credit;
    const image = picture
      ? `<img src="${escapeXml(picture.href)}" alt="${escapeXml(altOf(n))}"${n.attrs.decorative ? ' role="presentation"' : ''} width="${picture.width}" height="${picture.height}"/>`
      : '';
    const words = caption
      ? `\n<figcaption>${this.label(n.attrs.id as string)}${this.inline(n)}${credit ? ` <span class="credit">${escapeXml(credit)}</span>` : ''}</figcaption>`
      : '';
    const width = Number(n.attrs.width);
    const beside = besideText(n);
    const classes = [
      beside ? `beside-${beside}` : '',
      fillsPages(n) ? 'own-page' : width < 100 ? `w${Math.max(10, Math.round(width / 10) * 10)}` : '',
      n.attrs.mask === 'none' ? '' : (n.attrs.mask as string),
    ].filter(Boolean);
    const link = n.attrs.link as string;
    const linked =
      image && /^(https?|mailto):/i.test(link) ? `<a href="${escapeXml(link)}">${image}</a>` : image;
    return `<figure${id}${attr('class', classes.join(' '))}>\n${linked}${words}\n</figure>`;
  }

  /** The last term of a list has a description, if an empty one (HTML §4.4.9). */
  private terms(n: Node): string {
    const all = this.children(n, (item) => this.term(item));
    return all.endsWith('</dt>') ? `${all}\n<dd></dd>` : all;
  }

  /** A term and, in one element, what it means. */
  private term(item: Node): string {
    const parts: string[] = [];
    item.forEach((c) => void parts.push(this.block(c)));
    const [term = '', ...meaning] = parts;
    const dt = term.replace(/^<p/, '<dt').replace(/<\/p>$/, '</dt>');
    return meaning.length > 0 ? `${dt}\n<dd>${meaning.join('\n')}</dd>` : dt;
  }

  private noteBody(n: Node): string {
    const id = n.attrs.id as string;
    const mark = this.marks.get(id) ?? '*';
    const body = this.noteText(n, mark, this.c.here(callOf(id)));
    // One note is told from another by its mark, among all that can be jumped to.
    return `<aside${this.ids.own(`note-${idIn(id)}`)} epub:type="footnote" role="doc-footnote" aria-label="${mark}">\n${body}\n</aside>`;
  }

  private noteText(note: Node, mark: string, back: string): string {
    const link = `<a href="${escapeXml(back)}" role="doc-backlink">${mark}</a> `;
    return this.children(
      note,
      (p, i) => `<p${this.ids.attribute(p.attrs.id as string)}>${i === 0 ? link : ''}${this.inline(p)}</p>`,
    );
  }

  /** Inline content, with the marks of print pages where they begin. */
  private inline(block: Node): string {
    const pages = [...(this.c.pages.get(block.attrs.id as string) ?? [])];
    const out: string[] = [];
    let at = 0;
    const flush = (until: number): void => {
      while (pages.length > 0 && (pages[0] as PageMark).offset <= until)
        out.push(pageMark((pages.shift() as PageMark).label));
    };
    const formulas = this.c.formulas ? formulasIn(block) : [];
    block.forEach((n, offset) => {
      const formula = formulas.find((f) => offset >= f.from && offset < f.to);
      if (formula) {
        flush(at);
        if (offset === formula.from) out.push(this.withMarks(formula.mathml, formula.marks));
      } else if (n.isText) {
        const text = n.text as string;
        let from = 0;
        flush(at);
        while (pages.length > 0 && (pages[0] as PageMark).offset < at + text.length) {
          const cut = (pages[0] as PageMark).offset - at;
          out.push(this.withMarks(escapeXml(text.slice(from, cut)), n.marks));
          from = cut;
          flush(at + cut);
        }
        out.push(this.withMarks(escapeXml(text.slice(from)), n.marks));
      } else if (n.type.name === 'lineBreak') out.push('<br/>');
      else if (n.type.name === 'reference') {
        flush(at);
        out.push(this.withMarks(this.reference(n), n.marks));
      } else if (n.type.name === 'note') {
        flush(at);
        out.push(this.call(n.attrs.ref as string));
      }
      at += n.nodeSize;
    });
    flush(at);
    return out.join('');
  }

  /** A call whose note the section does not have leads nowhere. */
  private call(ref: string): string {
    const mark = this.marks.get(ref) ?? '*';
    const note = this.notes.get(ref);
    if (!note) return `<sup>${mark}</sup>`;
    this.called.push(ref);
    const href = this.c.noteHref(note) ?? this.c.here(`note-${idIn(ref)}`);
    return `<a${this.ids.own(callOf(ref))} href="${href}" epub:type="noteref" role="doc-noteref">${mark}</a>`;
  }

  private reference(n: Node): string {
    const words = escapeXml(this.c.reference(n.attrs as Reference));
    const href = this.c.placeHref(n.attrs.target as string);
    return href === null || words === '' ? words : `<a href="${escapeXml(href)}">${words}</a>`;
  }

  /** The number before a caption's words. */
  private label(block: string): string {
    const label = this.c.captionLabel(block);
    return label === '' ? '' : `<span class="label">${escapeXml(label)}</span> `;
  }

  private withMarks(text: string, marks: readonly Mark[]): string {
    if (text === '') return '';
    let out = text;
    for (const m of [...marks].reverse()) {
      switch (m.type.name) {
        case 'emphasis':
          out = `<em>${out}</em>`;
          break;
        case 'strong':
          out = `<strong>${out}</strong>`;
          break;
        case 'smallCaps':
          out = `<span class="small-caps">${out}</span>`;
          break;
        case 'super':
          out = `<sup>${out}</sup>`;
          break;
        case 'sub':
          out = `<sub>${out}</sub>`;
          break;
        case 'underline':
          out = `<u>${out}</u>`;
          break;
        case 'strike':
          out = `<s>${out}</s>`;
          break;
        case 'monospaced':
          out = `<code>${out}</code>`;
          break;
        case 'language':
          out = `<span lang="${escapeXml(m.attrs.tag as string)}" xml:lang="${escapeXml(m.attrs.tag as string)}">${out}</span>`;
          break;
        case 'link': {
          const target = m.attrs.target as string;
          const href =
            m.attrs.kind === 'place'
              ? this.c.placeHref(target)
              : m.attrs.kind === 'shop'
                ? this.c.shopHref(target)
                : /^(https?|mailto):/i.test(target)
                  ? target
                  : null;
          if (href !== null) out = `<a href="${escapeXml(href)}">${out}</a>`;
        }
      }
    }
    return out;
  }
}

/** Blocks that bear no id in a file: what stands within others and is never pointed to. */
const UNNAMED = new Set(['item', 'row', 'cell', 'stanza', 'noteBody']);

/** Ids of the blocks of a text that `SectionWriter` gives their own elements. */
export function anchorsOf(doc: Node): Set<string> {
  const ids = new Set<string>();
  doc.descendants((n) => {
    const id = n.attrs.id as string | undefined;
    if (id && !UNNAMED.has(n.type.name)) ids.add(id);
    return !n.isTextblock;
  });
  return ids;
}

/** Id of a note's call in the file that calls it. */
export const callOf = (ref: string): string => `call-${idIn(ref)}`;

/** Id of the mark of a print page. */
export const pageId = (label: string): string => `page-${escapeXml(label)}`;
/** Its number is its title, which names it as well as a label would (DPUB-ARIA 1.1), and which older readers know too. */
export const pageMark = (label: string): string =>
  `<span id="${pageId(label)}" epub:type="pagebreak" role="doc-pagebreak" title="${escapeXml(label)}"></span>`;

export function xhtmlFile(title: string, language: string, css: string, body: string, bodyType = ''): string {
  const lang = escapeXml(language);
  return `<?xml version="1.0" encoding="utf-8"?>
<!DOCTYPE html>
<html xmlns="http://www.w3.org/1999/xhtml" xmlns:epub="http://www.idpf.org/2007/ops" lang="${lang}" xml:lang="${lang}">
<head>
<meta charset="utf-8"/>
<title>${escapeXml(title)}</title>
<link rel="stylesheet" type="text/css" href="${css}"/>
</head>
<body${bodyType}>
${body}
</body>
</html>
`;
}
