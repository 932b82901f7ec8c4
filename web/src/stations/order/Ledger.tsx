'use client';
/** The ruled ledger: one row a section, of which only those in sight are drawn, so that a long book scrolls as a short one. */
import { useEffect, useMemo, useRef, type KeyboardEvent } from 'react';
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
import { useVirtualizer } from '@tanstack/react-virtual';
import { kindRule, sectionsIn, type Book } from '@pagina/core/book';
import { useBook } from '@/title/context';
import { ContextMenu } from '@/ui/ContextMenu';
import type { MenuItem } from '@/ui/Menu';
import type { Actions } from './actions';
import type { RowFacts } from './facts';
import { laneRuns, Lanes, linesOf } from './lines';
import { Row } from './Row';
import type { Selection } from './selection';

const ROW = 32;
const HEAD = 32;
const PAGE = 12;

export function Ledger({
  facts,
  selection,
  actions,
  renaming,
  onRename,
  onOpen,
}: {
  facts: ReadonlyMap<string, RowFacts>;
  selection: Selection;
  actions: Actions;
  renaming: string | null;
  onRename: (id: string | null) => void;
  onOpen: (id: string) => void;
}) {
  const { book } = useBook();
  const { chosen, at, choose, chooseAll, ids } = selection;
  const scroller = useRef<HTMLDivElement>(null);
  const lines = useMemo(() => linesOf(book), [book]);
  const carried = useMemo(
    () => book.editions.map((e) => new Set(sectionsIn(book, e.id).map((s) => s.id))),
    [book],
  );
  const lineOf = useMemo(
    () => new Map(lines.flatMap((l, i) => (l.type === 'section' ? [[l.section.id, i] as const] : []))),
    [lines],
  );
  const order = useMemo(() => book.sections.map((s) => s.id), [book.sections]);
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
    scrollPaddingStart: HEAD,
    initialRect: { width: 1200, height: 640 },
  });
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  useEffect(() => {
    const line = at === null ? undefined : lineOf.get(at);
    if (line !== undefined) rows.scrollToIndex(line, { align: 'auto' });
    // Only when another row is come to: a change elsewhere must not scroll.
  }, [at]);

  /** The sections that an action on a row concerns. */
  const concerned = (id: string): readonly string[] => (chosen.has(id) ? ids : [id]);
  const drop = ({ active, over }: DragEndEvent): void => {
    if (!over || active.id === over.id) return;
    const down = order.indexOf(String(active.id)) < order.indexOf(String(over.id));
    const before = down ? (order[order.indexOf(String(over.id)) + 1] ?? null) : String(over.id);
    void actions.moveBefore(concerned(String(active.id)), before);
  };
  const go = (to: number, how: 'only' | 'extend'): void => {
    const id = order[Math.max(0, Math.min(order.length - 1, to))];
    if (id) choose(id, how);
  };
  const keys = (e: KeyboardEvent): void => {
    // A list opened from a row stands elsewhere in the page, though its keys are heard here.
    if (!(e.target instanceof Element) || !e.currentTarget.contains(e.target)) return;
    if (e.target.closest('input, [role=combobox]')) return;
    const on = e.target === e.currentTarget;
    const now = at ? order.indexOf(at) : -1;
    const how = e.shiftKey ? 'extend' : 'only';
    const command = e.ctrlKey || e.metaKey;
    const steps: Record<string, number> = {
      ArrowDown: now + 1,
      ArrowUp: now - 1,
      PageDown: now + PAGE,
      PageUp: now - PAGE,
      Home: 0,
      End: order.length - 1,
    };
    const done = ((): boolean => {
      if (e.altKey && ids.length > 0) {
        if (e.key === 'ArrowDown' || e.key === 'ArrowUp')
          return (void actions.moveBy(ids, e.key === 'ArrowDown' ? 1 : -1), true);
        if (e.key === 'ArrowRight' || e.key === 'ArrowLeft')
          return (void actions.nest(ids, e.key === 'ArrowRight' ? 'in' : 'out'), true);
        return false;
      }
      const to = steps[e.key];
      if (to !== undefined && !command) return (go(to, how), true);
      if (command && e.key.toLowerCase() === 'a') return (chooseAll(), true);
      if (!at) return false;
      if (command && e.key.toLowerCase() === 'g') return (void actions.gather(ids), true);
      if (command && e.key.toLowerCase() === 'd') return (void actions.duplicate(at), true);
      if (e.key === 'F2') return (onRename(at), true);
      if (e.key === ' ' && on) return (choose(at, 'add'), true);
      if (e.key === 'Enter' && on) return (onOpen(at), true);
      if (e.key === 'Delete')
        return (void actions.remove(ids, facts.get(at)?.heading.label ?? 'The section'), true);
      const edition = book.editions[Number(e.key) - 1];
      const section = book.sections[now];
      if (edition && section && !command)
        return (void actions.carry(ids, edition.id, section.leftOut.includes(edition.id)), true);
      return false;
    })();
    if (done) e.preventDefault();
  };
  const items = rows.getVirtualItems();
  const above = items[0]?.start ?? 0;
  const below = rows.getTotalSize() - (items.at(-1)?.end ?? 0);
  const width = 6 + book.editions.length;
  return (
    <ContextMenu
      items={menuOf(selection, book, facts, actions, onRename, onOpen)}
      onOpen={(el) => {
        const id = el.closest('[data-section]')?.getAttribute('data-section');
        if (id && !chosen.has(id)) choose(id);
      }}
    >
      <div
        ref={scroller}
        className="min-h-0 min-w-0 flex-1 overflow-auto bg-sheet"
        tabIndex={0}
        role="group"
        aria-label="Running order. Arrow keys choose a section, with Shift several; Alt and an arrow move them, or put them into a part and out of it; F2 renames; Delete removes."
        onKeyDown={keys}
      >
        <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
          <SortableContext items={order} strategy={verticalListSortingStrategy}>
            {/*
             * Not ui/Table: rows of three kinds are drawn only in sight, dragged as one list and crossed by lanes; nothing is
             * sorted, since the order is the book's own.
             */}
            <table
              role="grid"
              aria-multiselectable="true"
              aria-rowcount={lines.length}
              aria-label="Sections of the book"
              className="w-full min-w-[640px] border-collapse"
              style={{ tableLayout: 'fixed' }}
            >
              <colgroup>
                <col className="w-[26px]" />
                <col className="w-[158px] max-[1199px]:w-[124px]" />
                <col />
                <col className="w-[88px]" />
                <col className="w-[128px] max-[1199px]:w-[70px]" />
                {book.editions.map((e) => (
                  <col key={e.id} className="w-[78px] max-[1199px]:w-[66px]" />
                ))}
                <col className="w-[130px] max-[1199px]:w-[84px]" />
              </colgroup>
              <thead className="sticky top-0 z-10 bg-sheet">
                <tr className="h-8 border-b border-edge text-left">
                  <th scope="col">
                    <span className="sr-only">Move</span>
                  </th>
                  {['Kind', 'Title', 'Starts on', 'Words'].map((name) => (
                    <th key={name} scope="col" className="column-head px-2">
                      {name}
                    </th>
                  ))}
                  {book.editions.map((e) => (
                    <th key={e.id} scope="col" className="column-head truncate text-center">
                      {e.name}
                    </th>
                  ))}
                  <th scope="col" className="column-head px-2">
                    Findings
                  </th>
                </tr>
              </thead>
              <tbody>
                {above > 0 ? (
                  <tr aria-hidden style={{ height: above }}>
                    <td colSpan={width} />
                  </tr>
                ) : null}
                {items.map(({ index }) => {
                  const l = lines[index];
                  if (!l) return null;
                  if (l.type === 'matter')
                    return (
                      <tr key={`m${l.name}${index}`} className="h-8 border-b border-rule bg-table">
                        <th colSpan={5} scope="rowgroup" className="column-head px-3 text-left">
                          {l.name}
                        </th>
                        <Lanes lines={lines} at={index} editions={book.editions} carried={carried} />
                        <td />
                      </tr>
                    );
                  if (l.type === 'absent')
                    return (
                      <tr key={`a${l.kind}`} className="h-8 border-b border-rule text-ink-soft">
                        <td />
                        <td className="truncate px-2 italic">{kindRule(l.kind).label}</td>
                        <td className="px-2 italic" colSpan={3}>
                          not in the book{' '}
                          <button
                            type="button"
                            className="ml-2 not-italic underline hover:text-ink"
                            onClick={() => void actions.addAtItsPlace(l.kind)}
                          >
                            Add it
                          </button>
                        </td>
                        <Lanes lines={lines} at={index} editions={book.editions} carried={carried} />
                        <td />
                      </tr>
                    );
                  return (
                    <Row
                      key={l.section.id}
                      section={l.section}
                      facts={facts.get(l.section.id) as RowFacts}
                      editions={book.editions}
                      lanes={carried.map((c) => ({
                        carried: c.has(l.section.id),
                        up: laneRuns(lines, index, c, -1),
                        down: laneRuns(lines, index, c, 1),
                      }))}
                      chosen={chosen.has(l.section.id)}
                      renaming={renaming === l.section.id}
                      actions={actions}
                      onChoose={choose}
                      onRename={onRename}
                      onKind={(id, kind) => void actions.kind(concerned(id), kind)}
                      onCarry={(id, edition, carried) => void actions.carry(concerned(id), edition, carried)}
                    />
                  );
                })}
                {below > 0 ? (
                  <tr aria-hidden style={{ height: below }}>
                    <td colSpan={width} />
                  </tr>
                ) : null}
              </tbody>
            </table>
          </SortableContext>
        </DndContext>
      </div>
    </ContextMenu>
  );
}

