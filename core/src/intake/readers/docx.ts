/** Reads a .docx into a raw manuscript: the library's document tree, and the XML beside it for what it leaves out. */
import type { Mark, Node } from 'prosemirror-model';
import { done, openZip, primaryLanguage, refused, type Outcome, type Zip } from '../../base';
import { formulaText, schema, type MathNode } from '../../book';
import { ENTRY, FORMULA, LANGUAGE, MARK, RANGE, markParagraphs, type ParagraphFacts } from './docx-xml';
import { readStyles, type StyleFacts } from './docx-styles';
import {
  indexedAt,
  isEmpty,
  linkToAnchor,
  paragraphsOf,
  rawManuscript,
  rawParagraph,
  termsPlace,
  type RawBlock,
  type RawManuscript,
  type RawNote,
  type RawParagraph,
  type RawPicture,
} from '../raw';
import { DocxNumbering } from './docx-numbering';
import { alignment, bookmarksIn, kindOf, looksOfRuns, MONO, wordsIn } from './docx-parts';
import { documentTree, textOfPart, type El } from './docx-tree';
import { PictureShelf } from './pictures';

const OLE = [0xd0, 0xcf, 0x11, 0xe0];
const ENCRYPTED = 'E\0n\0c\0r\0y\0p\0t\0e\0d\0P\0a\0c\0k\0a\0g\0e';

/** Errors: `intake/empty`, `intake/encrypted`, `intake/old-doc`, `intake/not-docx`, `intake/damaged` and what `openZip` refuses. */
export async function readDocx(bytes: Uint8Array): Promise<Outcome<RawManuscript>> {
  if (bytes.length === 0) return refused('intake/empty', 'The file is empty.');
  if (OLE.every((b, i) => bytes[i] === b)) {
    const text = new TextDecoder('latin1').decode(bytes);
    return text.includes(ENCRYPTED)
      ? refused(
          'intake/encrypted',
          'The file is locked with a password. Open it in your word processor, save it without the password, and import it again.',
        )
      : refused(
          'intake/old-doc',
          'This is a document in the old binary form. Save it as .docx in your word processor and import it again.',
        );
  }
  if (bytes[0] !== 0x50 || bytes[1] !== 0x4b)
    return refused('intake/not-docx', 'This is not a .docx file, whatever its name says.');
  const opened = openZip(bytes);
  if (!opened.ok) return opened;
  const zip = opened.value;
  if (zip.entries.some((e) => e.encrypted))
    return refused(
      'intake/encrypted',
      'The file is locked with a password. Save it without one and import it again.',
    );
  if (!zip.entries.some((e) => e.name === '[Content_Types].xml'))
    return refused('intake/not-docx', 'This is not a .docx file: it is a zip container of another kind.');
  try {
    return await new DocxReader(zip).read();
  } catch (e) {
    if (e instanceof RangeError) throw e;
    return refused(
      'intake/damaged',
      `The file is damaged and can’t be read: ${(e as Error).message.split('\n')[0]}.`,
    );
  }
}

class DocxReader {
  private styles = new Map<string, StyleFacts>();
  private facts: ParagraphFacts[] = [];
  /** Terms of the file's index entries, by number. */
  private entries: string[] = [];
  /** Entries whose stretch of the text is open. */
  private readonly ranged = new Set<string>();
  private formulas: readonly (MathNode | null)[] = [];
  private comments = new Map<string, El>();
  /** The language of the text that is being read, where it is not the book's. */
  private tongue: Mark | null = null;
  /** The words of the paragraph so far, to tell where a comment stands. */
  private beside = '';
  private defaultSize = 0;
  private numbering = new DocxNumbering(null);
  private breakPending = false;
  private readonly byPath = new Map<El, RawPicture>();
  private readonly m = rawManuscript();
  private readonly shelf = new PictureShelf(this.m);

  constructor(private readonly zip: Zip) {}

  private text(name: string): string | null {
    const b = this.zip.read(name);
    return b ? textOfPart(b) : null;
  }

