/**
 * Changes as another thread or another machine asks for them: what stood there before is left out, for only whoever
 * applies them knows how that is kept.
 */
import * as z from 'zod';
import { done, refused, type Outcome } from '../base';
import { applyChanges, type Content, type Emended, type PartChange } from './container';

const path = z.string().min(1).max(2_000);
const text = z.string().max(20_000_000);
export const askedChangeSchema = z.discriminatedUnion('op', [
  z.object({ op: z.literal('edit'), path, at: z.number().int().min(0), removed: text, inserted: text }),
  z.object({ op: z.literal('add'), path, index: z.number().int().min(0), text }),
  z.object({ op: z.literal('remove'), path }),
  z.object({ op: z.literal('rename'), path, to: path }),
  z.object({ op: z.literal('replace'), path, text }),
]);
export type AskedChange = z.infer<typeof askedChangeSchema>;

/** The same changes without what stood there before; null where one puts in what is no text. */
export function askedOf(changes: readonly PartChange[]): AskedChange[] | null {
  const words = (c: Content): string | null => ('text' in c ? c.text : null);
  const asked: AskedChange[] = [];
  for (const c of changes) {
    if (c.op === 'edit' || c.op === 'rename') asked.push(c);
    else if (c.op === 'remove') asked.push({ op: 'remove', path: c.path });
    else {
      const said = words(c.op === 'add' ? c.content : c.now);
      if (said === null) return null;
      asked.push(
        c.op === 'add'
          ? { op: 'add', path: c.path, index: c.index, text: said }
          : { op: 'replace', path: c.path, text: said },
      );
    }
  }
  return asked;
}

/** The changes in full, for this ebook. Errors: those of `applyChanges`, `emend/gone`. */
export function resolved(e: Emended, asked: readonly AskedChange[]): Outcome<PartChange[]> {
  const changes: PartChange[] = [];
  let now = e;
  for (const a of asked) {
    const is = now.parts.get(a.path);
    let change: PartChange;
    if (a.op === 'edit' || a.op === 'rename') change = a;
    else if (a.op === 'add') change = { op: 'add', path: a.path, index: a.index, content: { text: a.text } };
    else if (!is) return refused('emend/gone', `The ebook has no “${a.path}” any more.`);
    else if (a.op === 'remove')
      change = { op: 'remove', path: a.path, index: [...now.parts.keys()].indexOf(a.path), content: is };
    else change = { op: 'replace', path: a.path, was: is, now: { text: a.text } };
    const applied = applyChanges(now, [change]);
    if (!applied.ok) return applied;
    now = applied.value;
    changes.push(change);
  }
  return done(changes);
}
