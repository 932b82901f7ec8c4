/**
 * Rich Text Format (specification 1.9.1) as a manuscript. The library cuts the file into tokens; groups, styles, notes,
 * fields and pictures are followed here.
 */
import type { Mark } from 'prosemirror-model';
import { done, refused, type Outcome } from '../../base';
import { formulaText, schema } from '../../book';
import { PictureShelf } from './pictures';
import {
  looksOf,
  paragraphsOf,
  rawManuscript,
  rawParagraph,
  type RawBlock,
  type RawManuscript,
  type RawParagraph,
} from '../raw';
import { isFormulaField } from './docx-fields';
import { RtfAsides } from './rtf-asides';
import { RtfCells } from './rtf-cells';
import { RtfFormula } from './rtf-formulas';
import { RtfTables } from './rtf-tables';
import {
  codepageOf,
  DESTINATIONS,
  GATHERED,
  languageOf,
  lettersAfter,
  linkOfField,
  marksOf,
  NEW_GROUP,
  NOWHERE,
  PARTS,
  paragraphAfter,
  PLAIN_PARAGRAPH,
  SIGNS,
  type Destination,
  type Group,
} from './rtf-words';

interface Token {
  /** 0 a group begins, 1 it ends, 2 a control word, 3 text. */
  type: number;
  word?: string;
  param?: number;
  data?: Uint8Array;
}
type Decode = (bytes: Uint8Array, encoding: string) => string;

/** Errors: `intake/damaged`. */
export async function readRtf(bytes: Uint8Array): Promise<Outcome<RawManuscript>> {
  const [{ Tokenize }, { default: iconv }] = await Promise.all([
    import('rtf-stream-parser'),
    import('iconv-lite'),
  ]);
  const decode: Decode = (b, encoding) =>
    iconv.decode(b, iconv.encodingExists(encoding) ? encoding : 'windows-1252');
  const reader = new RtfReader(decode, bytes);
  const tokens = new Tokenize();
  tokens.end(bytes);
  try {
    for await (const t of tokens) reader.token(t as Token);
  } catch (e) {
    return refused('intake/damaged', `The file is damaged and can’t be read: ${(e as Error).message}.`);
  }
  return done(reader.finish());
}

class RtfReader {
  private readonly m = rawManuscript();
  private readonly shelf = new PictureShelf(this.m);
  private stack: Group[] = [];
  private now: Group = { ...NEW_GROUP };
  private codepage = 'windows-1252';
  private readonly tables = new RtfTables();
  private readonly defaults = { font: 0, language: '' };
  private readonly asides: RtfAsides;
  /** Bytes of neighbouring signs wait for one another: one character may have two. */
  private pending: number[] = [];
  private toSkip = 0;
  /** Text of destinations that keep it until their group ends. */
  private readonly gathered = new Map<Destination, string>();
  /** Bookmarks that the next paragraph bears. */
  private anchors: string[] = [];
  private blocks: RawBlock[] = [];
  private p: RawParagraph | null = null;
  private breakPending = false;
  /** The paragraph and blocks around a note while it is read. */
  private outside: { blocks: RawBlock[]; p: RawParagraph | null }[] = [];
  private readonly cells = new RtfCells();
  private cellFrom = -1;
  /** The formula that is being read. */
  private formula: RtfFormula | null = null;

  token(t: Token): void {
    if (t.type === 0) {
      this.settle();
      this.stack.push(this.now);
      this.formula?.beginGroup();
      this.now = { ...this.now, optional: false, ends: '' };
    } else if (t.type === 1) {
      this.settle();
      this.endGroup();
    } else if (t.type === 3) this.bytes(t.data ?? new Uint8Array());
    else this.control(t.word ?? '', t.param, t.data);
  }

  finish(): RawManuscript {
    this.settle();
    // A file that is cut short ends inside a note or a row: what was read so far is kept.
    while (this.stack.length > 0) this.endGroup();
    this.endParagraph(false);
    this.closeTable();
    this.m.blocks = this.blocks;
    this.asides.settleLanguages(
      [...this.blocks, ...this.m.notes.flatMap((n) => n.paragraphs)].flatMap(paragraphsOf),
    );
    return this.m;
  }

  private bytes(data: Uint8Array): void {
    for (const b of data) {
      if (this.toSkip > 0) this.toSkip--;
      else this.pending.push(b);
    }
  }
  /** Turns waiting bytes into text. */
  private settle(): void {
    if (this.pending.length === 0) return;
    const bytes = Uint8Array.from(this.pending);
    this.pending = [];
    const encoding = this.tables.font(this.now.font)?.codepage || this.codepage;
    this.text(this.decode(bytes, encoding));
  }

  constructor(
    private readonly decode: Decode,
    file: Uint8Array,
  ) {
    this.asides = new RtfAsides(this.m, file);
  }

