/**
 * A sample of a book: as many chapters, or as much of the text, as an author gives away, and a page at its end that says where
 * there is more.
 */
import type { Node } from 'prosemirror-model';
import { byLanguage, countWords } from '../base';
import { editionOf, isFixed, isSample, sampledEbook, type SampleEdition } from './edition';
import { carries, freshSection, sectionsOf, type Book, type Section } from './model';
import { schema } from './schema';

/** Blocks at whose end a reader can stop. */
const ENDS = new Set([
  'paragraph',
  'quotation',
  'verse',
  'letter',
  'passage',
  'list',
  'table',
  'picturePage',
]);

const words = (n: Node): number => countWords(n.textBetween(0, n.content.size, ' ', ' '));
const isNote = (n: Node): boolean => n.type.name === 'noteBody';

/** Sections of the whole edition as far as the sample goes. `carried`: those of the ebook, in their order. */
export function sampled(carried: readonly Section[], { by, amount }: SampleEdition['extent']): Section[] {
  const front = carried.filter((s) => s.matter === 'front');
  const body = carried.filter((s) => s.matter === 'body');
  return [...front, ...(by === 'chapters' ? byChapters(body, amount) : byWords(body, amount))];
}

function byChapters(body: readonly Section[], chapters: number): Section[] {
  const last = body.filter((s) => s.kind === 'chapter')[chapters - 1];
  // What stands before a chapter comes with it; what stands behind the last one belongs to the next, or to the whole book.
  return last ? body.slice(0, body.indexOf(last) + 1) : [...body];
}

function byWords(body: readonly Section[], percent: number): Section[] {
  const own = (s: Section): number => {
    let n = 0;
    s.content.forEach((block) => void (n += isNote(block) ? 0 : words(block)));
    return n;
  };
  let left = Math.ceil((body.reduce((n, s) => n + own(s), 0) * Math.min(percent, 100)) / 100);
  const out: Section[] = [];
  for (const s of body) {
    if (left <= 0) break;
    const n = own(s);
    out.push(n <= left ? s : cutAfter(s, left));
    left -= n;
  }
  while (out.at(-1)?.kind === 'part') out.pop();
  return out;
}

/** The section to the end of the block in which that many words are reached. */
function cutAfter(s: Section, most: number): Section {
  const kept: Node[] = [];
  let n = 0;
  for (let i = 0; i < s.content.childCount; i++) {
    const block = s.content.child(i);
    if (isNote(block)) continue;
    if (n >= most && ENDS.has(kept.at(-1)?.type.name ?? '')) break;
    kept.push(block);
    n += words(block);
  }
  const called = new Set<string>();
  const bodies = new Map<string, Node>();
  s.content.forEach((b) => void (isNote(b) && bodies.set(b.attrs.id as string, b)));
  const look = (node: Node): void =>
    void node.descendants((x) => {
      const ref = x.type.name === 'note' ? (x.attrs.ref as string) : '';
      if (!ref || called.has(ref)) return;
      called.add(ref);
      const body = bodies.get(ref);
      if (body) look(body);
    });
  kept.forEach(look);
  const notes = [...bodies].flatMap(([id, b]) => (called.has(id) ? [b] : []));
  return { ...s, content: schema.node('doc', null, [...kept, ...notes]) };
}

/**
 * The sections that an edition shows: those it carries; of a sample those of its ebook as far as it goes, and its last page;
 * of a fixed layout those of its print edition.
 */
export function sectionsIn(book: Book, id: string): Section[] {
  const edition = editionOf(book, id);
  if (edition && isFixed(edition)) return edition.of === null ? [] : sectionsOf(book, edition.of);
  if (!edition || !isSample(edition)) return sectionsOf(book, id);
  const whole = sampledEbook(book, edition);
  if (!whole) return [];
  const given = sampled(sectionsOf(book, whole.id), edition.extent).filter((s) => carries(s, id));
  return [...given, closingPage(book, whole.isbn, edition.closing)];
}

/** Words of the closing page, from memory of the languages. */
const CLOSING: Record<string, [over: string, more: string]> = {
  en: ['This is the end of the sample.', 'The whole book is on sale:'],
  fr: ['L’extrait s’arrête ici.', 'Le livre entier est en vente :'],
  de: ['Hier endet die Leseprobe.', 'Das ganze Buch ist im Handel:'],
  es: ['Aquí termina el fragmento.', 'El libro completo está a la venta:'],
  it: ['L’estratto finisce qui.', 'Il libro completo è in vendita:'],
  pt: ['A amostra termina aqui.', 'O livro completo está à venda:'],
  nl: ['Hier eindigt het leesfragment.', 'Het hele boek is te koop:'],
  pl: ['Tu kończy się fragment.', 'Cała książka jest w sprzedaży:'],
  sv: ['Här slutar smakprovet.', 'Hela boken finns att köpa:'],
};

/** What the closing page says where the author says nothing: that the sample is over, and what stands before the title. */
export const closingWords = (language: string): [over: string, more: string] =>
  byLanguage(CLOSING, language) ?? (CLOSING.en as [string, string]);

/** The page at the end, in the house's words or in `own`, with a link to the book of that ISBN in a file that is made for a shop. */
export function closingPage({ record }: Book, isbn: string, own: string): Section {
  const [over, more] = closingWords(record.language);
  const said = own.trim();
  const link = isbn ? [schema.mark('link', { kind: 'shop', target: isbn })] : [];
  const paragraph = (id: string, ...inline: Node[]): Node => schema.node('paragraph', { id }, inline);
  const title = record.title ? [schema.text(record.title, [schema.mark('emphasis'), ...link])] : [];
  return freshSection('end-of-sample', 'plain', {
    content: schema.node('doc', null, [
      schema.node('passage', { id: 'end-of-sample-words', align: 'centre' }, [
        paragraph('end-of-sample-over', schema.text(said || over)),
        ...(title.length > 0
          ? [paragraph('end-of-sample-more', ...(said ? [] : [schema.text(`${more} `)]), ...title)]
          : []),
      ]),
    ]),
  });
}
