/**
 * What the book says where it refers to itself: a page, a range of pages, a number with or without its word, a title.
 * Numbers and titles come from the order, pages from an edition's composition; an ebook, which has no pages of its own,
 * names the chapter instead.
 */
import type { Node } from 'prosemirror-model';
import { capitalised, nounsInCapitals, pointerWord, sectionWord } from '../base';
import { headingWord, noteMarks, onOneLine, type Section } from '../book';
import { captionNumbers, forCaptions, type CaptionNumber } from './captions';
import { headingsOf, type Heading, type Naming } from './number';

export const SHOWS = ['page', 'pages', 'label', 'number', 'title'] as const;
export type Shows = (typeof SHOWS)[number];

/** The attributes of a `reference` of the schema. */
export interface Reference {
  /** "section" or "section#block". */
  target: string;
  shows: Shows;
  /** It begins a sentence, or the author writes "Figure" and "Chapter" with capitals. */
  capital: boolean;
  words: string;
}

/** Folios of the first and the last page of a place, as the last round of a composition found them. */
export interface Folios {
  first(target: string): string | undefined;
  last(target: string): string | undefined;
}

const known = new WeakMap<Node, readonly Reference[]>();

/** References in a text, in its order. */
export function referencesIn(content: Node): readonly Reference[] {
  let found = known.get(content);
  if (!found) {
    const list: Reference[] = [];
    content.descendants((n) => void (n.type.name === 'reference' && list.push(n.attrs as Reference)));
    known.set(content, (found = list));
  }
  return found;
}

interface Place {
  section: Section;
  /** Null for the section itself, and where its block is gone. */
  block: Node | null;
}

export class References {
  private readonly headings: ReadonlyMap<string, Heading>;
  private readonly sections: ReadonlyMap<string, Section>;
  private readonly captions: ReadonlyMap<string, CaptionNumber>;
  private readonly language: string;
  private readonly places = new Map<string, Place | null>();

  /** `sections` are those that the edition carries. */
  constructor(
    sections: readonly Section[],
    naming: Naming,
    /** Footnotes bear signs (`notePlaces`). */
    private readonly signs = false,
  ) {
    this.headings = headingsOf(sections, naming);
    this.captions = captionNumbers(sections, naming);
    this.sections = new Map(sections.map((s) => [s.id, s]));
    this.language = naming.record.language;
  }

  /** Whether the place is there; one whose block is gone leads to its section. */
  has(target: string): boolean {
    return this.placeOf(target) !== null;
  }

  /** Ids of the blocks of lines that a place goes through; none for a section, and for what has no lines. */
  linesOf(target: string): readonly string[] {
    const block = this.placeOf(target)?.block;
    if (!block) return [];
    const ids = block.isTextblock ? [block.attrs.id as string] : [];
    block.descendants((n) => {
      if (n.isTextblock) ids.push(n.attrs.id as string);
      return !n.isTextblock;
    });
    return ids;
  }

  /** What a reference prints. `folios` is null in an ebook. A place that is not carried leaves the words as they were. */
  says({ target, shows, capital, words }: Reference, folios: Folios | null): string {
    const place = this.placeOf(target);
    if (!place) return words;
    if (shows === 'title') return this.titleOf(place) || words;
    const said =
      shows === 'number'
        ? this.numberOf(place)
        : shows === 'label' || folios === null
          ? this.labelOf(place)
          : this.pagesOf(target, shows === 'pages', folios);
    if (said === '') return words;
    return capital ? capitalised(said) : said;
  }

  private pagesOf(target: string, range: boolean, folios: Folios): string {
    const first = folios.first(target);
    const last = range ? folios.last(target) : first;
    if (first === undefined) return '';
    const one = last === undefined || last === first;
    const word = pointerWord(one ? 'page' : 'pages', this.language);
    return `${word}\u00a0${one ? first : `${first}\u2013${last}`}`;
  }

  private placeOf(target: string): Place | null {
    let place = this.places.get(target);
    if (place === undefined) {
      const [id = '', block = ''] = target.split('#');
      const section = this.sections.get(id);
      const found = section && block ? blockIn(section.content, block) : null;
      place = section && (block === '' || found) ? { section, block: found } : this.moved(block);
      // A block that is gone is looked for in its section.
      place ??= section ? { section, block: null } : null;
      this.places.set(target, place);
    }
    return place;
  }

  /** A block that has come to stand in another section, by dividing, joining, or cut and paste. */
  private moved(block: string): Place | null {
    if (block === '') return null;
    for (const section of this.sections.values()) {
      const found = blockIn(section.content, block);
      if (found) return { section, block: found };
    }
    return null;
  }

  /** "4", "2.3", "B", "7"; '' where the place has no number. */
  private numberOf({ section, block }: Place): string {
    const caption = block && this.captions.get(block.attrs.id as string);
    if (caption) return caption.number;
    if (block?.type.name === 'noteBody')
      return noteMarks(section.content, this.signs).get(block.attrs.id as string) ?? '';
    return this.headings.get(section.id)?.bare ?? '';
  }

  /** "chapter 4", "figure 2.3", "appendix B", "note 7"; the title of a section that has no number. */
  private labelOf(place: Place): string {
    const { section, block } = place;
    const number = this.numberOf(place);
    const of = (word: string): string => `${word}\u00a0${number}`;
    const caption = block && this.captions.get(block.attrs.id as string);
    if (caption) return of(pointerWord(caption.of, this.language));
    if (block?.type.name === 'noteBody' && number) return of(pointerWord('note', this.language));
    if (number === '') return this.titleOf({ section, block: null });
    if (section.kind === 'part' || section.kind === 'chapter')
      return of(sectionWord(section.kind, this.language));
    const word = headingWord(section.kind, this.language);
    return of(nounsInCapitals(this.language) ? word : word.toLowerCase());
  }

  private titleOf({ section, block }: Place): string {
    let own = block && TITLED.has(block.type.name) ? onOneLine(block) : '';
    if (block?.type.name === 'table')
      forCaptions(section.content, (caption, table) => {
        if (table === block) own = onOneLine(caption);
      });
    return own || (this.headings.get(section.id)?.label ?? '');
  }
}

/** Blocks whose words are what they are called. */
const TITLED: ReadonlySet<string> = new Set(['subhead', 'figure', 'tableCaption']);

function blockIn(doc: Node, id: string): Node | null {
  let found: Node | null = null;
  doc.descendants((n) => {
    if (!found && n.attrs.id === id) found = n;
    return !found && !n.isTextblock;
  });
  return found;
}
