'use client';
/** One section in the ledger. */
import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { GripVertical } from 'lucide-react';
import { memo, useEffect, useRef, type MouseEvent } from 'react';
import { kindRule, type Edition, type Section, type SectionKind } from '@pagina/core/book';
import type { Finding } from '@pagina/core/base';
import { Popover } from '@/ui/Popover';
import { SeverityMark } from '@/ui/SeverityMark';
import { Switch } from '@/ui/Switch';
import type { Actions } from './actions';
import type { RowFacts } from './facts';
import { KindPicker } from './KindPicker';

interface Props {
  section: Section;
  facts: RowFacts;
  editions: readonly Edition[];
  /** For each edition whether it carries the section, and whether its lane runs on above and below. */
  lanes: readonly { carried: boolean; up: boolean; down: boolean }[];
  chosen: boolean;
  renaming: boolean;
  actions: Actions;
  onChoose: (id: string, how: 'only' | 'extend' | 'add') => void;
  onRename: (id: string | null) => void;
  /** Changes what concerns this row, or all chosen rows when it is one of them. */
  onKind: (id: string, kind: SectionKind) => void;
  onCarry: (id: string, edition: string, carried: boolean) => void;
}

const howOf = (e: MouseEvent): 'only' | 'extend' | 'add' =>
  e.shiftKey ? 'extend' : e.ctrlKey || e.metaKey ? 'add' : 'only';

export const Row = memo(function Row(p: Props) {
  const { section: s, facts } = p;
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: s.id });
  const rule = kindRule(s.kind);
  const shown = facts.heading;
  return (
    <tr
      ref={setNodeRef}
      data-section={s.id}
      data-kind={s.kind}
      aria-selected={p.chosen}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      onClick={(e) => {
        if (
          !(e.target instanceof Element) ||
          (e.currentTarget.contains(e.target) && !e.target.closest('button, input'))
        )
          p.onChoose(s.id, howOf(e));
      }}
      className={`group h-8 border-b select-none border-rule ${p.chosen ? 'bg-[color-mix(in_srgb,var(--spruce)_9%,var(--sheet))]' : ''} ${isDragging ? 'relative z-10 bg-table' : ''}`}
    >
      <td className="text-center">
        <button
          type="button"
          className="cursor-grab text-ink-soft"
          aria-label={`Move ${shown.label}`}
          {...attributes}
          {...listeners}
        >
          <GripVertical size={14} aria-hidden />
        </button>
      </td>
      <td className="px-2" style={{ paddingLeft: 8 + facts.depth * 16 }}>
        <KindPicker
          label={`Kind of ${shown.label}`}
          kind={s.kind}
          onKind={(kind) => p.onKind(s.id, kind)}
          className="h-7 w-full border-transparent bg-transparent pl-1 group-hover:border-edge focus:border-edge"
        />
      </td>
      <td
        className="truncate px-2"
        style={{ paddingLeft: 8 + facts.depth * 16 }}
        onDoubleClick={() => p.onRename(s.id)}
      >
        {p.renaming ? (
          <Rename
            section={s}
            onDone={(fields) => {
              p.onRename(null);
              if (fields) void p.actions.rename(s.id, fields);
            }}
          />
        ) : (
          <span className="font-serif text-[15px]">
            {shown.number ? (
              <span className="text-ink-soft">
                {shown.number}
                {shown.title ? ' · ' : ''}
              </span>
            ) : null}
            {shown.title ||
              (shown.number ? '' : <em className="text-ink-soft">{rule.label.toLowerCase()}</em>)}
            {shown.subtitle ? <em className="text-ink-soft"> {shown.subtitle}</em> : null}
            {facts.made ? (
              <span className="ml-2 font-sans text-[12px] text-ink-soft">
                {facts.made === 'record' ? 'from the record' : 'written by hand'}
              </span>
            ) : null}
          </span>
        )}
      </td>
      <td className="truncate px-2 text-ink-soft">
        {facts.label ? (
          <span>
            {facts.label} <span className="text-[12px]">{facts.side === 'recto' ? 'right' : 'left'}</span>
          </span>
        ) : facts.label === '' ? (
          <span className="text-[12px]">left out</span>
        ) : null}
      </td>
      <td className="px-2">
        <span className="flex items-center gap-2">
          <span className="w-12 text-right">{facts.words.toLocaleString('en-GB')}</span>
          <span aria-hidden className="h-1.5 flex-1 bg-table max-[1199px]:hidden">
            <span className="block h-1.5 bg-edge" style={{ width: `${Math.round(facts.share * 100)}%` }} />
          </span>
        </span>
      </td>
      {p.editions.map((e, i) => {
        const { carried, up, down } = p.lanes[i] ?? { carried: false, up: false, down: false };
        // Beyond its end a sample has nothing to be carried; a fixed layout shows what its print edition carries.
        const beyond = e.form === 'fixed' || (!carried && !s.leftOut.includes(e.id));
        return (
          <td key={e.id} className="relative h-8 p-0">
            <Switch
              label={`${e.name} carries ${shown.label}`}
              on={carried}
              disabled={beyond}
              onSet={(on) => p.onCarry(s.id, e.id, on)}
              className="relative block h-8 w-full"
            >
              {carried && up ? (
                <span
                  aria-hidden
                  className="absolute top-0 left-1/2 h-1/2 w-[2px] -translate-x-1/2 bg-spruce"
                />
              ) : null}
              {carried && down ? (
                <span
                  aria-hidden
                  className="absolute bottom-0 left-1/2 h-1/2 w-[2px] -translate-x-1/2 bg-spruce"
                />
              ) : null}
              <span
                aria-hidden
                className={`absolute top-1/2 left-1/2 -translate-x-1/2 -translate-y-1/2 ${carried ? 'h-[9px] w-[9px] bg-spruce' : 'h-[2px] w-[12px] bg-edge'}`}
              />
            </Switch>
          </td>
        );
      })}
      <td className="truncate px-2 text-[13px] text-rubric">
        <Findings of={facts.findings} label={shown.label} />
      </td>
    </tr>
  );
});

