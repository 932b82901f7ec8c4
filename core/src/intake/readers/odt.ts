/** An OpenDocument text (ODF 1.3, ISO/IEC 26300) as a manuscript. */
import type { Mark, Node } from 'prosemirror-model';
import {
  descendants,
  done,
  firstOf,
  openZip,
  parseXml,
  primaryLanguage,
  refused,
  textOf,
  type Outcome,
  type XmlElement,
  type XmlNode,
  type Zip,
} from '../../base';
import { cleanFormula, formulaText, schema, type MathNode } from '../../book';
import { termOf, termsOver } from './odt-index';
import { OdtStyles, type OdtLook } from './odt-style';
import { PictureShelf } from './pictures';
import {
  indexedAt,
  linkToAnchor,
  looksOf,
  paragraphsOf,
  rawManuscript,
  rawParagraph,
  termsPlace,
  type RawBlock,
  type RawCell,
  type RawManuscript,
  type RawNote,
  type RawParagraph,
  type RawListPlace,
  type RawPicture,
} from '../raw';

/** Elements whose words are no part of the text: changes deleted, remarks, fields' names, running heads. */
const SKIPPED = new Set([
  'tracked-changes',
  'annotation-end',
  'sequence-decls',
  'forms',
  'variable-decls',
  'ruby-text',
  'note-citation',
]);
const INDEXES =
  /^(table-of-content|illustration-index|table-index|alphabetical-index|user-index|bibliography)$/;

/** Errors: `intake/encrypted`, `intake/damaged` and what `openZip` refuses. */
export function readOdt(zip: Zip): Outcome<RawManuscript> {
  const text = (name: string): string | null => {
    const b = zip.read(name);
    return b ? new TextDecoder().decode(b) : null;
  };
  if (/encryption-data/.test(text('META-INF/manifest.xml') ?? ''))
    return refused(
      'intake/encrypted',
      'The file is locked with a password. Save it without one and import it again.',
    );
  const content = text('content.xml');
  const parsed = content ? parseXml(content) : null;
  const body = parsed?.root && firstOf(parsed.root, 'text');
  if (!content || !body)
    return refused('intake/damaged', 'The file is damaged: it has no text that can be read.');
  const styles = new OdtStyles();
  styles.add(text('styles.xml'), false);
  styles.add(content, true);
  const reader = new OdtReader(zip, styles, termsOver(body));
  reader.m.language = styles.language;
  reader.m.dropped.changes = changesIn(body);
  reader.m.blocks = reader.blocks(body.children);
  const meta = parseXml(text('meta.xml') ?? '').root;
  if (meta) {
    const of = (name: string): string => {
      const e = firstOf(meta, name);
      return e ? textOf(e).trim() : '';
    };
    reader.m.title = of('title');
    reader.m.author = of('initial-creator') || of('creator');
  }
  return done(reader.m);
}

/** A file's own zip, opened for `readOdt`. */
export function isOdt(bytes: Uint8Array): Zip | null {
  const opened = openZip(bytes);
  if (!opened.ok) return null;
  const type = opened.value.read('mimetype');
  return type && /opendocument\.text/.test(new TextDecoder().decode(type)) ? opened.value : null;
}

class OdtReader {
  readonly m = rawManuscript();
  private readonly shelf = new PictureShelf(this.m);
  private list: RawListPlace | null = null;
  private style = '';
  /** The words of the paragraph so far, to tell where a comment stands. */
  private beside = '';
  /** Entries of the index whose words are being read. */
  private readonly indexed = new Set<string>();

  constructor(
    private readonly zip: Zip,
    private readonly styles: OdtStyles,
    /** See `termsOver`. */
    private readonly terms: ReadonlyMap<string, string>,
  ) {}

  blocks(nodes: readonly XmlNode[]): RawBlock[] {
    const out: RawBlock[] = [];
    for (const e of nodes) {
      if (typeof e === 'string' || SKIPPED.has(e.name)) continue;
      if (e.name === 'p' || e.name === 'h') out.push(...this.paragraph(e));
      else if (e.name === 'table') out.push(this.table(e));
      else if (e.name === 'list') out.push(...this.listItems(e));
      else if (INDEXES.test(e.name)) out.push(...this.inStyle('toc', e));
      else if (e.name === 'frame') out.push(...this.paragraph({ ...e, name: 'p', attrs: {}, children: [e] }));
      else if (e.name !== 'soft-page-break') out.push(...this.blocks(e.children));
    }
    return out;
  }

  private inStyle(style: string, e: XmlElement): RawBlock[] {
    const before = this.style;
    this.style = style;
    const made = this.blocks(e.children);
    this.style = before;
    return made;
  }

  private listItems(e: XmlElement): RawBlock[] {
    const before = this.list;
    const name = e.attrs['text:style-name'];
    this.list = {
      ...(name ? this.styles.listOf(name) : { ordered: before?.ordered ?? false }),
      level: before ? before.level + 1 : 0,
    };
    const made = this.blocks(e.children);
    this.list = before;
    return made;
  }

