/**
 * Words by which the book refers to itself, found so that they can become references: "see chapter 4", "Figure 2.3",
 * "Appendix B", and links from a word processor's fields. Offered only where the place is there and is the only one.
 */
import type { Node } from 'prosemirror-model';
import { appendixLabel, CHAPTER_WORDS, numberValue, PART_WORDS, pointerWord } from '../base';
import type { Book, Section } from '../book';
import { forCaptions, headingsOf, References } from '../order';
import { typedCaption } from './captions';
import { blockText, type TextEdit } from './edits';

/** What a stretch of text would become. */
export interface Found {
  from: number;
  to: number;
  refer: NonNullable<TextEdit['refer']>;
}

/** A word that labels a number, and the number: in figures, roman capitals, a letter, or "2.3". */
const LABELLED =
  /(?<![\p{L}\p{N}])(\p{L}{3,24}\.?)[\s\u00a0]{1,3}(\d{1,3}(?:\.\d{1,3})?|[IVXLC]{1,7}|[A-Z](?:\.\d{1,3})?)(?![\p{L}\p{N}])(?!\.\d)/gu;
/** A number in words may be a manner of speaking: "chapter one of my life". It counts only where it is pointed to. */
const IN_WORDS =
  /\b(chapter|part)(?<=\b(?:see|see also|in|cf\.|compare)\s{1,3}(?:chapter|part))\s{1,3}(\p{L}{1,24}(?:-\p{L}{1,24})?)(?!\p{L}|\s{1,3}of\b)/giu;
const PAGE_BEFORE = /(?:\bpages?|\bpp?\.|\bSeiten?|\bS\.|\bpág(?:ina|\.)|\bpagina)[\s\u00a0]{1,3}$/iu;
/** "chapter 31 of the Koran", "Figure 2 in Halloran". */
const ELSEWHERE =
  /^[\s\u00a0]+(?:of|in|from|by|bei|von|des|du|de|d\u2019)\b(?!\s+(?:this|these|our|the\s+(?:book|present|following|previous))\b)/iu;