  private text(text: string): void {
    const { now } = this;
    if (GATHERED.has(now.to)) {
      this.gathered.set(now.to, (this.gathered.get(now.to) ?? '') + text);
      return;
    }
    switch (now.to) {
      case 'fonts':
        return this.tables.fontName(text);
      case 'styles':
        return this.tables.styleText(text);
      case 'title':
        this.m.title += text;
        return;
      case 'author':
        this.m.author += text;
        return;
      case 'colours':
        return this.asides.colourText(text);
      case 'formula':
        if (!now.hidden) this.formula?.text(text);
        return;
      case 'info':
      case 'nowhere':
        return;
    }
    if (now.hidden || text === '') return;
    const p = this.begin();
    p.inline.push(schema.text(text, this.marks()));
    p.text += text;
  }

  private marks(): Mark[] {
    const { now } = this;
    const mono = this.tables.font(now.font)?.mono ?? false;
    const looks = marksOf(now, this.tables.style(now.par.style), this.outline() > 0, mono);
    return this.asides.around(looks, now.language) as Mark[];
  }

  private outline(): number {
    return this.now.par.outline || this.tables.style(this.now.par.style)?.outline || 0;
  }

  private begin(): RawParagraph {
    if (this.p) return this.p;
    this.p = rawParagraph({ breakBefore: this.breakPending, anchors: this.anchors });
    this.anchors = [];
    this.breakPending = false;
    return this.p;
  }

  private endParagraph(always: boolean): void {
    const p = this.p ?? (always ? this.begin() : null);
    this.p = null;
    if (!p) return;
    const { par } = this.now;
    const style = this.tables.style(par.style);
    p.style = style?.name ?? '';
    p.outline = this.outline();
    p.align = par.align || style?.align || 'left';
    p.breakBefore ||= par.breakBefore;
    p.indented = par.indented;
    p.list = par.list;
    p.size ||= this.now.size / 2;
    const looks = looksOf(p);
    p.bold = looks.bold || Boolean(style?.bold && p.text !== '');
    p.italic = looks.italic || Boolean(style?.italic && p.text !== '');
    p.monospace = looks.monospace;
    if (par.inTable && this.cellFrom < 0) this.cellFrom = this.blocks.length;
    if (!par.inTable) this.closeTable();
    this.blocks.push(p);
  }

  /** Rows of a table stand one after the other; the table ends with the first paragraph outside. */
  private endCell(): void {
    this.endParagraph(true);
    const from = this.cellFrom < 0 ? this.blocks.length : this.cellFrom;
    this.cells.cell(this.blocks.splice(from) as RawParagraph[]);
    this.cellFrom = -1;
  }
  private closeTable(): void {
    if (!this.cells.empty) this.blocks.push(this.cells.take());
  }

  private control(word: string, param: number | undefined, data: Uint8Array | undefined): void {
    if (word === "'") return this.bytes(data ?? new Uint8Array());
    if (word === 'u' && param !== undefined) {
      this.settle();
      this.text(String.fromCharCode(param < 0 ? param + 65_536 : param));
      this.toSkip = this.now.stand;
      return;
    }
    this.settle();
    this.toSkip = 0;
    if (word === '*') {
      this.now.optional = true;
      return;
    }
    if (word === ':') return this.text(word);
    const sign = SIGNS.get(word);
    if (sign !== undefined) return this.text(sign);
    if (this.begins(word)) return;
    if (this.now.to === 'formula' && word.startsWith('m')) {
      this.formula?.word(word, param);
      this.now.optional = false;
      return;
    }
    if (this.now.optional) {
      // Not a destination that is known here.
      this.now.to = 'nowhere';
      this.now.optional = false;
    }
    if (this.now.to === 'fonts') this.tables.fontWord(word, param);
    else if (this.now.to === 'colours') this.asides.colourWord(word, param);
    else if (!this.act(word, param)) this.change(word, param);
  }

  private change(word: string, param: number | undefined): void {
    const { now } = this;
    if (word === 's' && now.to === 'styles') this.tables.beginStyle(param ?? 0);
    this.codepage = codepageOf(word, param) ?? this.codepage;
    const par = paragraphAfter(now.par, word, param);
    if (par) now.par = par;
    else {
      Object.assign(now, lettersAfter(word, param, this.defaults));
      if (now.to === 'body' || now.to === 'note') this.asides.letters(word, param);
    }
    if (word === 'fs' && this.p) this.p.size = Math.max(this.p.size, now.size / 2);
  }

