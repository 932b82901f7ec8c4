/** One paragraph changed in an open book: what the browser's worker does then, in a warm process. Milliseconds. */
import { schema, type Book } from '@pagina/core/book';
import { compose, ComposeCache } from '@pagina/core/compose';
import { typeSource } from '@pagina/make';
import { openNovel } from './open-novel';

const CHANGES = 40;

/** The book with a few words more in a paragraph of a section. */
function changed(book: Book, section: number, paragraph: number, words: string): Book {
  const sections = book.sections.map((s, i) => {
    if (i !== section) return s;
    const blocks = Array.from({ length: s.content.childCount }, (_, k) => {
      const b = s.content.child(k);
      return k === paragraph % s.content.childCount
        ? schema.node('paragraph', b.attrs, [schema.text(`${b.textContent} ${words}`)])
        : b;
    });
    return { ...s, content: schema.node('doc', null, blocks) };
  });
  return { ...book, sections };
}

/** All its text in one chapter. */
function inOne(book: Book): Book {
  const [first] = book.sections;
  if (!first) return book;
  const blocks = book.sections
    .flatMap((s) => Array.from({ length: s.content.childCount }, (_, k) => s.content.child(k)))
    .map((b, i) => schema.node('paragraph', { id: `p${i}` }, b.content));
  return { ...book, sections: [{ ...first, content: schema.node('doc', null, blocks) }] };
}

async function times(book: Book): Promise<{ pages: number; late: number }> {
  const source = await typeSource();
  const cache = new ComposeCache();
  const set = async (b: Book): Promise<number> => {
    const made = await compose(b, 'paperback', source, { cache });
    if (!made.ok) throw new Error(made.refusal.message);
    return made.value.pages.length;
  };
  const pages = await set(book);
  const taken: number[] = [];
  let now = book;
  for (let i = 0; i < CHANGES; i++) {
    now = changed(now, (i * 53) % now.sections.length, i * 131, i % 2 ? 'And so it was.' : 'Aye.');
    const started = performance.now();
    await set(now);
    taken.push(performance.now() - started);
  }
  return { pages, late: taken.sort((a, b) => a - b)[Math.floor(CHANGES * 0.95) - 1] as number };
}

/** Pages, and the time at the 95th percentile until all of them are right again. */
export async function live(): Promise<Record<'book' | 'chapter', { pages: number; late: number }>> {
  const book = openNovel(2);
  return { book: await times(book), chapter: await times(inOne(book)) };
}
