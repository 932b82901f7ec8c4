'use client';
/** What an outlet asks for, in the order of its own pages: fields are added, moved, named as it names them, and limited. */
import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { GripVertical, X } from 'lucide-react';
import { FIELDS_IN_ORDER, OUTLET_FIELDS, type OutletField, type OwnOutlet } from '@pagina/core/outlets';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/Checkbox';
import { Picker } from '@/ui/Picker';
import { Select } from '@/ui/Select';
import { Text } from '@/ui/Text';

type Asks = OwnOutlet['asks'];
type OwnAsk = Asks[number];

/** Choices that only an outlet of Pagina's own offers. */
const NOT_OFFERED: readonly OutletField[] = ['shops', 'plan', 'exclusive', 'preorder'];
/** Fields whose length or number an outlet limits. */
const LIMITED: Partial<Record<OutletField, string>> = {
  title: 'characters',
  subtitle: 'characters',
  description: 'characters',
  shortDescription: 'characters',
  keywords: 'keywords',
  subjects: 'subjects',
};
const MARKUP = [
  { value: 'none', name: 'Without markup' },
  { value: 'taken', name: 'With markup' },
  { value: 'counted', name: 'With markup, which counts' },
] as const;
const NAMES = [
  { value: 'one', name: 'One line for a name' },
  { value: 'two', name: 'Two lines for a name' },
] as const;
const BETWEEN = [
  { value: ', ', name: 'Commas between' },
  { value: '; ', name: 'Semicolons between' },
  { value: 'one by one', name: 'One by one' },
] as const;

export function OwnAsks({ asks, onChange }: { asks: Asks; onChange: (asks: Asks) => void }) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const moved = ({ active, over }: DragEndEvent): void => {
    const from = asks.findIndex((a) => a.field === active.id);
    const to = asks.findIndex((a) => a.field === over?.id);
    if (from >= 0 && to >= 0 && from !== to) onChange(arrayMove([...asks], from, to));
  };
  const left = FIELDS_IN_ORDER.filter((f) => !NOT_OFFERED.includes(f) && !asks.some((a) => a.field === f));
  return (
    <>
      <div
        role="group"
        aria-label="It asks for"
        className="max-h-[230px] overflow-auto border-y border-rule"
        tabIndex={0}
      >
        <DndContext sensors={sensors} onDragEnd={moved}>
          <SortableContext items={asks.map((a) => a.field)} strategy={verticalListSortingStrategy}>
            <ul>
              {asks.map((a) => (
                <Row
                  key={a.field}
                  asked={a}
                  onChange={(fields) =>
                    onChange(asks.map((x) => (x.field === a.field ? { ...x, ...fields } : x)))
                  }
                  onRemove={() => onChange(asks.filter((x) => x.field !== a.field))}
                />
              ))}
            </ul>
          </SortableContext>
        </DndContext>
      </div>
      <Picker
        label="Add what it asks for"
        placeholder="Add what it asks for"
        className="w-64"
        value={null}
        choices={left.map((f) => ({ value: f, name: OUTLET_FIELDS[f] }))}
        onChoose={(field) => onChange([...asks, { field, called: '', need: 'needed' }])}
      />
    </>
  );
}

function Row({
  asked: a,
  onChange,
  onRemove,
}: {
  asked: OwnAsk;
  onChange: (fields: Partial<OwnAsk>) => void;
  onRemove: () => void;
}) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({
    id: a.field,
  });
  const name = OUTLET_FIELDS[a.field];
  const limit = LIMITED[a.field];
  return (
    <li
      ref={setNodeRef}
      data-asked-field={a.field}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`grid grid-cols-[20px_minmax(0,1fr)_150px_84px_28px] items-center gap-x-2 border-b border-rule py-1 last:border-b-0 ${isDragging ? 'relative z-10 bg-table' : ''}`}
    >
      <button
        type="button"
        className="cursor-grab text-ink-soft"
        aria-label={`Move ${name}`}
        {...attributes}
        {...listeners}
      >
        <GripVertical size={14} aria-hidden />
      </button>
      <span className="truncate">{name}</span>
      <Text
        aria-label={`${name} is called there`}
        placeholder="called there"
        value={a.called}
        maxLength={80}
        onCommit={(called) => onChange({ called })}
      />
      <Checkbox
        label="needed"
        on={a.need === 'needed'}
        onSet={(on) => onChange({ need: on ? 'needed' : 'optional' })}
      />
      <Button kind="quiet" className="h-7 px-1" aria-label={`Remove ${name}`} onClick={onRemove}>
        <X size={14} aria-hidden />
      </Button>
      {limit || a.field === 'authors' ? (
        <span className="col-span-4 col-start-2 mt-1 flex flex-wrap items-center gap-2 text-[13px] text-ink-soft">
          {limit ? (
            <>
              <span className="w-20">
                <Text
                  aria-label={`${name}, ${limit} at most`}
                  value={a.most === undefined ? '' : String(a.most)}
                  maxLength={6}
                  onCommit={(v) => onChange({ most: /^\d+$/.test(v) ? Number(v) : undefined })}
                />
              </span>
              {limit} at most
            </>
          ) : null}
          {a.field === 'description' ? (
            <Select
              label="Markup of the description"
              value={a.markup ?? 'none'}
              choices={MARKUP}
              onChoose={(m) => onChange({ markup: m === 'none' ? undefined : m })}
            />
          ) : null}
          {a.field === 'keywords' ? (
            <Select
              label="How keywords are entered"
              value={BETWEEN.find((b) => b.value === a.between)?.value ?? 'one by one'}
              choices={BETWEEN}
              onChoose={(b) => onChange({ between: b === 'one by one' ? undefined : b })}
            />
          ) : null}
          {a.field === 'authors' ? (
            <Select
              label="How names are entered"
              value={a.as === 'two' ? 'two' : 'one'}
              choices={NAMES}
              onChoose={(as) => onChange({ as })}
            />
          ) : null}
        </span>
      ) : null}
    </li>
  );
}
