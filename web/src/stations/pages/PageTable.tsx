'use client';
/** The table of picture pages: a row a page, moved by drag or by keyboard. */
import { useEffect, useMemo, useRef, type KeyboardEvent, type MouseEvent } from 'react';
import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { GripVertical } from 'lucide-react';
import { PageCanvas } from '@/strip/PageCanvas';
import type { Composed } from '@/workers/messages';
import { LAYOUT_NAMES, type PageFacts } from './facts';
import type { PageWork } from './work';
import type { Selection } from '../order/selection';

/** Height of a page in the table, in pixels. */
const THUMB = 44;

export function PageTable({
  facts,
  selection,
  work,
  composed,
}: {
  facts: readonly PageFacts[];
  selection: Selection;
  work: PageWork;
  composed: Composed | null;
}) {
  const order = useMemo(() => facts.map((f) => f.id), [facts]);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const table = useRef<HTMLDivElement>(null);
  const { at, ids, chosen, choose, chooseAll } = selection;
  useEffect(() => {
    const row =
      at === null ? null : table.current?.querySelector(`[data-page-row="${window.CSS.escape(at)}"]`);
    row?.scrollIntoView({ block: 'nearest' });
  }, [at]);
  const drop = ({ active, over }: DragEndEvent): void => {
    if (!over || active.id === over.id) return;
    const [from, to] = [order.indexOf(String(active.id)), order.indexOf(String(over.id))];
    void work.move(chosen.has(String(active.id)) ? ids : [String(active.id)], from < to ? to + 1 : to);
  };
  const keys = (e: KeyboardEvent): void => {
    if (e.target !== e.currentTarget) return;
    const now = at === null ? -1 : order.indexOf(at);
    const command = e.ctrlKey || e.metaKey;
    const [first = 0, last = 0] = [order.indexOf(ids[0] ?? ''), order.indexOf(ids.at(-1) ?? '')];
    const steps: Record<string, number> = {
      ArrowDown: now + 1,
      ArrowUp: now - 1,
      Home: 0,
      End: order.length - 1,
    };
    const done = ((): boolean => {
      if (e.altKey && e.key === 'ArrowUp' && first > 0) return (void work.move(ids, first - 1), true);
      if (e.altKey && e.key === 'ArrowDown' && last < order.length - 1)
        return (void work.move(ids, last + 2), true);
      if (e.altKey) return false;
      const to = steps[e.key];
      const next = to === undefined ? undefined : order[Math.max(0, Math.min(order.length - 1, to))];
      if (next && !command) return (choose(next, e.shiftKey ? 'extend' : 'only'), true);
      if (command && e.key.toLowerCase() === 'a') return (chooseAll(), true);
      if (ids.length === 0) return false;
      if (command && e.key.toLowerCase() === 'd') return (void work.duplicate(ids), true);
      if (e.key === 'Delete') return (void work.remove(ids), true);
      return false;
    })();
    if (done) e.preventDefault();
  };
  return (
    <div
      ref={table}
      tabIndex={0}
      role="group"
      aria-label="Pages. Arrow keys choose a page, with Shift several; Alt and an arrow move them; Ctrl+D duplicates; Delete removes."
      onKeyDown={keys}
      className="h-full overflow-auto bg-sheet"
    >
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
        <SortableContext items={order} strategy={verticalListSortingStrategy}>
          {/* Not ui/Table: its rows are dragged, and nothing is sorted, since the order is the book's own. */}
          <table
            className="w-full border-collapse"
            style={{ tableLayout: 'fixed' }}
            aria-label="Picture pages"
          >
            <colgroup>
              <col className="w-[24px]" />
              <col className="w-[66px]" />
              <col className="w-[100px]" />
              <col />
            </colgroup>
            <thead className="sticky top-0 z-10 bg-sheet">
              <tr className="h-8 border-b border-edge text-left">
                <th scope="col">
                  <span className="sr-only">Move</span>
                </th>
                {['Page', 'As printed', 'Words and layout'].map((name) => (
                  <th key={name} scope="col" className="column-head px-2">
                    {name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {facts.map((f) => (
                <Row
                  key={f.id}
                  facts={f}
                  chosen={chosen.has(f.id)}
                  composed={composed}
                  onChoose={(how) => {
                    choose(f.id, how);
                    table.current?.focus({ preventScroll: true });
                  }}
                />
              ))}
            </tbody>
          </table>
        </SortableContext>
      </DndContext>
    </div>
  );
}
const howOf = (e: MouseEvent): 'only' | 'extend' | 'add' =>
  e.shiftKey ? 'extend' : e.ctrlKey || e.metaKey ? 'add' : 'only';

function Row({
  facts: f,
  chosen,
  composed,
  onChoose,
}: {
  facts: PageFacts;
  chosen: boolean;
  composed: Composed | null;
  onChoose: (how: 'only' | 'extend' | 'add') => void;
}) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: f.id });
  const width = composed ? (THUMB * composed.width) / composed.height : THUMB;
  const name = `page ${f.label || 'not set yet'}`;
  return (
    <tr
      ref={setNodeRef}
      data-page-row={f.id}
      aria-selected={chosen}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      onClick={(e) => onChoose(howOf(e))}
      className={`border-b border-rule select-none ${chosen ? 'bg-[color-mix(in_srgb,var(--spruce)_9%,var(--sheet))]' : ''} ${isDragging ? 'relative z-10 bg-table' : ''}`}
    >
      <td className="text-center">
        <button
          type="button"
          className="cursor-grab text-ink-soft"
          aria-label={`Move ${name}`}
          {...attributes}
          {...listeners}
        >
          <GripVertical size={14} aria-hidden />
        </button>
      </td>
      <td className="px-2">
        {f.label}
        <span className="block text-[12px] text-ink-soft">{f.hand === 'both' ? 'spread' : f.hand}</span>
      </td>
      <td className="px-2 py-1">
        <span className="flex">
          {f.pages.map((p) => (
            <span key={p} className="border border-rule">
              <PageCanvas page={p} width={width} />
            </span>
          ))}
        </span>
      </td>
      <td className="px-2">
        <span className="block truncate font-serif text-[15px]">
          {f.words || <em className="text-ink-soft">no words</em>}
        </span>
        <span className="block truncate text-[12px] text-ink-soft">
          {f.layout ? LAYOUT_NAMES[f.layout] : 'Own layout'}
          {f.state ? <span className="ml-2 text-ochre">▲ {f.state}</span> : null}
        </span>
      </td>
    </tr>
  );
}
