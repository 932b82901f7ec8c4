/** People who made the imprint's books: each is typed once, and found again in the next title. */
import { desc, eq, isNull } from 'drizzle-orm';
import type { BookJson } from '@pagina/core/book';
import { recordSchema, type Contributor } from '@pagina/core/record';
import { titles } from './schema';
import { saveChange } from './saving';
import type { Store } from './open';

export interface Person {
  name: string;
  /** As the title has them that was changed last, of those that say it. */
  sortName: string;
  life: string;
  /** Titles that name them, by id. */
  titles: string[];
  /** Those of them that tell their life otherwise. */
  otherwise: string[];
}

async function contributorsOf(store: Store): Promise<{ title: string; people: Contributor[] }[]> {
  const rows = await store.db
    .select({ id: titles.id, meta: titles.meta })
    .from(titles)
    .where(isNull(titles.deletedAt))
    .orderBy(desc(titles.changedAt));
  return rows.map(({ id, meta }) => ({
    title: id,
    people: recordSchema.parse((JSON.parse(meta) as BookJson).record).contributors,
  }));
}

/** By name; those of the titles that were changed last come first. */
export async function peopleOf(store: Store): Promise<Person[]> {
  const known = new Map<string, Person & { lives: Map<string, string> }>();
  for (const { title, people } of await contributorsOf(store))
    for (const c of people) {
      const person = known.get(c.name) ?? {
        name: c.name,
        sortName: '',
        life: '',
        titles: [],
        otherwise: [],
        lives: new Map<string, string>(),
      };
      person.sortName ||= c.sortName;
      person.life ||= c.life;
      if (!person.titles.includes(title)) person.titles.push(title);
      person.lives.set(title, c.life || (person.lives.get(title) ?? ''));
      known.set(c.name, person);
    }
  return [...known.values()].map(({ lives, ...p }) => ({
    ...p,
    otherwise: p.titles.filter((t) => lives.get(t) !== p.life),
  }));
}

/** Tells a person's life, and how they are sorted, in every other title as one has it. Answers in how many it changed. */
export async function sharePerson(store: Store, from: string, name: string): Promise<number> {
  const all = await contributorsOf(store);
  const here = all.find((t) => t.title === from)?.people.find((c) => c.name === name);
  if (!here) return 0;
  let changed = 0;
  for (const { title, people } of all) {
    if (title === from) continue;
    const next = people.map((c) =>
      c.name === name ? { ...c, life: here.life, sortName: here.sortName } : c,
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
        changes: [{ type: 'set-record', fields: { contributors: next } }],
      },
    });
    if (saved.ok) changed++;
  }
  return changed;
}