/** "Genesis chapter 31", "ibid., chapter 4": the title of another book stands before it. */
const TITLED = /(?:^|[\s(\u201c\u2018])(\p{Lu}\p{Ll}+|[Ii]bid\.?|op\. cit\.),?\s$/u;
/** Words that begin a sentence and are no title. */
const BEGINS =
  /^(?:As|In|See|The|Of|But|And|Or|From|For|To|At|On|If|When|While|Compare|This|That|Like|After|Before|Until|Since|Both|With|Read|Skip|Also|Cf|Through|By)$/;
const isTitled = (before: string): boolean => {
  const word = TITLED.exec(before)?.[1];
  return word !== undefined && !BEGINS.test(word);
};
const FOLIO = /^(?:\d{1,4}|[ivxlc]{1,7})$/;

export class ReferenceFinder {
  private readonly byLabel = new Map<string, string | null>();
  /** Kinds of which the book has any with a number. */
  private readonly kinds = new Set<string>();
  private readonly references: References;
  private readonly words: { figure: RegExp; table: RegExp };

  constructor(private readonly book: Book) {
    this.references = new References(book.sections, book);
    const { language } = book.record;
    const like = (word: string, short: string): RegExp => new RegExp(`^(?:${word}|${short})$`, 'iu');
    this.words = {
      figure: like(pointerWord('figure', language), 'figure|fig\\.|abb\\.'),
      table: like(pointerWord('table', language), 'table|tab\\.'),
    };
    const headings = headingsOf(book.sections, book);
    for (const s of book.sections) {
      const { bare } = headings.get(s.id) ?? { bare: '' };
      if (bare) this.know(`${s.kind}/${numbered(s.kind, bare)}`, s.id);
      this.knowCaptions(s);
    }
  }

  /** Two places of one label: neither is meant for certain. */
  private know(label: string, target: string): void {
    this.kinds.add(label.slice(0, label.indexOf('/')));
    this.byLabel.set(label, this.byLabel.has(label) ? null : target);
  }

  private knowCaptions(section: Section): void {
    forCaptions(section.content, (caption, table) => {
      const target = `${section.id}#${caption.attrs.id as string}`;
      const typed = typedCaption(caption);
      const made = this.references.says({ target, shows: 'number', capital: false, words: '' }, null);
      const number = typed?.number ?? made;
      if (number) this.know(`${table ? 'table' : 'figure'}/${number}`, target);
    });
  }

  /** The same for books in which the same would be found. */
  get key(): string {
    return JSON.stringify([...this.byLabel]);
  }

  /** What the place is called, for whoever has to say whether it is meant. */
  nameOf({ target }: Found['refer']): string {
    return this.references.says({ target, shows: 'title', capital: false, words: '' }, null);
  }

  /** Whether the book numbers captions of that kind by itself. */
  numbers(caption: Node): boolean {
    const { figures, tables } = this.book.numbering;
    return (caption.type.name === 'figure' ? figures : tables) !== 'none';
  }

  /** Words that point to a place which the book doesn’t have, though it has others of that kind. */
  astray(block: Node): { from: number; to: number; kind: string; number: string }[] {
    const text = blockText(block);
    const typed = typedCaption(block);
    return this.pointers(text).filter(
      (p) =>
        !this.byLabel.has(`${p.kind}/${p.number}`) &&
        this.kinds.has(p.kind) &&
        (/^\d/.test(p.number) || p.kind === 'appendix') &&
        !(typed && p.from < typed.length) &&
        !ELSEWHERE.test(text.slice(p.to)) &&
        !isTitled(text.slice(0, p.from)),
    );
  }

  /** What a text points to by a word and a number, in its order. */
  private pointers(
    text: string,
  ): { from: number; to: number; kind: string; number: string; words: string }[] {
    const found: { from: number; to: number; kind: string; number: string; words: string }[] = [];
    for (const m of text.matchAll(LABELLED)) {
      const [words, word = '', number = ''] = m;
      const kind = this.kindOf(word, number);
      // "Halloran, chapter 6" is a place in another book.
      const cited = kind === 'chapter' && /^\p{Ll}/u.test(word) && /,\s$/.test(text.slice(0, m.index));
      if (kind && !cited)
        found.push({
          from: m.index,
          to: m.index + words.length,
          kind,
          number: numbered(kind, number),
          words,
        });
    }
    for (const m of text.matchAll(IN_WORDS)) {
      const [words, word = '', number = ''] = m;
      const value = numberValue(number.toLowerCase());
      if (value !== null)
        found.push({
          from: m.index,
          to: m.index + words.length,
          kind: word.toLowerCase(),
          number: String(value),
          words,
        });
    }
    return found;
  }

  /** Stretches of a block's text, by offsets in its content. */
  in(block: Node, section: string): Found[] {
    const text = blockText(block);
    const found = this.linked(block, text);
    const free = (from: number, to: number): boolean =>
      !found.some((f) => f.from < to && from < f.to) &&
      !block.rangeHasMark(from, to, block.type.schema.marks.link as never);
    const typed = typedCaption(block);
    for (const p of this.pointers(text)) {
      const target = this.byLabel.get(`${p.kind}/${p.number}`);
      // A caption's own number points to nothing, and a chapter seldom to itself.
      if (!target || target === section || (typed && p.from < typed.length) || !free(p.from, p.to)) continue;
      found.push({
        from: p.from,
        to: p.to,
        refer: { target, shows: 'label', capital: /^\p{Lu}/u.test(p.words) },
      });
    }
    return found.sort((a, b) => a.from - b.from);
  }

  private kindOf(word: string, number: string): string | null {
    if (this.words.figure.test(word)) return 'figure';
    if (this.words.table.test(word)) return 'table';
    if (appendixLabel(`${word} ${number}`)) return 'appendix';
    const lower = word.toLowerCase();
    return CHAPTER_WORDS.includes(lower) ? 'chapter' : PART_WORDS.includes(lower) ? 'part' : null;
  }

  /** Links to places whose words are a folio, or what the place is called or numbered. */
  private linked(block: Node, text: string): Found[] {
    const found: Found[] = [];
    block.forEach((n, from) => {
      const link = n.marks.find((m) => m.type.name === 'link' && m.attrs.kind === 'place');
      if (!link || !n.isText) return;
      const words = n.text as string;
      const target = link.attrs.target as string;
      if (!this.references.has(target)) return;
      const to = from + words.length;
      const page = FOLIO.test(words) ? PAGE_BEFORE.exec(text.slice(0, from)) : null;
      if (page) {
        const at = from - page[0].length;
        found.push({
          from: at,
          to,
          refer: { target, shows: 'page', capital: /^\p{Lu}\p{Ll}/u.test(page[0]) },
        });
        return;
      }
      for (const shows of ['label', 'title', 'number'] as const) {
        const said = this.references.says({ target, shows, capital: false, words: '' }, null);
        if (said === '' || plain(said) !== plain(words)) continue;
        const capital = shows === 'label' && /^\p{Lu}/u.test(words);
        found.push({ from, to, refer: { target, shows, capital } });
        return;
      }
    });
    return found;
  }
}

const plain = (t: string): string =>
  t
    .toLowerCase()
    .replace(/[\s\u00a0]+/g, ' ')
    .trim();

/** Chapters and parts by their value, so that "Chapter IV" is chapter 4; figures and appendices by what they bear. */
function numbered(kind: string, number: string): string {
  if (kind !== 'chapter' && kind !== 'part') return number;
  return String(numberValue(number) ?? number);
}
