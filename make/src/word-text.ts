/** Text within a paragraph of the .docx: runs with their marks, notes, links, references and entries of the index. */
import {
  Bookmark,
  EndnoteReferenceRun,
  ExternalHyperlink,
  FootnoteReferenceRun,
  InternalHyperlink,
  PageReference,
  TextRun,
  UnderlineType,
  type ParagraphChild,
} from 'docx';
import type { Node } from 'prosemirror-model';
import { capitalised, pointerWord } from '@pagina/core/base';
import type { Book, NoteKind } from '@pagina/core/book';
import { captionLabel, captionNumbers, References, type Reference } from '@pagina/core/order';
import { WordIndex } from './word-index';

export const MONOSPACE = 'Courier New';

export class WordText {
  /** Numbers of the notes in the file, by their ids. */
  readonly notes = new Map<string, { kind: NoteKind; number: number }>();
  /** Bookmarks of the places that links lead to, by the target as the book writes it. */
  readonly targets = new Map<string, string>();
  private readonly references: References;
  private readonly captions;
  private readonly index: WordIndex;

  constructor(
    private readonly book: Book,
    private readonly shop: (isbn: string) => string | null,
  ) {
    this.references = new References(book.sections, book);
    this.captions = captionNumbers(book.sections, book);
    this.index = new WordIndex(book);
    for (const s of book.sections)
      s.content.descendants((n) => {
        if (n.type.name === 'reference') this.aim(n.attrs.target as string);
        for (const m of n.marks)
          if (m.type.name === 'link' && m.attrs.kind === 'place') this.aim(m.attrs.target as string);
      });
  }

  /** Has a place bear a bookmark; answers its name. */
  aim(target: string): string {
    const known = this.targets.get(target) ?? `place_${this.targets.size + 1}`;
    this.targets.set(target, known);
    return known;
  }

  /** Pages are fields, which whoever opens the file brings up to date (ECMA-376-1 §17.16.5.45); all else is said. */
  private reference(n: Node): ParagraphChild {
    const r = n.attrs as Reference;
    const anchor = this.targets.get(r.target) ?? '';
    if (!this.references.has(r.target)) return new TextRun(r.words);
    if (r.shows !== 'page' && r.shows !== 'pages')
      return new InternalHyperlink({ anchor, children: [new TextRun(this.references.says(r, null))] });
    const word = pointerWord('page', this.book.record.language);
    return new InternalHyperlink({
      anchor,
      children: [
        new TextRun(`${r.capital ? capitalised(word) : word}\u00a0`),
        new PageReference(anchor, { hyperlink: true }),
      ],
    });
  }

  /** The number before a caption. */
  label(block: string): TextRun[] {
    const number = this.captions.get(block);
    return number ? [new TextRun(`${captionLabel(number, this.book.record.language)} `)] : [];
  }

  /** A block's content, in a bookmark where a link leads there. */
  inline(n: Node): ParagraphChild[] {
    const out: ParagraphChild[] = [];
    n.forEach((c, offset, i) => {
      if (c.type.name === 'lineBreak') return void out.push(new TextRun({ break: 1 }));
      if (c.type.name === 'reference') return void out.push(this.reference(c));
      if (c.type.name === 'note') {
        const note = this.notes.get(c.attrs.ref as string);
        if (note)
          out.push(
            note.kind === 'end'
              ? new EndnoteReferenceRun(note.number)
              : new FootnoteReferenceRun(note.number),
          );
        return;
      }
      const { before, after } = this.index.around(n, c, offset, n.maybeChild(i + 1));
      out.push(...(before as ParagraphChild[]));
      const has = (name: string): boolean => c.marks.some((m) => m.type.name === name);
      const language = c.marks.find((m) => m.type.name === 'language')?.attrs.tag as string | undefined;
      const run = new TextRun({
        text: c.text ?? '',
        italics: has('emphasis') || undefined,
        bold: has('strong') || undefined,
        smallCaps: has('smallCaps') || undefined,
        strike: has('strike') || undefined,
        underline: has('underline') ? { type: UnderlineType.SINGLE } : undefined,
        superScript: has('super') || undefined,
        subScript: has('sub') || undefined,
        font: has('monospaced') ? MONOSPACE : undefined,
        language: language ? { value: language } : undefined,
      });
      const link = c.marks.find((m) => m.type.name === 'link');
      const target = (link?.attrs.target as string | undefined) ?? '';
      const address = link?.attrs.kind === 'shop' ? this.shop(target) : null;
      if (address) out.push(new ExternalHyperlink({ link: address, children: [run] }));
      else if (link?.attrs.kind === 'web') out.push(new ExternalHyperlink({ link: target, children: [run] }));
      else if (link?.attrs.kind === 'place')
        out.push(new InternalHyperlink({ anchor: this.targets.get(target) ?? '', children: [run] }));
      else out.push(run);
      out.push(...(after as ParagraphChild[]));
    });
    const own = [...this.targets].find(([t]) => t.endsWith(`#${n.attrs.id as string}`));
    return own ? [new Bookmark({ id: own[1], children: out })] : out;
  }
}
