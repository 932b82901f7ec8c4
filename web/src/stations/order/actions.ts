'use client';
/** What can be done with the sections chosen, each one change with one undo. */
import { useMemo } from 'react';
import { toast } from 'sonner';
import type { Outcome } from '@pagina/core/base';
import {
  freshSection,
  kindRule,
  sectionToJson,
  type Book,
  type Change,
  type Section,
  type SectionKind,
} from '@pagina/core/book';
import {
  addAtItsPlace,
  changeKind,
  dissolve,
  duplicate,
  gather,
  inTurn,
  join,
  moveBefore,
  moveBy,
  nest,
  remove,
} from '@pagina/core/order';
import { useTitle } from '@/title/context';
import { shortId } from '@/title/ids';
import type { TitleSession } from '@/title/session';

const sectionId = (): string => `s${shortId()}`;

/** Does one thing to the book, or says in a sentence why it cannot be done. */
export function act(session: TitleSession, make: (b: Book) => Outcome<Change>): Promise<boolean> {
  return session.change((b) => {
    const r = make(b);
    if (r.ok) return r.value;
    toast(r.refusal.message);
    return null;
  });
}

/** Fields of many sections at once. */
const setAll = (
  ids: readonly string[],
  label: string,
  fields: (s: Book['sections'][number]) => Extract<Change, { type: 'set-section' }>['fields'],
) => {
  return (b: Book): Outcome<Change> => ({
    ok: true,
    value: {
      type: 'group',
      label,
      changes: b.sections
        .filter((s) => ids.includes(s.id))
        .map((s) => ({ type: 'set-section', id: s.id, fields: fields(s) })),
    },
  });
};

export type Actions = ReturnType<typeof useActions>;

export function useActions() {
  const { session } = useTitle();
  return useMemo(() => {
    const run = (make: (b: Book) => Outcome<Change>): Promise<boolean> => act(session, make);
    return {
      moveBefore: (ids: readonly string[], before: string | null) => run((b) => moveBefore(b, ids, before)),
      moveBy: (ids: readonly string[], by: -1 | 1) => run((b) => moveBy(b, ids, by)),
      nest: (ids: readonly string[], way: 'in' | 'out') => run((b) => nest(b, ids, way)),
      gather: (ids: readonly string[]) => run((b) => gather(b, ids, sectionId)),
      dissolve: (id: string) => run((b) => dissolve(b, id)),
      duplicate: (id: string) => run((b) => duplicate(b, id, sectionId)),
      join: (id: string) => run((b) => join(b, id, sectionId)),
      kind: (ids: readonly string[], kind: SectionKind) => run((b) => changeKind(b, ids, kind)),
      addPages: (kinds: readonly SectionKind[]) =>
        run((b) =>
          inTurn(b, kinds, kinds.length === 1 ? 'Add a page' : 'Add pages', (now, kind) =>
            addAtItsPlace(now, kind, sectionId),
          ),
        ),
      addAtItsPlace: (kind: SectionKind) => run((b) => addAtItsPlace(b, kind, sectionId)),
      number: (ids: readonly string[], numbered: boolean) =>
        run(setAll(ids, numbered ? 'Show the number' : 'Hide the number', () => ({ numbered }))),
      ownNumber: (id: string, number: number | null) =>
        run(setAll([id], 'Change the number', () => ({ number }))),
      title: (ids: readonly string[], titled: boolean) =>
        run(setAll(ids, titled ? 'Show the title' : 'Hide the title', () => ({ titled }))),
      starts: (ids: readonly string[], starts: Section['starts']) =>
        run(setAll(ids, 'Change where the section starts', () => ({ starts }))),
      listed: (ids: readonly string[], listed: boolean) =>
        run(
          setAll(ids, listed ? 'List in the contents' : 'Leave out of the contents', (s) => ({
            listed: kindRule(s.kind).inContents === listed ? 'usual' : listed ? 'yes' : 'no',
          })),
        ),
      rename: (id: string, fields: { title?: string; subtitle?: string }) =>
        run(setAll([id], 'Rename the section', () => fields)),
      /** Whether an edition carries the sections: all of them after the first one's example. */
      carry: (ids: readonly string[], edition: string, carried: boolean) =>
        run(
          setAll(ids, 'Change what an edition carries', (s) => ({
            leftOut: carried ? s.leftOut.filter((e) => e !== edition) : [...new Set([...s.leftOut, edition])],
          })),
        ),
      async remove(ids: readonly string[], name: string): Promise<void> {
        if (!(await run((b) => remove(b, ids)))) return;
        toast(ids.length === 1 ? `“${name}” was deleted.` : `${ids.length} sections were deleted.`, {
          action: { label: 'Undo', onClick: () => void session.undo() },
        });
      },
      /** A chapter after the section `after`, or after the body; answers its id. */
      async addChapter(after: string | null): Promise<string | null> {
        const id = sectionId();
        const done = await run((b) => {
          const chosen = b.sections.findIndex((s) => s.id === after);
          const at =
            chosen >= 0 && b.sections[chosen]?.matter === 'body'
              ? chosen
              : b.sections.findLastIndex((s) => s.matter === 'body');
          const index = at >= 0 ? at + 1 : b.sections.filter((s) => s.matter === 'front').length;
          const above = b.sections[at];
          const parent = above?.kind === 'part' ? above.id : (above?.parent ?? null);
          const section = sectionToJson(freshSection(id, 'chapter', { parent }));
          return {
            ok: true,
            value: {
              type: 'group',
              label: 'Add a chapter',
              changes: [{ type: 'insert-section', index, section }],
            },
          };
        });
        return done ? id : null;
      },
    };
  }, [session]);
}
