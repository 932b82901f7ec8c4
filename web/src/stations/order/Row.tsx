'use client';
/** One section in the ledger. */
import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { GripVertical } from 'lucide-react';
import { useEffect, useRef } from 'react';
import type { Finding } from '@pagina/core/base';
import { kindRule, SECTION_KINDS, type Edition, type Section, type SectionKind } from '@pagina/core/book';
import type { Heading } from '@pagina/core/order';

export interface RowFacts {
  heading: Heading;
  words: number;
  /** Words as a share of the longest section. */
  share: number;
  label: string;
  side: 'recto' | 'verso' | null;
  findings: Finding[];
}

interface Props {
  section: Section;
  facts: RowFacts;
  editions: readonly Edition[];
  neighbours: { above: Section | null; below: Section | null };
  chosen: boolean;
  renaming: boolean;
  onChoose: () => void;
  onRename: () => void;
  onRenamed: (fields: { title?: string; subtitle?: string } | null) => void;
  onKind: (kind: SectionKind) => void;
  onNumbered: (numbered: boolean) => void;
  onToggle: (edition: string) => void;
  onJoin: () => void;
  onRemove: () => void;
  onOpen: () => void;
}

export function Row(p: Props) {
  const { section: s, facts } = p;
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: s.id });
  const rule = kindRule(s.kind);
  const shown = facts.heading;
  return (
    <tr
      ref={setNodeRef}
      data-section={s.id}
      data-kind={s.kind}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      onClick={p.onChoose}
      className={`group h-8 border-b border-rule ${p.chosen ? 'bg-[color-mix(in_srgb,var(--spruce)_9%,var(--sheet))]' : ''} ${isDragging ? 'relative z-10 bg-table' : ''}`}
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
      <td className="px-2" style={{ paddingLeft: s.parent ? 24 : 8 }}>
        <select
          aria-label={`Kind of ${shown.label}`}
          value={s.kind}
          onChange={(e) => p.onKind(e.target.value as SectionKind)}
          className="h-7 w-full truncate rounded-[2px] border border-transparent bg-transparent group-hover:border-edge focus:border-edge"
        >
          {SECTION_KINDS.map((k) => (
            <option key={k} value={k}>
              {kindRule(k).label}
            </option>
          ))}
        </select>
      </td>
      <td className="truncate px-2" onDoubleClick={p.onRename}>
        {p.renaming ? (
          <Rename section={s} onDone={p.onRenamed} />
        ) : (
          <button
            type="button"
            className="max-w-full truncate text-left font-serif text-[15px]"
            onClick={p.onChoose}
            onDoubleClick={p.onRename}
            title="Double click or F2 to rename"
          >
            {shown.number ? (
              <span className="text-ink-soft">
                {shown.number}
                {shown.title ? ' · ' : ''}
              </span>
            ) : null}
            {shown.title ||
              (shown.number ? '' : <em className="text-ink-soft">{rule.label.toLowerCase()}</em>)}
            {shown.subtitle ? <em className="text-ink-soft"> {shown.subtitle}</em> : null}
          </button>
        )}
      </td>
      <td className="px-2 text-ink-soft">
        {facts.label ? (
          <span>
            {facts.label} <span className="text-[12px]">{facts.side === 'recto' ? 'right' : 'left'}</span>
          </span>
        ) : (
          <span className="text-[12px]">left out</span>
        )}
      </td>
      <td className="px-2">
        <span className="flex items-center gap-2">
          <span className="w-14 text-right">{facts.words.toLocaleString('en-GB')}</span>
          <span aria-hidden className="h-1.5 flex-1 bg-table">
            <span className="block h-1.5 bg-edge" style={{ width: `${Math.round(facts.share * 100)}%` }} />
          </span>
        </span>
      </td>
      {p.editions.map((e) => {
        const carried = !s.leftOut.includes(e.id);
        const up = carried && p.neighbours.above !== null && !p.neighbours.above.leftOut.includes(e.id);
        const down = carried && p.neighbours.below !== null && !p.neighbours.below.leftOut.includes(e.id);
        return (
          <td key={e.id} className="relative h-8 p-0">
            <button
              type="button"
              role="switch"
              aria-checked={carried}
              aria-label={`${e.name} carries ${shown.label}`}
              onClick={() => p.onToggle(e.id)}
              className="relative block h-8 w-full"
              title={
                carried
                  ? `The ${e.name.toLowerCase()} carries it`
                  : `The ${e.name.toLowerCase()} leaves it out`
              }
            >
              {up ? (
                <span
                  aria-hidden
                  className="absolute top-0 left-1/2 h-1/2 w-[2px] -translate-x-1/2 bg-spruce"
                />
              ) : null}
              {down ? (
                <span
                  aria-hidden
                  className="absolute bottom-0 left-1/2 h-1/2 w-[2px] -translate-x-1/2 bg-spruce"
                />
              ) : null}
              <span
                aria-hidden
                className={`absolute top-1/2 left-1/2 -translate-x-1/2 -translate-y-1/2 ${carried ? 'h-[9px] w-[9px] bg-spruce' : 'h-[2px] w-[12px] bg-edge'}`}
              />
            </button>
          </td>
        );
      })}
      <td className="px-2 text-right whitespace-nowrap">
        {facts.findings.length > 0 ? (
          <span
            className="mr-1 text-[13px] text-rubric group-focus-within:hidden group-hover:hidden"
            title={facts.findings.map((f) => f.message).join('\n')}
          >
            {facts.findings.length === 1
              ? facts.findings[0]!.message.slice(0, 26)
              : `${facts.findings.length} findings`}
          </span>
        ) : null}
        <span className={`${p.chosen ? 'inline' : 'hidden'} group-focus-within:inline group-hover:inline`}>
          <Action onClick={p.onOpen}>Text</Action>
          {rule.numbered ? (
            <Action onClick={() => p.onNumbered(!s.numbered)}>{s.numbered ? 'No number' : 'Number'}</Action>
          ) : null}
          <Action onClick={p.onJoin} disabled={!p.neighbours.above}>
            Join up
          </Action>
          <Action onClick={p.onRemove}>Delete</Action>
        </span>
      </td>
    </tr>
  );
}

function Action({ children, ...rest }: { children: string; onClick: () => void; disabled?: boolean }) {
  return (
    <button
      type="button"
      className="px-1.5 text-[13px] text-ink-soft underline decoration-rule hover:text-ink disabled:opacity-40"
      {...rest}
    >
      {children}
    </button>
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
    <span className="flex gap-2" onBlur={(e) => e.currentTarget.contains(e.relatedTarget) || end(true)}>
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
