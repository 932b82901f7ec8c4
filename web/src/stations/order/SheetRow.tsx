'use client';
/** One line of the intake sheet: what stood in the manuscript, how it was read and why, and what can be changed. */
import { useState } from 'react';
import { countWords } from '@pagina/core/base';
import { kindRule, onOneLine, type Arrival, type Section, type SectionKind } from '@pagina/core/book';
import type { Heading } from '@pagina/core/order';
import { KindPicker } from './KindPicker';
import { PlacesToSplit } from './PlacesToSplit';

type Row = Arrival['rows'][number];

/** How sure a reading is, in a word; from the score of recognition. */
export const sureness = (score: number): 'certain' | 'likely' | 'doubtful' =>
  score >= 8 ? 'certain' : score >= 3.4 ? 'likely' : 'doubtful';
const MARKS = { certain: '■', likely: '◧', doubtful: '□' };

export function SheetRow({
  section: s,
  row,
  heading,
  first,
  depth,
  others,
  onKind,
  onOthers,
  onJoin,
  partAbove,
  onNest,
  onDivide,
  after,
}: {
  section: Section;
  row: Row | null;
  heading: Heading;
  first: boolean;
  /** Parts it stands in. */
  depth: number;
  others: number;
  onKind: (kind: SectionKind) => void;
  onOthers: () => void;
  onJoin: () => void;
  /** Whether a part stands above that it could go into. */
  partAbove: boolean;
  onNest: (way: 'in' | 'out') => void;
  onDivide: (block: string) => void;
  /** What stands before it, where the row is shown away from its place. */
  after?: string;
}) {
  const [dividing, setDividing] = useState(false);
  const sure = row ? sureness(row.score) : 'certain';
  const words = countWords(s.content.textBetween(0, s.content.content.size, ' ', ' '));
  const ink = sure === 'doubtful' ? 'text-ochre' : 'text-ink-soft';
  return (
    <>
      <p className="truncate border-t border-rule px-4 py-2 font-serif">
        {row ? (
          row.typed || <em className="text-ink-soft">a picture</em>
        ) : (
          <em className="text-ink-soft">
            {onOneLine(s.content) ? onOneLine(s.content).slice(0, 90) : 'not in it'}
          </em>
        )}
      </p>
      <span className="relative border-t border-rule" aria-hidden>
        {row ? (
          <span
            className={`absolute top-[18px] right-0 left-0 border-t ${sure === 'doubtful' ? 'border-dashed border-ochre' : 'border-spruce'}`}
          />
        ) : null}
      </span>
      <div
        className="border-t border-rule py-1 pr-2"
        style={{ paddingLeft: 8 + depth * 20 }}
        data-intake={s.id}
        data-kind={s.kind}
        data-depth={depth}
      >
        <div className="flex items-center gap-3">
          <KindPicker label={`Kind of ${heading.label}`} kind={s.kind} onKind={onKind} className="h-7 w-40" />
          <span className="min-w-0 truncate font-serif text-[15px]">
            {heading.number ? <span className="text-ink-soft">{heading.number} </span> : null}
            {heading.title ||
              (heading.number ? (
                ''
              ) : (
                <em className="text-ink-soft">{kindRule(s.kind).label.toLowerCase()}</em>
              ))}
          </span>
          <span className="ml-auto whitespace-nowrap text-ink-soft">
            {words === 1 ? '1 word' : `${words.toLocaleString('en-GB')} words`}
          </span>
        </div>
        <div className="flex items-baseline gap-3 text-[13px]">
          {row ? (
            <p className={ink}>
              <span aria-hidden>{MARKS[sure]}</span> {sure}: {row.reason}
              {after ? `; it follows “${after}”` : ''}
            </p>
          ) : null}
          {others > 0 ? (
            <button type="button" className="whitespace-nowrap text-spruce underline" onClick={onOthers}>
              The same for {others === 1 ? 'the other one' : `the ${others} others`}
            </button>
          ) : null}
          <span className="ml-auto flex gap-3 whitespace-nowrap">
            {s.matter === 'body' && (depth > 0 || (partAbove && s.kind !== 'part')) ? (
              <Action onClick={() => onNest(depth > 0 ? 'out' : 'in')}>
                {depth > 0 ? 'Out of the part' : 'Into the part above'}
              </Action>
            ) : null}
            {s.content.childCount > 1 ? (
              <Action onClick={() => setDividing(!dividing)} expanded={dividing}>
                Split
              </Action>
            ) : null}
            {first ? null : <Action onClick={onJoin}>Join with previous</Action>}
          </span>
        </div>
        {dividing ? (
          <PlacesToSplit
            section={s}
            onSplit={(block) => {
              setDividing(false);
              onDivide(block);
            }}
          />
        ) : null}
      </div>
    </>
  );
}

function Action({
  children,
  expanded,
  onClick,
}: {
  children: string;
  expanded?: boolean;
  onClick: () => void;
}) {
  return (
    <button
      type="button"
      aria-expanded={expanded}
      className="underline decoration-rule hover:text-spruce"
      onClick={onClick}
    >
      {children}
    </button>
  );
}
