'use client';
/** The bars above and below the text: they follow the cursor without redrawing the text. */
import { useEffect, useReducer, useState } from 'react';
import { TextSelection } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';
import { useBook } from '@/title/context';
import { Checkbox } from '@/ui/Checkbox';
import { Tip } from '@/ui/Tip';
import { Context, type Asking } from './Context';
import { readingTime, wordsIn, wordsOf } from './counts';
import { Styles, type Beside } from './Styles';
import { countWords } from '@pagina/core/base';

/** Tells those who listen that the cursor or the text has moved. */
export class Ticker {
  private readonly listeners = new Set<() => void>();
  listen = (f: () => void): (() => void) => {
    this.listeners.add(f);
    return () => this.listeners.delete(f);
  };
  tick = (): void => {
    for (const f of this.listeners) f();
  };
}

/** Draws again whenever the cursor or the text moves. */
function useTicks(ticker: Ticker): void {
  const [, redraw] = useReducer((n: number) => n + 1, 0);
  useEffect(() => ticker.listen(redraw), [ticker]);
}

/** The bar above the text: styles, marks, what can be put in, and what opens beside it. */
export function Tools({
  ticker,
  view,
  section,
  indexed,
  beside,
  onBeside,
  asking,
  onAsk,
}: {
  ticker: Ticker;
  view: EditorView | null;
  section: string | null;
  indexed: boolean;
  beside: Beside;
  onBeside: (b: Beside) => void;
  asking: Asking;
  onAsk: (what: Asking) => void;
}) {
  useTicks(ticker);
  useEffect(() => {
    const keys = (e: KeyboardEvent): void => {
      if (!(e.ctrlKey || e.metaKey) || !view || view.isDestroyed || !view.hasFocus()) return;
      if (e.altKey && e.key.toLowerCase() !== 'r') return;
      const what = e.altKey
        ? 'reference'
        : e.shiftKey
          ? e.key.toLowerCase() === 'x'
            ? 'indexed'
            : null
          : e.key.toLowerCase() === 'l'
            ? 'link'
            : null;
      if (!what) return;
      e.preventDefault();
      onAsk(what);
    };
    addEventListener('keydown', keys);
    return () => removeEventListener('keydown', keys);
  }, [view, asking, onAsk]);
  return (
    <Styles
      view={view}
      section={section}
      indexed={indexed}
      beside={beside}
      onBeside={onBeside}
      onAsk={onAsk}
    />
  );
}

/** The bar below the text: settings of what the cursor is in, hidden characters, counts. */
export function Foot({
  ticker,
  view,
  asking,
  onAsked,
  showSigns,
  onSigns,
}: {
  ticker: Ticker;
  view: EditorView | null;
  asking: Asking;
  onAsked: () => void;
  showSigns: boolean;
  onSigns: (on: boolean) => void;
}) {
  useTicks(ticker);
  return (
    <div className="no-print flex min-h-9 flex-wrap items-center gap-x-3 border-t border-rule bg-sheet px-4">
      <Context view={view} asking={asking} onAsked={onAsked} />
      <span className="ml-auto" />
      <Checkbox
        className="shrink-0 text-[13px] whitespace-nowrap text-ink-soft"
        label="Hidden characters"
        on={showSigns}
        onSet={onSigns}
      />
      <Counts view={view} />
    </div>
  );
}

/** How long typing must rest before the book's words are counted, in milliseconds. */
const COUNT_AFTER = 250;

function Counts({ view }: { view: EditorView | null }) {
  const { book } = useBook();
  const n = (x: number): string => x.toLocaleString('en-GB');
  const state = view && !view.isDestroyed ? view.state : null;
  const { from, to } = state?.selection instanceof TextSelection ? state.selection : { from: 0, to: 0 };
  const [all, setAll] = useState<number | null>(null);
  useEffect(() => {
    const timer = setTimeout(() => setAll(wordsIn(book)), COUNT_AFTER);
    return () => clearTimeout(timer);
  }, [book]);
  const chosen = state && from < to ? countWords(state.doc.textBetween(from, to, ' ', ' ')) : null;
  const parts = [
    chosen === null ? '' : `${n(chosen)} ${chosen === 1 ? 'word' : 'words'} chosen`,
    state ? `${n(wordsOf(state.doc))} in the section` : '',
    all === null ? '' : `${n(all)} words, ${readingTime(all)} to read`,
  ];
  return (
    <Tip words={parts.filter(Boolean).join(' · ')}>
      <span className="min-w-0 truncate text-[13px] text-ink-soft" data-counts>
        {parts.filter(Boolean).join(' · ')}
      </span>
    </Tip>
  );
}
