/** People who made the imprint's books: each is typed once, and found again in the next title. */
import { randomUUID } from 'node:crypto';
import { desc, isNull } from 'drizzle-orm';
import type { BookJson, Picture } from '@pagina/core/book';
import { recordSchema, type Contributor } from '@pagina/core/record';
import { titles } from './schema';
import { changeFromElsewhere } from './saving';
import type { Store } from './open';

export interface Person {
  name: string;
  /** As the title has them that was changed last, of those that say it. */
  sortName: string;
  life: string;
  /** The picture as one of those titles has it; null for none. */
  portrait: Picture | null;
  /** Titles that name them, and what each tells of them: their life, and the checksum of the picture. */
  titles: { id: string; life: string; portrait: string | null }[];
}

interface InTitle {
  title: string;
  people: Contributor[];
  portraitOf: (c: Contributor) => Picture | null;
}
const inTitle = (title: string, book: BookJson): InTitle => ({
  title,
  people: recordSchema.parse(book.record).contributors,
  portraitOf: (c) => (book.pictures?.find((p) => p.id === c.portrait) as Picture | undefined) ?? null,
});
async function contributorsOf(store: Store): Promise<InTitle[]> {
  const rows = await store.db
    .select({ id: titles.id, meta: titles.meta })
    .from(titles)
    .where(isNull(titles.deletedAt))
    .orderBy(desc(titles.changedAt));
  return rows.map(({ id, meta }) => inTitle(id, JSON.parse(meta) as BookJson));
}

/** By name; those of the titles that were changed last come first. */
export async function peopleOf(store: Store): Promise<Person[]> {
  const known = new Map<string, Person>();
  for (const { title, people, portraitOf } of await contributorsOf(store))
    for (const c of people) {
      const person = known.get(c.name) ?? {
        name: c.name,
        sortName: '',
        life: '',
        portrait: null,
        titles: [],
      };
      person.sortName ||= c.sortName;
      person.life ||= c.life;
      person.portrait ??= portraitOf(c);
      // Somebody may be named twice, such as the author who drew the cover too.
      const there = person.titles.find((t) => t.id === title);
      const portrait = portraitOf(c)?.sha256 ?? null;
      if (!there) person.titles.push({ id: title, life: c.life, portrait });
      else Object.assign(there, { life: there.life || c.life, portrait: there.portrait ?? portrait });
      known.set(c.name, person);
    }
  return [...known.values()];
}

/** Tells a person's life and how they are sorted, and shows their portrait, in every other title as one has it. Answers in how many it changed. */
export async function sharePerson(store: Store, from: string, name: string): Promise<number> {
  const all = await contributorsOf(store);
  const source = all.find((t) => t.title === from);
  const here = source?.people.find((c) => c.name === name);
  if (!source || !here) return 0;
  const picture = source.portraitOf(here);
  let changed = 0;
  for (const { title } of all.filter((t) => t.title !== from)) {
    /** The same file is a picture of the other title too, under an id of its own. */
    const own = picture && { ...picture, id: `pic-${randomUUID().slice(0, 8)}` };
    const done = await changeFromElsewhere(store, title, 'people', (book) => {
      const { people, portraitOf } = inTitle(title, book);
      // Where this title shows none, each keeps its own.
      const portraitFor = (c: Contributor): string | null =>
        !own || portraitOf(c)?.sha256 === own.sha256 ? c.portrait : own.id;
      const next = people.map((c) =>
        c.name === name ? { ...c, life: here.life, sortName: here.sortName, portrait: portraitFor(c) } : c,
      );
      if (JSON.stringify(next) === JSON.stringify(people)) return null;
      const brought = own && next.some((c) => c.portrait === own.id) ? [own] : [];
      return {
        type: 'group',
        label: `Take over what is told of ${name}`,
        changes: [
          ...(brought.length > 0 ? [{ type: 'add-pictures' as const, pictures: brought }] : []),
          { type: 'set-record', fields: { contributors: next } },
        ],
      };
    });
    if (done) changed++;
  }
  return changed;
}