  private table(e: XmlElement): RawBlock {
    const rows: RawParagraph[][][] = [];
    const lie: RawCell[][] = [];
    const span = (k: XmlElement, way: string): number =>
      Math.max(1, Math.min(100, Number(k.attrs[`table:number-${way}-spanned`]) || 1));
    const walk = (x: XmlElement, head: boolean): void => {
      for (const c of x.children) {
        if (typeof c === 'string') continue;
        if (c.name !== 'table-row') walk(c, head || c.name === 'table-header-rows');
        else {
          const cells = c.children.filter(
            (k): k is XmlElement => typeof k !== 'string' && k.name === 'table-cell',
          );
          rows.push(cells.map((k) => this.blocks(k.children).flatMap(paragraphsOf)));
          lie.push(cells.map((k) => ({ colspan: span(k, 'columns'), rowspan: span(k, 'rows'), head })));
        }
      }
    };
    walk(e, false);
    return { kind: 'table', rows, cells: lie };
  }

  private paragraph(e: XmlElement): RawBlock[] {
    const look = this.styles.of(e.attrs['text:style-name']);
    const outline = e.name === 'h' ? Number(e.attrs['text:outline-level'] ?? 1) : look.outline;
    const make = (): RawParagraph =>
      rawParagraph({
        style: this.style || look.name,
        outline: this.style ? 0 : outline,
        breakBefore: look.breakBefore,
        align: look.align || 'left',
        size: look.size || this.styles.size,
        bold: look.bold ?? false,
        italic: look.italic ?? false,
        indented: look.indented,
        list: this.list ?? termsPlace(look.name),
        monospace: look.monospace ?? false,
        language: look.language,
      });
    let now = make();
    now.anchors.push(...bookmarksIn(e));
    this.beside = '';
    const made: RawBlock[] = [];
    const flush = (): void => {
      const looks = looksOf(now);
      now.bold ||= looks.bold;
      now.italic ||= looks.italic;
      now.monospace ||= looks.monospace;
      made.push(now);
      now = { ...make(), breakBefore: false };
    };
    const add = (n: Node): void => {
      now.inline.push(n);
      this.beside += n.isText ? (n.text as string) : ' ';
      now.text += n.isText ? (n.text as string) : n.type.name === 'lineBreak' ? '\n' : '';
    };
    this.inline(e.children, [], look, outline > 0, add, (what) => {
      if ('term' in what) return void (now.inline = indexedAt(now.inline, what.term));
      if (now.text.trim() !== '') flush();
      now.inline = [];
      now.text = '';
      // A text box stands between the paragraphs that it interrupts.
      if (Array.isArray(what)) made.push(...what);
      else {
        now.pictures.push(what);
        flush();
      }
    });
    if (now.inline.length > 0 || made.length === 0) flush();
    return made;
  }

  private inline(
    nodes: readonly XmlNode[],
    marks: readonly Mark[],
    block: OdtLook,
    heading: boolean,
    add: (n: Node) => void,
    cut: (what: RawPicture | RawBlock[] | { term: string }) => void,
  ): void {
    const text = (t: string): void => {
      let own = marks as Mark[];
      for (const term of this.indexed) own = schema.mark('indexed', { term }).addToSet(own) as Mark[];
      if (t !== '') add(schema.text(t, own));
    };
    for (const e of nodes) {
      if (typeof e === 'string') {
        // White space is one space (§6.1.2); runs of spaces have an element of their own.
        text(e.replace(/[ \t\r\n]+/g, ' '));
        continue;
      }
      if (SKIPPED.has(e.name)) continue;
      switch (e.name) {
        case 's':
          text(' '.repeat(Math.min(200, Number(e.attrs['text:c'] ?? 1) || 1)));
          break;
        case 'tab':
          text('\t');
          break;
        case 'line-break':
          add(schema.node('lineBreak'));
          break;
        case 'note':
          add(schema.node('note', { ref: this.note(e) }));
          break;
        case 'frame': {
          const formula = this.formula(e);
          if (formula) {
            for (const n of formulaText(formula, marks)) add(n);
            break;
          }
          const picture = this.picture(e);
          const box = childOf(e, 'text-box');
          if (picture) cut(picture);
          if (box) cut(this.blocks(box.children));
          break;
        }
        case 'annotation':
          this.comment(e);
          break;
        case 'alphabetical-index-mark':
          if (termOf(e)) cut({ term: termOf(e) });
          break;
        case 'alphabetical-index-mark-start':
        case 'alphabetical-index-mark-end': {
          const term = this.terms.get(e.attrs['text:id'] ?? '');
          if (term && e.name.endsWith('start')) this.indexed.add(term);
          else if (term) this.indexed.delete(term);
          break;
        }
        case 'a': {
          const href = e.attrs['xlink:href'] ?? '';
          const own = /^(https?|mailto):/i.test(href)
            ? schema.marks.link!.create({ kind: 'web', target: href }).addToSet(marks as Mark[])
            : href.startsWith('#')
              ? linkToAnchor(href.slice(1).replace(/\|outline$/, '')).addToSet(marks as Mark[])
              : marks;
          this.inline(e.children, own as Mark[], block, heading, add, cut);
          break;
        }
        case 'span': {
          const own = this.marks(this.styles.of(e.attrs['text:style-name']), marks, block, heading);
          this.inline(e.children, own, block, heading, add, cut);
          break;
        }
        default:
          this.inline(e.children, marks, block, heading, add, cut);
      }
    }
  }