  async read(): Promise<Outcome<RawManuscript>> {
    const main = this.mainPart();
    const xml = this.text(main);
    if (xml === null)
      return refused('intake/not-docx', 'This is not a .docx file: it has no document in it.');
    const base = main.replace(/[^/]*$/, '');
    const styles = readStyles(this.text(`${base}styles.xml`));
    const marked = markParagraphs(xml, styles.language);
    if (marked.fault) return refused('intake/damaged', 'The file is damaged: its text is not well-formed.');
    this.facts = marked.facts;
    this.entries = marked.entries;
    this.m.indexSee = marked.see;
    this.formulas = marked.formulas;
    this.m.dropped = { ...this.m.dropped, ...marked.seen };
    this.styles = styles.styles;
    this.defaultSize = styles.size;
    this.numbering = new DocxNumbering(this.text(`${base}numbering.xml`));
    this.m.language = this.language(styles.language);
    const document = await documentTree(this.zip, main, marked.xml);
    await this.collectPictures(document);
    this.comments = new Map((document.comments ?? []).map((c) => [c.commentId ?? '', c]));
    this.m.blocks = this.blocks(document.children ?? []);
    this.ranged.clear();
    for (const note of Object.values(document.notes?._notes ?? {})) this.m.notes.push(this.note(note));
    this.properties();
    return done(this.m);
  }