/** What the right button offers for the chosen sections: as above the ledger, with its keys. */
function menuOf(
  { ids }: Selection,
  book: Book,
  facts: ReadonlyMap<string, RowFacts>,
  actions: Actions,
  onRename: (id: string) => void,
  onOpen: (id: string) => void,
): (MenuItem | 'line')[] {
  const one = ids.length === 1 ? book.sections.find((s) => s.id === ids[0]) : undefined;
  const [first] = ids;
  if (first === undefined) return [];
  const nested = book.sections.some((s) => ids.includes(s.id) && s.parent !== null);
  return [
    { name: 'Open text', keys: 'Enter', disabled: !one, run: () => one && onOpen(one.id) },
    { name: 'Rename', keys: 'F2', disabled: !one, run: () => one && onRename(one.id) },
    { name: 'Duplicate', keys: 'Ctrl+D', disabled: !one, run: () => one && void actions.duplicate(one.id) },
    {
      name: 'Join with previous',
      disabled: !one || book.sections[0] === one,
      run: () => one && void actions.join(one.id),
    },
    'line',
    { name: 'Move up', keys: 'Alt+↑', run: () => void actions.moveBy(ids, -1) },
    { name: 'Move down', keys: 'Alt+↓', run: () => void actions.moveBy(ids, 1) },
    { name: 'Gather into a part', keys: 'Ctrl+G', run: () => void actions.gather(ids) },
    nested
      ? { name: 'Out of the part', keys: 'Alt+←', run: () => void actions.nest(ids, 'out') }
      : { name: 'Into the part above', keys: 'Alt+→', run: () => void actions.nest(ids, 'in') },
    'line',
    {
      name: 'Delete',
      keys: 'Delete',
      run: () => void actions.remove(ids, facts.get(first)?.heading.label ?? 'The section'),
    },
  ];
}
