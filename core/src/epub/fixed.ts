/**
 * The ebook of a fixed layout: every page of a print edition as it is printed, in the order and the spreads of the printed
 * book (EPUB 3.3 §8). Its words are set in the edition's own typefaces, cut down to what the pages show.
 */
import { digestOf, done, escapeXml, inSentence, refused, uuidOf, type Outcome } from '../base';
import {
  editionOf,
  isFixed,
  kindRule,
  printOf,
  sectionsIn,
  type Book,
  type FixedEdition,
  type Picture,
  type Section,
} from '../book';
import {
  DisplayIndex,
  displayList,
  drawnPage,
  positionsOf,
  screenFacts,
  type Composition,
  type Page,
} from '../compose';
import { designOf, numberingWith } from '../design';
import { contentsOf, headingsOf, type Heading } from '../order';
import { bareIsbn } from '../record';
import type { Face } from '../type';
import { accessMeta, factsOf } from './access';
import { EPUB_33 } from './epub33';
import { FixedPage } from './fixedpage';
import { WordForms, WordStyles } from './fixedtext';
import { idIn } from './ids';
import { navEntries } from './navigation';
import {
  faceHref,
  pack,
  pictureHref,
  type EmbeddedFace,
  type Publication,
  type PublicationDocument,
} from './publication';
import { navigationWords } from './words';

export interface FixedInput {
  book: Book;
  edition: string;
  /** Pages of the print edition that it shows; null where there is none. */
  composition: Composition | null;
  /** Files of the pictures by id. */
  pictures: ReadonlyMap<string, Uint8Array>;
  /** When the book was last changed, in ISO form; '' where nobody knows. */
  modified?: string;
}

/** Pages that are drawn, but for the typefaces that they are set in. */
export interface FixedPages {
  /** Characters set in each face, by the face's name. */
  used: ReadonlyMap<string, string>;
  /** The file, with these faces; their `family` is the face's name. */
  file(faces: readonly EmbeddedFace[]): Uint8Array;
}

/** Errors: `epub/edition`, `epub/pages`, `epub/title`. */
export function fixedPages(input: FixedInput): Outcome<FixedPages> {
  const { book } = input;
  const edition = editionOf(book, input.edition);
  if (!edition || !isFixed(edition))
    return refused('epub/edition', `There is no fixed-layout edition “${input.edition}” in this book.`);
  const { composition } = input;
  if (!composition || !printOf(book, edition.of))
    return refused(
      'epub/pages',
      `The print edition whose pages the ${inSentence(edition.name)} shows has been removed. Choose another in Editions.`,
    );
  if (!book.record.title.trim())
    return refused(
      'epub/title',
      'The book has no title yet: an ebook cannot be made without one. Write it in the record.',
    );
  return done(new FixedRenderer({ ...input, composition }, edition).pages());
}

class FixedRenderer {
  private readonly sections: readonly Section[];
  private readonly used: Picture[] = [];
  private readonly cover: Picture | undefined;
  /** Numbers of the pages on which blocks and sections begin. */
  private readonly pageOfBlock = new Map<string, number>();
  private readonly pageOfSection = new Map<string, number>();

  constructor(
    private readonly input: FixedInput & { composition: Composition },
    private readonly edition: FixedEdition,
  ) {
    const { book, composition, pictures } = input;
    this.sections = sectionsIn(book, composition.edition);
    this.cover = book.pictures.find((p) => p.id === book.record.cover && pictures.has(p.id));
    composition.pages.forEach((page, i) => {
      if (page.blank) return;
      if (!this.pageOfSection.has(page.section)) this.pageOfSection.set(page.section, i);
      for (const [block] of positionsOf(drawnPage(composition, page), composition.words, {}).blocks)
        if (!this.pageOfBlock.has(block)) this.pageOfBlock.set(block, i);
    });
  }

