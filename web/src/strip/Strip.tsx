'use client';
/** The strip: the whole book as small spreads in its true line breaks, along the bottom of every station. */
import { useEffect, useMemo, useRef, useState } from 'react';
import { useBook, useComposed, useTitle } from '@/title/context';
import { useFindings } from '@/title/findings';
import { NextThing } from '@/title/NextThing';
import { kindRule } from '@pagina/core/book';
import { headingsOf } from '@pagina/core/order';
import { ShelfTools, useShelf } from '@/ui/Shelf';
import { PageCanvas } from './PageCanvas';

/** Pixels of the shelf that are no page: its head; a tab above and a scroll bar below. */
const HEAD = 28;
const AROUND_PAGES = 34;
/** Spreads kept in the page beyond those in sight. */
const AROUND = 8;
const GAP = 10;

/** Pages that a tab may reach over, so that it says more than a title’s first word. */
const TAB_PAGES = 1.9;

export function Strip() {
  const { composed, refusal, working } = useComposed();
  const { book } = useBook();
  const { goTo, place, cursor } = useTitle();
  const findings = useFindings();
  const shelf = useShelf();
  const scroller = useRef<HTMLDivElement>(null);
  const [window_, setWindow] = useState({ from: 0, to: 24 });
  const pages = composed?.pages ?? [];
  const spreads = Math.ceil((pages.length + 1) / 2);
  const room = Math.max(48, shelf.height - HEAD - AROUND_PAGES);
  const width = Math.round(room * ((composed?.width ?? 2) / (composed?.height ?? 3)));
  const step = width * 2 + GAP;
  const headings = useMemo(() => headingsOf(book.sections, book), [book]);
  const ticks = useMemo(() => {
    const at = new Set<number>();
    for (const f of findings) {
      const block = f.place?.block ? composed?.places[f.place.block] : undefined;
      if (block) at.add(block[0]);
      else if (f.place) {
        const start = pages.find((p) => p.section === f.place?.section && !p.blank);
        if (start) at.add(start.index);
      }
    }
    for (const m of composed?.marks ?? []) if (m.kind !== 'loose') at.add(m.page);
    return at;
  }, [findings, composed, pages]);
  const look = (): void => {
    const el = scroller.current;
    if (!el) return;
    setWindow({
      from: Math.max(0, Math.floor(el.scrollLeft / step) - AROUND),
      to: Math.ceil((el.scrollLeft + el.clientWidth) / step) + AROUND,
    });
  };
  useEffect(look, [step, spreads]);
  const here = useMemo(() => {
    if (cursor !== null) return cursor;
    if (!place || !composed) return -1;
    if (place.page !== undefined) return place.page;
    const block = place.block ? composed.places[place.block] : undefined;
    return block
      ? block[0]
      : (composed.pages.find((p) => p.section === place.section && !p.blank)?.index ?? -1);
  }, [place, composed, cursor]);
  useEffect(() => {
    const el = scroller.current;
    if (here < 0 || !el) return;
    const x = Math.floor((here + 1) / 2) * step;
    if (x < el.scrollLeft || x > el.scrollLeft + el.clientWidth - step)
      el.scrollTo({ left: x - el.clientWidth / 2 });
  }, [here, step]);
  const show = (page: number): void => {
    const p = pages[page];
    if (!p) return;
    const first = Object.entries(composed?.places ?? {}).find(([, [index]]) => index === page);
    goTo({ section: p.section, block: p.opens ? undefined : first?.[0], page });
  };
  const kindOf = (section: string): string => book.sections.find((s) => s.id === section)?.kind ?? 'plain';
  return (
    <section aria-label="The book, page by page" className="flex h-full flex-col bg-table">
      <div className="flex h-7 items-center gap-3 px-4 text-[13px] text-ink-soft">
        <span data-pages={pages.length} className="whitespace-nowrap">
          {refusal ??
            (composed
              ? `${pages.length.toLocaleString('en-GB')} pages · ${composed.report.lines.toLocaleString('en-GB')} lines${working ? ' · setting …' : ''}`
              : 'Setting the pages …')}
        </span>
        <span aria-hidden className="h-4 border-l border-edge" />
        <NextThing />
        <span className="ml-auto" />
        <ShelfTools />
      </div>
      {shelf.folded ? null : (
        <div
          ref={scroller}
          onScroll={look}
          tabIndex={0}
          className="relative min-h-0 flex-1 overflow-x-auto overflow-y-hidden px-4 pb-2"
        >
          <div className="relative h-full" style={{ width: spreads * step }}>
            {Array.from({ length: Math.max(0, Math.min(spreads, window_.to) - window_.from) }, (_, k) => {
              const n = window_.from + k;
              return (
                <div key={n} className="absolute top-0 flex" style={{ left: n * step }}>
                  {[n * 2 - 1, n * 2].map((index) => {
                    const p = pages[index];
                    if (!p) return <span key={index} style={{ width }} />;
                    const tab =
                      p.opens && ['part', 'chapter', 'prologue', 'epilogue'].includes(kindOf(p.section));
                    return (
                      <button
                        key={index}
                        type="button"
                        onClick={() => show(index)}
                        className={`relative block ${p.side === 'verso' ? 'border-r border-rule' : ''} ${index === here ? 'outline-2 outline-spruce' : ''}`}
                        aria-label={`Page ${p.label || index + 1}${p.opens ? `, ${headings.get(p.section)?.label ?? kindRule(kindOf(p.section) as never).label}` : ''}${ticks.has(index) ? ', has a finding' : ''}`}
                      >
                        <span
                          className="relative z-10 block h-3 text-left text-[10px] leading-3 text-ink-soft"
                          style={{ width }}
                        >
                          {tab ? (
                            <span
                              className="absolute block truncate bg-rule px-1 text-ink"
                              style={{ maxWidth: TAB_PAGES * width }}
                            >
                              {headings.get(p.section)?.label}
                            </span>
                          ) : null}
                        </span>
                        <PageCanvas page={index} width={width} />
                        {ticks.has(index) ? (
                          <span
                            aria-hidden
                            className={`absolute top-5 h-4 w-[3px] bg-rubric ${p.side === 'verso' ? 'left-0' : 'right-0'}`}
                          />
                        ) : null}
                      </button>
                    );
                  })}
                </div>
              );
            })}
          </div>
        </div>
      )}
    </section>
  );
}
