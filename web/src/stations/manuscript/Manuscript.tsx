'use client';
/** The manuscript: the text of the whole book, continuous; print's folio and line in the left margin, notes and findings in the right. */
import { useSearchParams } from 'next/navigation';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { EditorView } from 'prosemirror-view';
import type { Finding } from '@pagina/core/base';
import { sectionsIn } from '@pagina/core/book';
import { hasText, headingsOf, isFromRecord } from '@pagina/core/order';
import { useBook, useTitle } from '@/title/context';
import { useFindings } from '@/title/findings';
import { Panes } from '@/ui/Panes';
import { useAnchoredText } from './anchor';
import { Foot, Ticker, Tools } from './Bars';
import type { Asking } from './Context';
import { Find } from './Find';
import { IndexPane } from './IndexPane';
import { Outline } from './Outline';
import { SectionRow, lengthOf } from './SectionRow';
import { heightOf } from './SectionText';
import { Spelling } from './Spelling';
import type { Beside } from './Styles';
import { Tidy } from './Tidy';
import { Versions } from './Versions';

/** Pixels of text drawn at once when the station opens: more than a large screen shows. */
const WINDOW = 1200;
const NONE: readonly Finding[] = [];

export function Manuscript() {
  const { book, edition } = useBook();
  const { place } = useTitle();
  const findings = useFindings();
  const scroller = useRef<HTMLDivElement>(null);
  useAnchoredText(scroller);
  const [active, setActive] = useState<{ view: EditorView; section: string } | null>(null);
  const sought = useSearchParams().get('find') ?? '';
  const [beside, setBeside] = useState<Beside>(sought ? 'find' : null);
  const [showSigns, setShowSigns] = useState(false);
  const [asking, setAsking] = useState<Asking>(null);
  const [ticker] = useState(() => new Ticker());
  const headings = useMemo(() => headingsOf(book.sections, book), [book]);
  // The contents make themselves; what was written there all the same is not hidden.
  const shown = useMemo(() => {
    // Of a section that a sample cuts short the whole is worked on.
    const carried = new Set(sectionsIn(book, edition).map((s) => s.id));
    return book.sections.filter((s) => carried.has(s.id) && (s.kind !== 'contents' || hasText(s.content)));
  }, [book, edition]);
  const [opened] = useState(() => {
    let height = 0;
    const below = shown.findIndex((s) => (height += heightOf(lengthOf(s))) > WINDOW);
    return below < 0 ? shown.length : below + 1;
  });
  const indexed = book.sections.some((s) => s.kind === 'index');
  const bySection = useMemo(() => {
    const map = new Map<string, Finding[]>();
    for (const f of findings) if (f.place) map.set(f.place.section, [...(map.get(f.place.section) ?? []), f]);
    return map;
  }, [findings]);
  const onView = useCallback(
    (view: EditorView, section: string) => setActive((now) => (now?.view === view ? now : { view, section })),
    [],
  );
  useEffect(() => {
    // The browser's own find sees only what is on the screen.
    const keys = (e: KeyboardEvent): void => {
      if (!(e.ctrlKey || e.metaKey) || e.altKey || e.shiftKey || e.key.toLowerCase() !== 'f') return;
      e.preventDefault();
      setBeside('find');
    };
    addEventListener('keydown', keys);
    return () => removeEventListener('keydown', keys);
  }, []);
  useEffect(() => {
    if (!place) return;
    const el = scroller.current?.querySelector(`[data-section="${place.section}"]`);
    el?.scrollIntoView({ block: 'start' });
    if (!place.block) return;
    // The section's text appears when it comes into sight; its block is looked for a moment later.
    const timer = setTimeout(
      () =>
        scroller.current?.querySelector(`[data-id="${place.block}"]`)?.scrollIntoView({ block: 'center' }),
      120,
    );
    return () => clearTimeout(timer);
  }, [place]);
  return (
    <div className="flex h-full flex-col">
      <Tools
        ticker={ticker}
        view={active?.view ?? null}
        section={active?.section ?? null}
        indexed={indexed || beside === 'index'}
        beside={beside}
        onBeside={(b) => setBeside(b === beside ? null : b)}
        asking={asking}
        onAsk={setAsking}
      />
      <Panes
        name={beside ?? 'none'}
        width={beside === 'versions' ? 480 : beside === 'outline' ? 300 : 400}
        beside={
          beside === 'tidy' ? (
            <Tidy onClose={() => setBeside(null)} />
          ) : beside === 'find' ? (
            <Find sought={sought} onClose={() => setBeside(null)} />
          ) : beside === 'outline' ? (
            <Outline shown={shown} scroller={scroller} onClose={() => setBeside(null)} />
          ) : beside === 'spelling' ? (
            <Spelling onClose={() => setBeside(null)} />
          ) : beside === 'index' ? (
            <IndexPane onClose={() => setBeside(null)} />
          ) : beside === 'versions' ? (
            <Versions onClose={() => setBeside(null)} />
          ) : null
        }
      >
        <div
          ref={scroller}
          data-scrolls
          tabIndex={0}
          role="region"
          aria-label="Text of the book"
          className="min-h-0 min-w-0 flex-1 overflow-auto bg-sheet [overflow-anchor:none]"
        >
          <div className="grid grid-cols-[minmax(116px,1fr)_minmax(0,640px)_minmax(200px,1fr)] gap-x-5 px-4 pt-6 pb-40">
            {shown.map((s, i) => (
              <SectionRow
                key={s.id}
                section={s}
                heading={headings.get(s.id)!}
                fromRecord={isFromRecord(s, book.record)}
                first={i < opened}
                findings={bySection.get(s.id) ?? NONE}
                showSigns={showSigns}
                onView={onView}
                onState={ticker.tick}
              />
            ))}
          </div>
        </div>
      </Panes>
      <Foot
        ticker={ticker}
        view={active?.view ?? null}
        asking={asking}
        onAsked={() => setAsking(null)}
        showSigns={showSigns}
        onSigns={setShowSigns}
      />
    </div>
  );
}