  /** Words that say where the group's text goes. */
  private begins(word: string): boolean {
    const { now } = this;
    const to = (d: Destination, ends: Group['ends'] = ''): true => {
      now.to = d;
      now.ends = ends;
      now.optional = false;
      return true;
    };
    if (NOWHERE.has(word)) return to('nowhere');
    if (now.to === 'nowhere' && word !== 'shppict') return false;
    const destination = DESTINATIONS.get(word);
    if (destination) return to(...destination);
    const part = PARTS.get(word);
    if (part) return now.to === part[0] && to(part[1]);
    switch (word) {
      case 'shppict':
        now.optional = false;
        now.to = this.outside.length > 0 ? 'note' : 'body';
        return true;
      case 'footnote':
        this.beginNote();
        return to('note', 'note');
      case 'ftnalt':
        now.end = true;
        return true;
      case 'moMath':
        if (this.formula) return false;
        this.formula = new RtfFormula();
        return to('formula', 'formula');
      case 'cs':
      case 'mmath':
      case 'moMathPara':
      case 'result':
        now.optional = false;
        return true;
    }
    return false;
  }

  private beginNote(): void {
    const p = this.begin();
    p.inline.push(schema.node('note', { ref: `n${this.m.notes.length + this.outside.length + 1}` }));
    this.outside.push({ blocks: this.blocks, p });
    this.blocks = [];
    this.p = null;
    this.now.par = PLAIN_PARAGRAPH;
    this.now.script = '';
  }

  private endGroup(): void {
    const ended = this.now;
    if (ended.to === 'styles') this.tables.endStyle(ended);
    if (ended.ends === 'note') {
      this.endParagraph(false);
      const paragraphs = this.blocks.filter((b): b is RawParagraph => b.kind === 'paragraph');
      const { blocks, p } = this.outside.pop() as { blocks: RawBlock[]; p: RawParagraph | null };
      const { end } = ended;
      this.m.notes.push({ id: `n${this.m.notes.length + 1}`, kind: end ? 'end' : 'foot', paragraphs });
      this.blocks = blocks;
      this.p = p;
    }
    if (this.formula?.endGroup()) this.endFormula(this.formula);
    this.endAside(ended);
    const outer = this.stack.pop();
    if (!outer) return;
    this.now = outer;
    if (ended.ends === 'field') {
      const code = this.take('field');
      // The shown part of the field is the group after this one, in the group around both.
      this.now.link = linkOfField(code);
      if (isFormulaField(code)) this.asides.fieldFormula();
    }
  }

  private take(from: Destination): string {
    const text = this.gathered.get(from) ?? '';
    this.gathered.delete(from);
    return text;
  }

  private endAside({ ends }: Group): void {
    const { p } = this;
    switch (ends) {
      case 'picture':
        return this.endPicture(this.take('picture'));
      case 'bookmark':
      case 'bookmark-end': {
        const name = this.take('bookmark').trim();
        if (ends === 'bookmark') (p?.anchors ?? this.anchors).push(name);
        return this.asides.bookmark(name, ends === 'bookmark');
      }
      case 'index': {
        const said = { term: this.take('index'), see: this.take('see'), range: this.take('range') };
        const inline = this.asides.entry(p?.inline ?? [], said);
        if (p) p.inline = inline;
        return;
      }
      case 'comment':
        this.asides.comment(this.take('author-of-comment'), this.take('comment'), p?.text ?? '');
    }
  }

  private endFormula(formula: RtfFormula): void {
    this.formula = null;
    const { link } = this.now;
    const made = formula.take();
    if (!made) return;
    const p = this.begin();
    for (const n of formulaText(made, link ? [link] : [])) {
      p.inline.push(n);
      p.text += n.text as string;
    }
  }

  private endPicture(hex: string): void {
    const digits = hex.replace(/[^0-9a-f]/gi, '');
    const bytes = Uint8Array.from({ length: digits.length >> 1 }, (_, i) =>
      parseInt(digits.slice(i * 2, i * 2 + 2), 16),
    );
    const id = bytes.length > 0 ? this.shelf.add(bytes) : null;
    if (!id) return;
    if (this.p && this.p.text.trim() !== '') this.endParagraph(false);
    const p = this.begin();
    p.pictures.push({ id, alt: '' });
    this.endParagraph(false);
  }

  /** Words that do something at once. */
  private act(word: string, param: number | undefined): boolean {
    const { now } = this;
    const inText = now.to === 'body' || now.to === 'note';
    switch (word) {
      case 'par':
        if (inText) this.endParagraph(true);
        return true;
      case 'line':
        if (inText) {
          const p = this.begin();
          p.inline.push(schema.node('lineBreak'));
          p.text += '\n';
        }
        return true;
      case 'page':
      case 'sect':
        if (this.p && this.p.text.trim() !== '') this.endParagraph(false);
        if (this.p) this.p.breakBefore = true;
        else this.breakPending = true;
        return true;
      case 'cell':
        this.endCell();
        return true;
      case 'row':
        this.cells.endRow();
        return true;
      case 'deff':
        this.defaults.font = param ?? 0;
        now.font = this.defaults.font;
        return true;
      case 'deflang':
        this.defaults.language = languageOf(param ?? 0);
        now.language = this.defaults.language;
        return true;
    }
    return this.cells.word(word, param);
  }
}
