/** Two states of one book: what became of each section, and putting sections back as they were. */
import { done, refused, type Outcome } from '../base';
import { sectionToJson, textReplaced, type Book, type Change, type Section } from '../book';
import { arrange } from './tree';

export interface SectionThen {
  id: string;
  /** As it was then; null for one that has come since. */
  then: Section | null;
  /** As it is now; null for one that has gone since. */
  now: Section | null;
}

/** All sections of both states in their order, those that have gone where they stood. */
export function sectionsThenAndNow(now: Book, then: Book): SectionThen[] {
  const was = new Map(then.sections.map((s) => [s.id, s]));
  const list: SectionThen[] = now.sections.map((s) => ({ id: s.id, then: was.get(s.id) ?? null, now: s }));
  then.sections.forEach((s, i) => {
    if (now.sections.some((x) => x.id === s.id)) return;
    const before = then.sections
      .slice(0, i)
      .reverse()
      .find((x) => list.some((l) => l.id === x.id));
    list.splice(before ? list.findIndex((l) => l.id === before.id) + 1 : 0, 0, {
      id: s.id,
      then: s,
      now: null,
    });
  });
  return list;
}

/** Whether anything but text differs: kind, title, number, editions. */
export const sameFacts = (a: Section, b: Section): boolean => {
  const facts = ({ content: _, ...s }: Section): string => JSON.stringify(s);
  return facts(a) === facts(b);
};

const textBack = (now: Section, then: Section): Change[] =>
  now.content.eq(then.content) ? [] : [textReplaced(now, then.content)];

/** Puts one section back as it was: its text and title, or the whole of it when it has gone. Its place in the order stays. */
export function putSectionBack(now: Book, then: Book, id: string): Outcome<Change> {
  const old = then.sections.find((s) => s.id === id);
  if (!old) return refused('version/section', 'That section wasn’t in the book at that time.');
  const current = now.sections.find((s) => s.id === id);
  const label = 'Restore a section';
  if (current) {
    const { content: _, parent: _p, matter: _m, id: _i, ...fields } = old;
    const facts: Change[] = sameFacts(current, { ...old, parent: current.parent, matter: current.matter })
      ? []
      : [{ type: 'set-section', id, fields }];
    return done({ type: 'group', label, changes: [...textBack(current, old), ...facts] });
  }
  const place = sectionsThenAndNow(now, then);
  const at = place.findIndex((s) => s.id === id);
  const before = place
    .slice(0, at)
    .reverse()
    .find((s) => s.now);
  const index = before ? now.sections.findIndex((s) => s.id === before.id) + 1 : 0;
  const parent = old.parent !== null && now.sections.some((s) => s.id === old.parent) ? old.parent : null;
  return done({
    type: 'group',
    label,
    changes: [{ type: 'insert-section', index, section: sectionToJson({ ...old, parent }) }],
  });
}

/** Puts the whole book back as it was: text, order, record, numbers, editions. What was done since can be redone by undo. */
export function putBookBack(now: Book, then: Book): Change {
  const changes: Change[] = [];
  for (const s of now.sections)
    if (!then.sections.some((x) => x.id === s.id)) changes.push({ type: 'remove-section', id: s.id });
  const kept = now.sections.filter((s) => then.sections.some((x) => x.id === s.id));
  const list: Section[] = [...kept];
  then.sections.forEach((s, i) => {
    const current = kept.find((x) => x.id === s.id);
    if (!current) {
      const index = Math.min(i, list.length);
      changes.push({ type: 'insert-section', index, section: sectionToJson(s) });
      list.splice(index, 0, s);
      return;
    }
    changes.push(...textBack(current, s));
    const { content: _, id: _i, ...fields } = s;
    if (!sameFacts(current, s)) changes.push({ type: 'set-section', id: s.id, fields });
  });
  changes.push(...arrange({ sections: list }, then.sections));
  changes.push({ type: 'set-record', fields: then.record });
  changes.push({ type: 'set-numbering', fields: then.numbering });
  changes.push({ type: 'set-words', words: [...then.words] });
  changes.push({ type: 'set-index-see', see: [...then.indexSee] });
  if (then.reading !== now.reading) changes.push({ type: 'set-reading', sha256: then.reading });
  changes.push({ type: 'set-editions', editions: [...then.editions] });
  return { type: 'group', label: 'Restore the book', changes };
}
