'use client';
/** The running order: a ruled ledger of sections by matter and part, with one lane an edition. */
import { useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { useRouter } from 'next/navigation';
import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  closestCenter,
  type DragEndEvent,
} from '@dnd-kit/core';
import { SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { toast } from 'sonner';
import { countWords } from '@pagina/core/base';
import {
  emptyContent,
  kindRule,
  sectionToJson,
  type Book,
  type Change,
  type Section,
  type SectionKind,
} from '@pagina/core/book';
import { changeKind, headingsOf, join, moveBefore, remove } from '@pagina/core/order';
import type { Outcome } from '@pagina/core/base';
import { useBook, useComposed, useFindings, useTitle } from '@/title/context';
import { shortId } from '@/title/session';
import { useArrival } from './arrival';
import { IntakeSheet } from './IntakeSheet';
import { Lanes, linesOf, placeFor } from './lines';
import { Row, type RowFacts } from './Row';

export function RunningOrder() {
  const { session, goTo, place } = useTitle();
  const { book } = useBook();
  const { composed } = useComposed();
  const findings = useFindings();
  const router = useRouter();
  const [chosen, setChosen] = useState<string | null>(null);
  const [renaming, setRenaming] = useState<string | null>(null);
  const ledger = useRef<HTMLDivElement>(null);
  const { kept, accept, markBack } = useArrival(session.id);
  const [asRead, setAsRead] = useState(false);
  const lines = useMemo(() => linesOf(book), [book]);
  const facts = useMemo(() => {
    const headings = headingsOf(book.sections, book.record);
    const words = new Map(
      book.sections.map((s) => [
        s.id,
        countWords(s.content.textBetween(0, s.content.content.size, ' ', ' ')),
      ]),
    );
    const most = Math.max(1, ...words.values());
    return new Map<string, RowFacts>(
      book.sections.map((s) => {
        const start = composed?.pages.find((p) => p.section === s.id && !p.blank);
        const n = words.get(s.id) ?? 0;
        return [
          s.id,
          {
            heading: headings.get(s.id)!,
            words: n,
            share: n / most,
            label: start?.label ?? '',
            side: start?.side ?? null,
            findings: findings.filter((f) => f.place?.section === s.id),
          },
        ];
      }),
    );
  }, [book, composed, findings]);
  useEffect(() => {
    if (place) setChosen(place.section);
  }, [place]);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );

  const run = (make: (b: Book) => Outcome<Change>): Promise<boolean> =>
    session.change((b) => {
      const r = make(b);
      if (r.ok) return r.value;
      toast(r.refusal.message);
      return null;
    });
  const move = (id: string, by: -1 | 1): void =>
    void run((b) => {
      const family = (s: Section): boolean => s.id === id || s.parent === id;
      const rest = b.sections.filter((s) => !family(s));
      const at = b.sections.findIndex((s) => s.id === id);
      const before = b.sections.slice(0, at).filter((s) => !family(s)).length;
      const target = before + by;
      if (target < 0 || target > rest.length)
        return {
          ok: false,
          refusal: { code: 'order/end', message: 'It is at the end of the book already.' },
        };
      return moveBefore(b, id, rest[target]?.id ?? null);
    });
  const drop = ({ active, over }: DragEndEvent): void => {
    if (!over || active.id === over.id) return;
    const ids = book.sections.map((s) => s.id);
    const down = ids.indexOf(String(active.id)) < ids.indexOf(String(over.id));
    const before = down ? (ids[ids.indexOf(String(over.id)) + 1] ?? null) : String(over.id);
    void run((b) => moveBefore(b, String(active.id), before));
  };
  const callIn = (kind: SectionKind): void =>
    void session.change((b) => {
      const id = `s${shortId()}`;
      const section: Section = {
        id,
        kind,
        matter: kindRule(kind).matter,
        parent: null,
        title: '',
        subtitle: '',
        numbered: false,
        leftOut: [],
        content: emptyContent(`${id}-1`),
      };
      setChosen(id);
      return {
        type: 'group',
        label: `Call in the ${kindRule(kind).label.toLowerCase()}`,
        changes: [{ type: 'insert-section', index: placeFor(b, kind), section: sectionToJson(section) }],
      };
    });
  const addChapter = (): void =>
    void session.change((b) => {
      const id = `s${shortId()}`;
      const at = b.sections.findIndex((s) => s.id === chosen);
      const after = at >= 0 ? at : b.sections.map((s) => s.matter).lastIndexOf('body');
      const section: Section = {
        id,
        kind: 'chapter',
        matter: 'body',
        parent:
          b.sections[after]?.kind === 'part'
            ? (b.sections[after]?.id ?? null)
            : (b.sections[after]?.parent ?? null),
        title: '',
        subtitle: '',
        numbered: true,
        leftOut: [],
        content: emptyContent(`${id}-1`),
      };
      setChosen(id);
      return {
        type: 'group',
        label: 'Add a chapter',
        changes: [{ type: 'insert-section', index: after + 1, section: sectionToJson(section) }],
      };
    });
  const toggle = (s: Section, edition: string): void => {
    const leftOut = s.leftOut.includes(edition)
      ? s.leftOut.filter((e) => e !== edition)
      : [...s.leftOut, edition];
    void session.change({
      type: 'group',
      label: 'Change what an edition carries',
      changes: [{ type: 'set-section', id: s.id, fields: { leftOut } }],
    });
  };
  const removeIt = (s: Section): void => {
    void run((b) => remove(b, s.id)).then(
      (done) =>
        done &&
        toast(`"${facts.get(s.id)?.heading.label}" was deleted.`, {
          action: { label: 'Undo', onClick: () => void session.undo() },
        }),
    );
  };
  const keys = (e: KeyboardEvent): void => {
    if (e.target instanceof HTMLInputElement || e.target instanceof HTMLSelectElement) return;
    const ids = book.sections.map((s) => s.id);
    const at = chosen ? ids.indexOf(chosen) : -1;
    if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
      e.preventDefault();
      if (e.altKey && chosen) return move(chosen, e.key === 'ArrowDown' ? 1 : -1);
      const next = ids[Math.max(0, Math.min(ids.length - 1, at + (e.key === 'ArrowDown' ? 1 : -1)))];
      if (next) goTo({ section: next });
    } else if (chosen && e.key === 'F2') setRenaming(chosen);
    else if (chosen && e.key === 'Enter' && e.target === e.currentTarget) router.push('manuscript');
    else if (chosen && e.key === 'Delete') {
      const s = book.sections[at];
      if (s) removeIt(s);
    }
  };
  useEffect(() => {
    if (chosen)
      ledger.current?.querySelector(`[data-section="${chosen}"]`)?.scrollIntoView({ block: 'nearest' });
  }, [chosen]);

  if (kept && (asRead || kept.acceptedAt === null))
    return (
      <IntakeSheet
        arrival={kept.arrival}
        accepted={kept.acceptedAt !== null}
        onAccept={() => {
          setAsRead(false);
          if (kept.acceptedAt === null) void accept();
        }}
        onBack={markBack}
      />
    );
  return (
    <div className="flex h-full flex-col">
      <div
        ref={ledger}
        className="min-h-0 flex-1 overflow-auto bg-sheet"
        tabIndex={0}
        role="group"
        aria-label="Running order. Arrow keys choose a section; Alt and an arrow move it; F2 renames it; Delete removes it."
        onKeyDown={keys}
      >
        <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
          <SortableContext items={book.sections.map((s) => s.id)} strategy={verticalListSortingStrategy}>
            <table className="w-full border-collapse" style={{ tableLayout: 'fixed' }}>
              <colgroup>
                <col style={{ width: 28 }} />
                <col style={{ width: 172 }} />
                <col />
                <col style={{ width: 96 }} />
                <col style={{ width: 190 }} />
                {book.editions.map((e) => (
                  <col key={e.id} style={{ width: 84 }} />
                ))}
                <col style={{ width: 214 }} />
              </colgroup>
              <thead className="sticky top-0 z-10 bg-sheet">
                <tr className="h-8 border-b border-edge text-left">
                  <th scope="col">
                    <span className="sr-only">Move</span>
                  </th>
                  <th scope="col" className="column-head px-2">
                    Kind
                  </th>
                  <th scope="col" className="column-head px-2">
                    Title
                  </th>
                  <th scope="col" className="column-head px-2">
                    Starts on
                  </th>
                  <th scope="col" className="column-head px-2">
                    Words
                  </th>
                  {book.editions.map((e) => (
                    <th key={e.id} scope="col" className="column-head text-center">
                      {e.name}
                    </th>
                  ))}
                  <th scope="col" className="px-2 text-right font-normal whitespace-nowrap">
                    {kept ? (
                      <button
                        type="button"
                        className="mr-2 underline hover:text-spruce"
                        onClick={() => setAsRead(true)}
                      >
                        As it was read
                      </button>
                    ) : null}
                    <button
                      type="button"
                      className="rounded-[2px] border border-edge px-2 hover:border-ink"
                      onClick={addChapter}
                    >
                      Add a chapter
                    </button>
                  </th>
                </tr>
              </thead>
              <tbody>
                {lines.map((l, i) =>
                  l.type === 'matter' ? (
                    <tr key={`m${i}`} className="border-b border-rule bg-table">
                      <th colSpan={5} scope="rowgroup" className="column-head h-7 px-3 text-left">
                        {l.name}
                      </th>
                      <Lanes lines={lines} at={i} editions={book.editions} />
                      <td />
                    </tr>
                  ) : l.type === 'absent' ? (
                    <tr key={`a${l.kind}`} className="h-8 border-b border-rule text-ink-soft">
                      <td />
                      <td className="px-2 italic">{kindRule(l.kind).label}</td>
                      <td className="px-2 italic" colSpan={3}>
                        not in the book
                      </td>
                      <Lanes lines={lines} at={i} editions={book.editions} />
                      <td className="px-2 text-right">
                        <button
                          type="button"
                          className="px-2 underline hover:text-ink"
                          onClick={() => callIn(l.kind)}
                        >
                          Call it in
                        </button>
                      </td>
                    </tr>
                  ) : (
                    <Row
                      key={l.section.id}
                      section={l.section}
                      facts={facts.get(l.section.id)!}
                      editions={book.editions}
                      neighbours={{
                        above: book.sections[book.sections.indexOf(l.section) - 1] ?? null,
                        below: book.sections[book.sections.indexOf(l.section) + 1] ?? null,
                      }}
                      chosen={chosen === l.section.id}
                      renaming={renaming === l.section.id}
                      onChoose={() => goTo({ section: l.section.id })}
                      onRename={() => setRenaming(l.section.id)}
                      onRenamed={(fields) => {
                        setRenaming(null);
                        if (fields)
                          void session.change({
                            type: 'group',
                            label: 'Rename the section',
                            changes: [{ type: 'set-section', id: l.section.id, fields }],
                          });
                      }}
                      onKind={(kind) => void run((b) => changeKind(b, l.section.id, kind))}
                      onNumbered={(numbered) =>
                        void session.change({
                          type: 'group',
                          label: 'Change the numbering',
                          changes: [{ type: 'set-section', id: l.section.id, fields: { numbered } }],
                        })
                      }
                      onToggle={(edition) => toggle(l.section, edition)}
                      onJoin={() => void run((b) => join(b, l.section.id, shortId))}
                      onRemove={() => removeIt(l.section)}
                      onOpen={() => {
                        goTo({ section: l.section.id });
                        router.push('manuscript');
                      }}
                    />
                  ),
                )}
              </tbody>
            </table>
          </SortableContext>
        </DndContext>
      </div>
    </div>
  );
}
