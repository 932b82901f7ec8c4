/** People who made the imprint's books: each is typed once, and found again in the next title. */
import { randomUUID } from 'node:crypto';
import { desc, eq, isNull } from 'drizzle-orm';
import type { BookJson, Picture } from '@pagina/core/book';
import { recordSchema, type Contributor } from '@pagina/core/record';
import { titles } from './schema';
import { saveChange } from './saving';
import type { Store } from './open';

export interface Person {
  name: string;
  /** As the title has them that was changed last, of those that say it. */
  sortName: string;
  life: string;
  /** The picture as one of those titles has it; null for none. */
  portrait: Picture | null;
  /** Titles that name them, by id. */
  titles: string[];
  /** Those of them that tell their life otherwise, or show them otherwise. */
  otherwise: string[];
}

interface InTitle {
  title: string;
  people: Contributor[];
  portraitOf: (c: Contributor) => Picture | null;
}
async function contributorsOf(store: Store): Promise<InTitle[]> {
  const rows = await store.db
    .select({ id: titles.id, meta: titles.meta })
    .from(titles)
    .where(isNull(titles.deletedAt))
    .orderBy(desc(titles.changedAt));
  return rows.map(({ id, meta }) => {
    const book = JSON.parse(meta) as BookJson;
    return {
      title: id,
      people: recordSchema.parse(book.record).contributors,
      portraitOf: (c: Contributor) =>
        (book.pictures?.find((p) => p.id === c.portrait) as Picture | undefined) ?? null,
    };
  });
}

const told = (life: string, portrait: Picture | null): string => `${portrait?.sha256 ?? ''} ${life}`;

/** By name; those of the titles that were changed last come first. */
export async function peopleOf(store: Store): Promise<Person[]> {
  const known = new Map<string, Person & { told: Map<string, string> }>();
  for (const { title, people, portraitOf } of await contributorsOf(store))
    for (const c of people) {
      const person = known.get(c.name) ?? {
        name: c.name,
        sortName: '',
        life: '',
        portrait: null,
        titles: [],
        otherwise: [],
        told: new Map<string, string>(),
      };
      person.sortName ||= c.sortName;
      person.life ||= c.life;
      person.portrait ??= portraitOf(c);
      if (!person.titles.includes(title)) person.titles.push(title);
      const before = person.told.get(title);
      if (before === undefined || c.life) person.told.set(title, told(c.life, portraitOf(c)));
      known.set(c.name, person);
    }
  return [...known.values()].map(({ told: all, ...p }) => ({
    ...p,
    otherwise: p.titles.filter((t) => all.get(t) !== told(p.life, p.portrait)),
  }));
}

/** Tells a person's life and how they are sorted, and shows their portrait, in every other title as one has it. Answers in how many it changed. */
export async function sharePerson(store: Store, from: string, name: string): Promise<number> {
  const all = await contributorsOf(store);
  const source = all.find((t) => t.title === from);
  const here = source?.people.find((c) => c.name === name);
  if (!source || !here) return 0;
  const picture = source.portraitOf(here);
  let changed = 0;
  for (const { title, people, portraitOf } of all) {
    if (title === from) continue;
    /** The same file is a picture of the other title too, under an id of its own. */
    const own = picture && { ...picture, id: `pic-${randomUUID().slice(0, 8)}` };
    const portraitFor = (c: Contributor): string | null =>
      picture && portraitOf(c)?.sha256 === picture.sha256 ? c.portrait : (own?.id ?? null);
    const next = people.map((c) =>
      c.name === name ? { ...c, life: here.life, sortName: here.sortName, portrait: portraitFor(c) } : c,
    );
    if (JSON.stringify(next) === JSON.stringify(people)) continue;
    const [row] = await store.db
      .select({ revision: titles.revision })
      .from(titles)
      .where(eq(titles.id, title));
    const saved = await saveChange(store, title, {
      base: row?.revision ?? 0,
      client: 'people',
      change: {
        type: 'group',
        label: `Take over what is told of ${name}`,
        changes: [
          ...(own && next.some((c) => c.portrait === own.id)
            ? [{ type: 'add-pictures' as const, pictures: [own] }]
            : []),
          { type: 'set-record', fields: { contributors: next } },
        ],
      },
    });
    if (saved.ok) changed++;
  }
  return changed;
}