  private marks(look: OdtLook, marks: readonly Mark[], block: OdtLook, heading: boolean): readonly Mark[] {
    const m = schema.marks;
    let own = marks as Mark[];
    const put = (mark: Mark): void => void (own = mark.addToSet(own) as Mark[]);
    if (look.italic && !block.italic) put(m.emphasis!.create());
    if (look.bold && !block.bold && !heading) put(m.strong!.create());
    if (look.smallCaps) put(m.smallCaps!.create());
    if (look.underline && !block.underline && !heading && !own.some((k) => k.type === m.link))
      put(m.underline!.create());
    if (look.strike) put(m.strike!.create());
    if (look.script) put((look.script === 'super' ? m.super! : m.sub!).create());
    if (look.monospace) put(m.monospaced!.create());
    if (
      look.language &&
      primaryLanguage(look.language) !== primaryLanguage(block.language || this.m.language)
    )
      put(m.language!.create({ tag: look.language }));
    const { dropped } = this.m;
    if (look.coloured && !block.coloured) dropped.colours = (dropped.colours ?? 0) + 1;
    if (look.highlighted && !block.highlighted) dropped.highlights = (dropped.highlights ?? 0) + 1;
    return own;
  }

  private comment(e: XmlElement): void {
    const creator = childOf(e, 'creator');
    const text = e.children
      .flatMap((c) => (typeof c === 'string' || !/^(?:p|list)$/.test(c.name) ? [] : [wordsIn(c)]))
      .join('\n')
      .trim();
    if (!text) return;
    this.m.comments.push({
      by: creator ? textOf(creator).trim() : '',
      text,
      at: this.beside.slice(-80).trim(),
    });
  }

  private note(e: XmlElement): string {
    const { beside } = this;
    const id = `n${this.m.notes.length + 1}`;
    const kind = /endnote/.test(e.attrs['text:note-class'] ?? '') ? 'end' : 'foot';
    const note: RawNote = { id, kind, paragraphs: [] };
    this.m.notes.push(note);
    const body = e.children.filter((c): c is XmlElement => typeof c !== 'string' && c.name === 'note-body');
    const outer = this.list;
    this.list = null;
    note.paragraphs = body.flatMap((b) => this.blocks(b.children)).flatMap(paragraphsOf);
    this.list = outer;
    this.beside = beside;
    return id;
  }

  /** The formula of a frame: MathML (OpenDocument 1.3 §14), in a part of its own or in the text itself. */
  private formula(frame: XmlElement): MathNode | null {
    const object = childOf(frame, 'object');
    if (!object) return null;
    const within = childOf(object, 'math');
    if (within) return cleanFormula(within);
    const part = this.zip.read(objectPart(object.attrs['xlink:href'] ?? ''));
    const { root } = parseXml(part ? new TextDecoder().decode(part) : '');
    return root?.name === 'math' ? cleanFormula(root) : null;
  }

  private picture(frame: XmlElement): RawPicture | null {
    const image = childOf(frame, 'image');
    if (!image) return null;
    const href = (image.attrs['xlink:href'] ?? '').replace(/^\.\//, '');
    const bytes = this.zip.read(href);
    if (!bytes) {
      this.shelf.linked();
      return null;
    }
    const id = this.shelf.add(bytes);
    const said = (name: string): string => {
      const e = childOf(frame, name);
      return e ? textOf(e).trim() : '';
    };
    return id ? { id, alt: said('desc') || said('title') } : null;
  }
}

/** Insertions and deletions that the file tracks (§5.5). */
const changesIn = (body: XmlElement): number =>
  descendants(body, 'changed-region').filter((r) => childOf(r, 'insertion') ?? childOf(r, 'deletion')).length;
const childOf = (e: XmlElement, name: string): XmlElement | undefined =>
  e.children.find((c): c is XmlElement => typeof c !== 'string' && c.name === name);
/** The part with the contents of an object that is a document of its own (part 2, §3.16). */
const objectPart = (href: string): string => `${href.replace(/^\.\//, '').replace(/\/$/, '')}/content.xml`;

/** Names of bookmarks and references in a paragraph (OpenDocument 1.3 §6.2.1); a heading is also known by its own words. */
function bookmarksIn(e: XmlElement): string[] {
  const names: string[] = e.name === 'h' ? [wordsIn(e).trim()] : [];
  for (const c of e.children) {
    if (typeof c === 'string') continue;
    if (/^(bookmark|bookmark-start|reference-mark|reference-mark-start)$/.test(c.name))
      names.push(c.attrs['text:name'] ?? '');
    names.push(...bookmarksIn(c));
  }
  return names.filter((n) => n !== '');
}
const wordsIn = (e: XmlElement): string =>
  e.children.map((c) => (typeof c === 'string' ? c : c.name === 's' ? ' ' : wordsIn(c))).join('');