/** What was found in a section: its own words where it is one thing, a count that opens where they are several. */
function Findings({ of: findings, label }: { of: readonly Finding[]; label: string }) {
  if (findings.length === 0) return null;
  return (
    <Popover
      label={`Findings in ${label}`}
      className="w-80 p-3 text-[13px]"
      trigger={
        <button type="button" className="max-w-full truncate hover:underline">
          {findings.length === 1 ? findings[0]?.message : `${findings.length} findings`}
        </button>
      }
    >
      <ul className="space-y-2">
        {findings.map((f, i) => (
          <li key={i}>
            <SeverityMark severity={f.severity} /> {f.message}
            {f.remedy ? <span className="block text-ink-soft">{f.remedy}</span> : null}
          </li>
        ))}
      </ul>
    </Popover>
  );
}

/** Title and subtitle in place: Enter keeps, Escape leaves. */
function Rename({
  section,
  onDone,
}: {
  section: Section;
  onDone: (fields: { title?: string; subtitle?: string } | null) => void;
}) {
  const title = useRef<HTMLInputElement>(null);
  const subtitle = useRef<HTMLInputElement>(null);
  const ended = useRef(false);
  useEffect(() => title.current?.select(), []);
  const end = (keep: boolean): void => {
    if (ended.current) return;
    ended.current = true;
    const fields = {
      title: title.current?.value.trim() ?? '',
      subtitle: subtitle.current?.value.trim() ?? '',
    };
    onDone(keep && (fields.title !== section.title || fields.subtitle !== section.subtitle) ? fields : null);
  };
  const keys = (e: React.KeyboardEvent): void => {
    e.stopPropagation();
    if (e.key === 'Enter') end(true);
    if (e.key === 'Escape') end(false);
  };
  return (
    // In a field the right button has the browser's own menu: paste, and what the spelling suggests.
    <span
      className="flex gap-2"
      onContextMenu={(e) => e.stopPropagation()}
      onBlur={(e) => e.currentTarget.contains(e.relatedTarget) || end(true)}
    >
      <input
        ref={title}
        aria-label="Title"
        defaultValue={section.title}
        placeholder="Title"
        onKeyDown={keys}
        className="h-7 min-w-0 flex-1 border border-edge bg-sheet px-1.5 font-serif text-[15px]"
      />
      <input
        ref={subtitle}
        aria-label="Subtitle"
        defaultValue={section.subtitle}
        placeholder="Subtitle"
        onKeyDown={keys}
        className="h-7 min-w-0 flex-1 border border-edge bg-sheet px-1.5 font-serif text-[15px]"
      />
    </span>
  );
}