  private mainPart(): string {
    const rels = this.text('_rels/.rels') ?? '';
    const m =
      /Target="([^"]+)"[^>]*Type="[^"]*\/officeDocument"|Type="[^"]*\/officeDocument"[^>]*Target="([^"]+)"/.exec(
        rels,
      );
    return (m?.[1] ?? m?.[2] ?? 'word/document.xml').replace(/^\//, '');
  }

  private async collectPictures(root: El): Promise<void> {
    const images: El[] = [];
    const walk = (e: El): void => {
      if (e.type === 'image') images.push(e);
      for (const c of e.children ?? e.body ?? []) walk(c);
    };
    walk(root);
    for (const note of Object.values(root.notes?._notes ?? {})) walk(note);
    for (const image of images) {
      let bytes: Uint8Array;
      try {
        bytes = new Uint8Array((await image.readAsBuffer?.()) ?? []);
      } catch {
        this.shelf.linked();
        continue;
      }
      const id = this.shelf.add(bytes, image.contentType ?? '');
      if (id) this.byPath.set(image, { id, alt: (image.altText ?? '').trim() });
    }
  }

  private blocks(elements: readonly El[]): RawBlock[] {
    const out: RawBlock[] = [];
    for (const e of elements) {
      if (e.type === 'paragraph') out.push(...this.paragraph(e));
      else if (e.type === 'table')
        out.push({
          kind: 'table',
          rows: (e.children ?? []).map((r) =>
            (r.children ?? []).map((c) => this.blocks(c.children ?? []).flatMap(paragraphsOf)),
          ),
          cells: (e.children ?? []).map((r) =>
            (r.children ?? []).map(({ colSpan = 1, rowSpan = 1 }) => ({
              colspan: colSpan,
              rowspan: rowSpan,
              head: r.isHeader ?? false,
            })),
          ),
        });
    }
    return out;
  }

  /** One paragraph, cut where a picture or a page break stands inside it. */
  private paragraph(e: El): RawParagraph[] {
    const facts = this.factsOf(e);
    this.beside = '';
    const style = this.styles.get(e.styleId ?? '');
    const looks = looksOfRuns(e);
    const counted =
      e.numbering?.isOrdered && facts?.list ? this.numbering.next(facts.list, Number(e.numbering.level)) : {};
    const make = (): RawParagraph =>
      rawParagraph({
        style: e.styleName ?? style?.name ?? '',
        outline: facts?.outline ?? style?.outline ?? 0,
        breakBefore: this.breakPending,
        align: alignment(e.alignment ?? style?.align ?? ''),
        size: looks.size || style?.size || this.defaultSize,
        bold: looks.bold || (style?.bold ?? false),
        italic: looks.italic || (style?.italic ?? false),
        // A hanging indent leaves the first line at the margin.
        indented: Number(e.indent?.start ?? 0) - Number(e.indent?.hanging ?? 0) >= 300,
        list: e.numbering
          ? { level: Number(e.numbering.level), ordered: e.numbering.isOrdered, ...counted }
          : termsPlace(e.styleName ?? style?.name ?? ''),
        monospace: looks.monospace,
        language: facts?.language ?? '',
      });
    if (facts?.breakBefore ?? style?.breakBefore) this.breakPending = true;
    let now = make();
    now.anchors.push(...bookmarksIn(e));
    now.opens = kindOf(now.anchors);
    this.breakPending = false;
    const done: RawParagraph[] = [];
    const flush = (): void => {
      if (now.inline.length || now.pictures.length || done.length === 0) done.push(now);
    };
    this.inline(
      e.children ?? [],
      [],
      style,
      (node) => {
        now.inline.push(node);
        this.beside += node.isText ? (node.text as string) : ' ';
        now.text += node.isText ? (node.text as string) : node.type.name === 'lineBreak' ? '\n' : '';
      },
      (what) => {
        if (typeof what === 'object' && 'term' in what) {
          now.inline = indexedAt(now.inline, what.term);
          return;
        }
        if (what === 'page') {
          if (now.text.trim() === '' && now.pictures.length === 0) now.breakBefore = true;
          else {
            flush();
            this.breakPending = true;
            now = make();
            this.breakPending = false;
          }
          return;
        }
        if (now.text.trim() !== '') {
          flush();
          now = make();
        }
        now.pictures.push(what);
        now.inline = [];
        now.text = '';
        flush();
        now = make();
      },
    );
    if (now.text.trim() !== '' || now.pictures.length > 0 || done.length === 0) flush();
    else if (now.breakBefore && !done.at(-1)?.breakBefore) this.breakPending = true;
    if (facts?.sectionEnd) this.breakPending = true;
    // What only anchors a text box is no blank line; its text follows.
    return facts?.box && done.every((p) => isEmpty(p)) ? [] : done;
  }

  private factsOf(e: El): ParagraphFacts | undefined {
    const mark = e.children?.find((c) => c.type === 'bookmarkStart' && c.name?.startsWith(MARK))?.name;
    return mark ? this.facts[Number(mark.slice(MARK.length))] : undefined;
  }

  private inline(
    elements: readonly El[],
    marks: readonly Mark[],
    style: StyleFacts | undefined,
    add: (n: Node) => void,
    cut: (what: 'page' | RawPicture | { term: string }) => void,
  ): void {
    const m = schema.marks;
    for (const [i, e] of elements.entries()) {
      switch (e.type) {
        case 'run': {
          let own = [...marks];
          const heading = (style?.outline ?? 0) > 0;
          if (e.isItalic && !style?.italic) own = m.emphasis!.create().addToSet(own) as Mark[];
          if (e.isBold && !style?.bold && !heading) own = m.strong!.create().addToSet(own) as Mark[];
          if (e.isSmallCaps) own = m.smallCaps!.create().addToSet(own) as Mark[];
          if (e.isUnderline && !heading && !own.some((k) => k.type === m.link))
            own = m.underline!.create().addToSet(own) as Mark[];
          if (e.isStrikethrough) own = m.strike!.create().addToSet(own) as Mark[];
          if (e.verticalAlignment === 'superscript') own = m.super!.create().addToSet(own) as Mark[];
          if (e.verticalAlignment === 'subscript') own = m.sub!.create().addToSet(own) as Mark[];
          if (e.font && MONO.test(e.font)) own = m.monospaced!.create().addToSet(own) as Mark[];
          this.inline(e.children ?? [], own, style, add, cut);
          break;
        }
        case 'hyperlink': {
          const own =
            e.href && /^(https?|mailto):/i.test(e.href)
              ? (m.link!.create({ kind: 'web', target: e.href }).addToSet([...marks]) as Mark[])
              : e.anchor
                ? (linkToAnchor(e.anchor).addToSet([...marks]) as Mark[])
                : marks;
          this.inline(e.children ?? [], own, style, add, cut);
          break;
        }
        case 'text': {
          const text = (e.value ?? '').replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f]/g, '');
          if (text) add(schema.text(text, this.around(marks)));
          break;
        }
        case 'tab':
          add(schema.text('\t', marks));
          break;
        case 'checkbox':
          add(schema.text(e.checked ? '\u2611' : '\u2610', marks));
          break;
        case 'commentReference':
          this.comment(e);
          break;
        case 'bookmarkStart': {
          if (e.name?.startsWith(LANGUAGE)) {
            const tag = e.name.slice(LANGUAGE.length);
            const own = primaryLanguage(tag) === primaryLanguage(this.m.language);
            this.tongue = tag && !own ? schema.mark('language', { tag }) : null;
          }
          const formula = e.name?.startsWith(FORMULA)
            ? this.formulas[Number(e.name.slice(FORMULA.length))]
            : undefined;
          if (formula) {
            if (elements[i - 1]?.name?.startsWith(FORMULA)) add(schema.text(' ', marks));
            for (const n of formulaText(formula, marks)) add(n);
          }
          const range = e.name?.startsWith(RANGE) ? /(from|to)-(\d+)$/.exec(e.name) : null;
          const over = range && this.entries[Number(range[2])];
          if (over && range[1] === 'from') this.ranged.add(over);
          else if (over) this.ranged.delete(over);
          const term = e.name?.startsWith(ENTRY)
            ? this.entries[Number(e.name.slice(ENTRY.length))]
            : undefined;
          if (term) cut({ term });
          break;
        }
        case 'noteReference':
          add(schema.node('note', { ref: `${e.noteType === 'endnote' ? 'e' : 'f'}${e.noteId}` }));
          break;
        case 'break':
          if (e.breakType === 'line') add(schema.node('lineBreak'));
          else cut('page');
          break;
        case 'image': {
          const picture = this.byPath.get(e);
          if (picture) cut(picture);
          break;
        }
      }
    }
  }

  /** Marks of a text and those of what it stands in: a language of its own, entries of the index. */
  private around(marks: readonly Mark[]): readonly Mark[] {
    let own = this.tongue ? this.tongue.addToSet(marks as Mark[]) : marks;
    for (const term of this.ranged) own = schema.mark('indexed', { term }).addToSet(own as Mark[]);
    return own;
  }

  private comment(e: El): void {
    const c = this.comments.get(e.commentId ?? '');
    const text = (c?.body ?? []).map(wordsIn).join('\n').trim();
    if (text)
      this.m.comments.push({ by: (c?.authorName ?? '').trim(), text, at: this.beside.slice(-80).trim() });
  }

  private note(e: El): RawNote {
    const paragraphs = this.blocks(e.body ?? []).flatMap(paragraphsOf);
    const end = e.noteType === 'endnote';
    return { id: `${end ? 'e' : 'f'}${e.noteId}`, kind: end ? 'end' : 'foot', paragraphs };
  }

  private properties(): void {
    const core = this.text('docProps/core.xml') ?? '';
    const read = (tag: string): string =>
      (new RegExp(`<dc:${tag}[^>]*>([^<]*)</dc:${tag}>`).exec(core)?.[1] ?? '').trim();
    this.m.title = unescape_(read('title'));
    this.m.author = unescape_(read('creator'));
  }

  /** The language of most paragraphs that name one, else the document's default. */
  private language(fallback: string): string {
    const counts = new Map<string, number>();
    for (const f of this.facts) if (f.language) counts.set(f.language, (counts.get(f.language) ?? 0) + 1);
    const most = [...counts].sort((a, b) => b[1] - a[1])[0];
    return most && most[1] > this.facts.length / 2 ? most[0] : fallback || most?.[0] || 'en';
  }
}

const unescape_ = (s: string): string =>
  s
    .replace(/&lt;/g, '<')
    .replace(/&gt;/g, '>')
    .replace(/&quot;/g, '"')
    .replace(/&apos;/g, "'")
    .replace(/&amp;/g, '&');