  pages(): FixedPages {
    const { book, composition } = this.input;
    const print = printOf(book, composition.edition);
    const facts = screenFacts(book, print ?? this.edition);
    const headings = this.headings();
    const styles = new WordStyles();
    const forms = new WordForms(book.record.language);
    const index = new DisplayIndex();
    const alts = new Map(Object.entries(facts.figures).map(([id, list]) => [id, list.map((f) => f.alt)]));
    const documents = composition.pages.map((page, i): PublicationDocument => {
      const drawn = drawnPage(composition, page);
      const list = displayList(drawn, composition.words, index);
      const svg = new FixedPage(list, index.pictures, {
        faces: (n) => composition.words.faces[index.faces[n] as number] as Face,
        forms,
        styles,
        facts,
        pictureHref: (id) => this.pictureHref(id),
        altOf: (id) => alts.get(id)?.shift() ?? '',
        // Pages stand beside one another.
        href: (target) => this.placeHref(target)?.replace(/^text\//, '') ?? null,
      }).svg(positionsOf(drawn, composition.words, facts.links).links);
      return {
        id: `p${i + 1}`,
        href: hrefOf(i),
        side: page.side === 'recto' ? 'right' : 'left',
        xhtml: this.document(this.nameOf(page, headings), svg, page),
      };
    });
    const style = styles.css();
    return {
      used: new Map([...styles.used].map(([face, signs]) => [face, [...signs].sort().join('')])),
      file: (faces) => pack(this.publication(documents, style, faces), EPUB_33),
    };
  }

  private naming() {
    const { book, composition } = this.input;
    const design = designOf(printOf(book, composition.edition) ?? this.edition);
    return { ...book, numbering: numberingWith(book.numbering, design) };
  }
  private headings(): Map<string, Heading> {
    const { book, composition } = this.input;
    return headingsOf(this.sections, this.naming(), printOf(book, composition.edition) ?? this.edition);
  }

  private publication(
    documents: readonly PublicationDocument[],
    style: string,
    faces: readonly EmbeddedFace[],
  ): Publication {
    const { book, composition, modified = '' } = this.input;
    const { record } = book;
    const { edition } = this;
    const words = navigationWords(record.language);
    const isbn = bareIsbn(edition.isbn);
    const print = printOf(book, composition.edition);
    const naming = this.naming();
    const carried = this.sections.filter((s) => this.pageOfSection.has(s.id));
    const headings = this.headings();
    const listed = contentsOf(carried, naming, edition.contents.levels).filter(
      (e) => e.section.kind !== 'contents',
    );
    const contents =
      listed.length > 0
        ? listed
        : carried.flatMap((section) => {
            const heading = headings.get(section.id);
            return heading ? [{ section, block: null, heading, depth: 0 }] : [];
          });
    const body = this.sections.find((s) => s.matter === 'body' && this.pageOfSection.has(s.id));
    const toc = this.sections.find((s) => s.kind === 'contents' && this.pageOfSection.has(s.id));
    const labelled = composition.pages.flatMap((p, i) =>
      p.label === '' ? [] : [{ label: p.label, href: hrefOf(i) }],
    );
    const animated = new Set(book.pictures.filter((p) => p.type === 'image/gif').map((p) => p.id));
    const cover = this.cover && this.coverFile(this.cover, words);
    return {
      identifier: isbn ? `urn:isbn:${isbn}` : `urn:uuid:${uuidOf(digestOf(`${book.id}/${edition.id}`))}`,
      fixed: true,
      sampleOf: null,
      record,
      date: edition.date,
      modified,
      pagesOf: labelled.length > 0 ? bareIsbn(print?.isbn ?? '') : null,
      access: accessMeta({ ...factsOf(this.sections, animated, labelled.length > 0), fixed: true }),
      words,
      spine: cover ? [cover, ...documents] : documents,
      contents: {
        heading: toc ? headings.get(toc.id)?.title || words.contents : words.contents,
        entries: navEntries(contents, (e) => this.placeHref(placeOf(e.section.id, e.block)) ?? hrefOf(0)),
      },
      landmarks: [
        ...(cover ? [{ type: 'cover' as const, label: words.cover, href: cover.href }] : []),
        ...(toc
          ? [{ type: 'toc' as const, label: words.contents, href: this.placeHref(toc.id) ?? hrefOf(0) }]
          : []),
        ...(body
          ? [{ type: 'bodymatter' as const, label: words.start, href: this.placeHref(body.id) ?? hrefOf(0) }]
          : []),
      ],
      pages: labelled,
      pictures: [...new Set([...(this.cover ? [this.cover] : []), ...this.used])].map((p, i) => ({
        id: p === this.cover ? 'cover-picture' : `i${i + 1}`,
        href: pictureHref(p),
        type: p.type,
        bytes: this.input.pictures.get(p.id) as Uint8Array,
        isCover: p === this.cover,
      })),
      faces,
      style: `${FIXED}${faces.map(faceRule).join('')}${style}`,
    };
  }

  /** The section with the folio: what a reader’s history and tabs show. */
  private nameOf(page: Page, headings: ReadonlyMap<string, Heading>): string {
    return (
      [headings.get(page.section)?.label, page.label].filter(Boolean).join(', ') ||
      this.input.book.record.title
    );
  }

  private document(title: string, body: string, page: Page | null): string {
    const { composition, book } = this.input;
    const { width, height } = composition.interior.trim;
    const lang = escapeXml(book.record.language);
    const section = page && this.sections.find((s) => s.id === page.section);
    const type = section ? ` epub:type="${section.matter}matter"` : '';
    const kind = section && page?.opens ? ` epub:type="${kindRule(section.kind).epubType}"` : '';
    return `<?xml version="1.0" encoding="utf-8"?>
<!DOCTYPE html>
<html xmlns="http://www.w3.org/1999/xhtml" xmlns:epub="http://www.idpf.org/2007/ops" lang="${lang}" xml:lang="${lang}">
<head>
<meta charset="utf-8"/>
<title>${escapeXml(title)}</title>
<meta name="viewport" content="width=${Math.round(width / 1000)}, height=${Math.round(height / 1000)}"/>
<link rel="stylesheet" type="text/css" href="../style.css"/>
</head>
<body${type}>
<section${kind} aria-label="${escapeXml(title)}">
${body}
</section>
</body>
</html>
`;
  }

  private coverFile(cover: Picture, words: ReturnType<typeof navigationWords>): PublicationDocument {
    const { width, height } = this.input.composition.interior.trim;
    const size = [width, height].map((mp) => Math.round(mp / 1000));
    const alt = escapeXml(`${words.coverOf} ${this.input.book.record.title}`);
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${size.join(' ')}" width="${size[0]}" height="${size[1]}">\n<image role="img" href="../${pictureHref(cover)}" width="${size[0]}" height="${size[1]}"><title>${alt}</title></image>\n</svg>`;
    return {
      id: 'cover',
      href: 'text/cover.xhtml',
      side: 'centre',
      xhtml: this.document(words.cover, svg, null),
    };
  }

  private pictureHref(id: string): string | null {
    const picture = this.input.book.pictures.find((p) => p.id === id);
    if (!picture || !this.input.pictures.has(id)) return null;
    this.used.push(picture);
    return `../${pictureHref(picture)}`;
  }

  /** Address of a place, "section" or "section#block", from a page; an address of the web as it is. */
  private placeHref(target: string): string | null {
    if (/^(https?|mailto):/i.test(target)) return target;
    const [section = '', block = ''] = target.split('#');
    const page = (block ? this.pageOfBlock.get(block) : undefined) ?? this.pageOfSection.get(section);
    if (page === undefined) return null;
    return `${hrefOf(page)}${block && this.pageOfBlock.get(block) === page ? `#${idIn(block)}` : ''}`;
  }
}

const placeOf = (section: string, block: string | null): string => (block ? `${section}#${block}` : section);
/** Where a page stands, from the package file. */
const hrefOf = (page: number): string => `text/p${String(page + 1).padStart(4, '0')}.xhtml`;
const faceRule = (f: EmbeddedFace): string =>
  `@font-face { font-family: "${f.family}"; src: url("${faceHref(f)}"); }\n`;

const FIXED = `@charset "utf-8";
html, body { margin: 0; padding: 0; overflow: hidden; }
svg { display: block; }
text { white-space: pre; text-rendering: geometricPrecision; fill: currentColor; }
rect { fill: currentColor; }
rect.link { fill: none; pointer-events: all; }
nav { max-height: 100vh; overflow: auto; box-sizing: border-box; padding: 1em; }
nav li { margin: 0.5em 0; }
`;
