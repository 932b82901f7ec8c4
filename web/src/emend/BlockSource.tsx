'use client';
/** The source of one passage, beneath it. */
import type { Ref } from 'react';
import type { Located, Span } from '@pagina/core/emend';
import { Button } from '@/ui/Button';
import { lineOf } from './lines';
import { wordsFor } from './passage';
import { SourceEditor, type SourceFault, type Typed } from './SourceEditor';

export function BlockSource({
  path,
  text,
  span,
  element,
  faults,
  wrong,
  cursor,
  lineEnd,
  divide,
  onStep,
  onType,
  onUndo,
  onWhole,
  onClose,
  ref,
}: {
  path: string;
  text: string;
  span: Span;
  element: Located | undefined;
  /** With places in the whole source. */
  faults: readonly SourceFault[];
  /** Why the page shows it as it was; null while it shows it as it is. */
  wrong: string | null;
  cursor: { at: number } | null;
  lineEnd: string;
  /** Divides the document before it; null where it can’t be. */
  divide: (() => void) | null;
  onStep: (by: 1 | -1) => void;
  /** With places in the whole source. */
  onType: (typed: readonly Typed[]) => void;
  onUndo: (redo: boolean) => void;
  onWhole: () => void;
  onClose: () => void;
  ref: Ref<HTMLDivElement>;
}) {
  const source = text.slice(span.from, span.to);
  const line = lineOf(text, span.from);
  const within = faults.filter((f) => f.at >= span.from && f.at <= span.to);
  const name = element ? wordsFor(element) : 'Passage';
  return (
    <div
      ref={ref}
      className="border-y-2 border-spruce bg-sheet"
      role="group"
      aria-label="Source of the passage"
    >
      <div className="flex h-8 items-center gap-1 border-b border-rule px-2 text-[13px] whitespace-nowrap">
        <span className="min-w-0 truncate text-ink-soft">
          {name}, line {line}
        </span>
        <span className="ml-auto" />
        <Button
          kind="quiet"
          className="h-6 px-2"
          onClick={() => onStep(-1)}
          tip="The passage before it (Alt+↑)"
        >
          Previous
        </Button>
        <Button
          kind="quiet"
          className="h-6 px-2"
          onClick={() => onStep(1)}
          tip="The passage after it (Alt+↓)"
        >
          Next
        </Button>
        <Button
          kind="quiet"
          className="h-6 px-2"
          disabled={divide === null}
          onClick={() => divide?.()}
          tip="From here on, the text gets a document of its own"
        >
          Divide here
        </Button>
        <Button kind="quiet" className="h-6 px-2" onClick={onWhole}>
          Whole source
        </Button>
        <Button kind="quiet" className="h-6 px-2" onClick={onClose} tip="Esc">
          Close
        </Button>
      </div>
      <div
        onKeyDown={(e) => {
          if (!e.altKey || (e.key !== 'ArrowDown' && e.key !== 'ArrowUp')) return;
          e.preventDefault();
          onStep(e.key === 'ArrowDown' ? 1 : -1);
        }}
      >
        <SourceEditor
          key={path}
          label="Source"
          language="xml"
          source={source}
          lineEnd={lineEnd}
          firstLine={line}
          faults={within.map((f) => ({ ...f, at: f.at - span.from }))}
          cursor={cursor}
          className="max-h-72 overflow-auto"
          onType={(typed) => onType(typed.map((t) => ({ ...t, at: t.at + span.from })))}
          onUndo={onUndo}
          onLeave={onClose}
        />
      </div>
      {wrong ? (
        <p role="alert" className="border-t border-rule px-3 py-1 text-[13px] text-rubric">
          {wrong}
        </p>
      ) : null}
      {within.map((f, i) => (
        <p key={i} className="border-t border-rule px-3 py-1 text-[13px]">
          <span
            className={
              f.severity === 'blocker'
                ? 'text-rubric'
                : f.severity === 'caution'
                  ? 'text-ochre'
                  : 'text-ink-soft'
            }
          >
            Line {lineOf(text, f.at)}
          </span>
          : {f.message}
        </p>
      ))}
    </div>
  );
}
