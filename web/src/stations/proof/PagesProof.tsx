'use client';
/** The proof of a print edition: pages at reading size as they print, by spreads, single pages or all at once, with what one looks for laid over. */
import { zodResolver } from '@hookform/resolvers/zod';
import { useCallback, useEffect, useMemo, useState, type KeyboardEvent } from 'react';
import { useForm } from 'react-hook-form';
import * as z from 'zod';
import { printOf } from '@pagina/core/book';
import { useBook, useComposed, useTitle } from '@/title/context';
import { Button, ToggleButton } from '@/ui/Button';
import { lineOf } from '@/ui/Field';
import { Panes } from '@/ui/Panes';
import { AnyOf, OneOf, type Pressable } from '@/ui/ToggleGroup';
import { Toolbar } from '@/ui/Toolbar';
import { useRoom } from '@/ui/useRoom';
import type { Composed, FoundOnPage } from '@/workers/messages';
import { FindOnPages } from './FindOnPages';
import { ProofPage, type Overlay } from './ProofPage';
import { Thumbnails } from './Thumbnails';

type View = 'spreads' | 'pages' | 'all';
const VIEWS: Pressable<View>[] = [
  { value: 'spreads', name: 'Spreads' },
  { value: 'pages', name: 'Single pages' },
  { value: 'all', name: 'All pages' },
];
const OVERLAYS: Pressable<Overlay>[] = [
  { value: 'grid', name: 'Grid' },
  { value: 'margins', name: 'Type area' },
  { value: 'safe', name: 'Safe area' },
  { value: 'loose', name: 'Loose lines' },
];
/** Points of a page to pixels of the screen at full size (CSS: 96 pixels an inch). */
const FULL = 96 / 72;
const STEP = 1.2;

export function PagesProof() {
  const { composed, refusal } = useComposed();
  const { place } = useTitle();
  const { book, edition } = useBook();
  const [at, setAt] = useState(0);
  const [view, setView] = useState<View>('spreads');
  /** A share of full size; null for as large as fits. */
  const [zoom, setZoom] = useState<number | null>(null);
  const [overlays, setOverlays] = useState<ReadonlySet<Overlay>>(new Set());
  const [finding, setFinding] = useState(false);
  /** The pages have the whole window. */
  const [reading, setReading] = useState(false);
  const [found, setFound] = useState<FoundOnPage | null>(null);
  const { room, size } = useRoom({ width: 1000, height: 500 });
  const last = Math.max(0, (composed?.pages.length ?? 1) - 1);
  const spread = Math.floor((at + 1) / 2);
  useEffect(() => {
    if (!place || !composed) return;
    const page =
      place.page ??
      (place.block ? composed.places[place.block]?.[0] : undefined) ??
      composed.pages.find((p) => p.section === place.section && !p.blank)?.index;
    if (page !== undefined) setAt(page);
  }, [place, composed]);
  useEffect(() => {
    const keys = (e: globalThis.KeyboardEvent): void => {
      if (!(e.ctrlKey || e.metaKey) || e.altKey || e.shiftKey || e.key.toLowerCase() !== 'f') return;
      e.preventDefault();
      setFinding(true);
    };
    addEventListener('keydown', keys);
    return () => removeEventListener('keydown', keys);
  }, []);
  useEffect(() => {
    if (!reading) return;
    const leave = (e: globalThis.KeyboardEvent): void => {
      if (e.key === 'Escape') setReading(false);
    };
    addEventListener('keydown', leave);
    return () => removeEventListener('keydown', leave);
  }, [reading]);
  const turn = useCallback(
    (by: number) =>
      setAt((now) => {
        const to = view === 'pages' ? now + by : Math.max(0, (Math.floor((now + 1) / 2) + by) * 2 - 1);
        return Math.max(0, Math.min(last, to));
      }),
    [last, view],
  );
  const across = view === 'pages' ? 1 : 2;
  const fit = composed
    ? Math.min((size.width - 24) / (composed.width * across), (size.height - 4) / composed.height)
    : 1;
  const scale = zoom === null ? fit : zoom * FULL;
  const shown = useMemo(
    () => (view === 'pages' ? [at] : [spread * 2 - 1, spread * 2]).map((i) => composed?.pages[i] ?? null),
    [view, at, spread, composed],
  );
  const grow = (by: number): void => setZoom(Math.max(0.2, Math.min(6, (scale / FULL) * by)));
  const print = printOf(book, edition) !== undefined;
  return (
    <div
      className={reading ? 'fixed inset-0 z-40 flex flex-col bg-table' : 'flex h-full flex-col'}
      tabIndex={0}
      onKeyDown={(e) => {
        if (view === 'all' || !isPaging(e)) return;
        if (e.key === 'ArrowRight' || e.key === 'PageDown') turn(1);
        if (e.key === 'ArrowLeft' || e.key === 'PageUp') turn(-1);
        if (e.key === 'Home') setAt(0);
        if (e.key === 'End') setAt(last);
        if (e.key === '+') grow(STEP);
        if (e.key === '-') grow(1 / STEP);
        if (e.key === '0') setZoom(null);
      }}
    >
      <Toolbar label="Proof" className="gap-x-2">
        <Button className="h-7 px-2" onClick={() => turn(-1)} disabled={at === 0}>
          Previous
        </Button>
        <Button className="h-7 px-2" onClick={() => turn(1)} disabled={at >= last}>
          Next
        </Button>
        <Folio now={shown.find((p) => p)?.label ?? ''} pages={composed?.pages ?? []} onGo={setAt} />
        <OneOf label="Shown as" value={view} choices={VIEWS} onChoose={setView} />
        <Zoom scale={scale / FULL} fits={zoom === null} onZoom={setZoom} />
        {reading ? null : (
          <AnyOf
            label="Laid over the pages"
            values={[...overlays]}
            choices={OVERLAYS}
            onChoose={(key) => {
              const next = new Set(overlays);
              if (!next.delete(key)) next.add(key);
              setOverlays(next);
            }}
          />
        )}
        <ToggleButton
          className="h-7 px-2"
          pressed={reading}
          onToggle={() => {
            setReading(!reading);
            setZoom(null);
          }}
          tip={reading ? 'Esc' : 'The pages get the whole window'}
        >
          Read
        </ToggleButton>
        <ToggleButton
          className="h-7 px-2"
          pressed={finding}
          onToggle={() => setFinding(!finding)}
          tip="Ctrl+F"
        >
          Find
        </ToggleButton>
        <span className="ml-auto truncate text-[13px] text-ink-soft">
          {print ? null : 'Pages of the print edition. '}
          {composed
            ? `${counted(composed.report.looseLines, 'loose line')} · ${counted(composed.report.hyphenatedLines, 'hyphen')}`
            : null}
        </span>
      </Toolbar>
      <Panes
        name="found"
        width={340}
        beside={
          finding ? (
            <FindOnPages
              onOpen={(p) => {
                setFound(p);
                setAt(p.page);
                if (view === 'all') setView('spreads');
              }}
              onClose={() => {
                setFinding(false);
                setFound(null);
              }}
            />
          ) : null
        }
      >
        <div ref={room} className="min-h-0 min-w-0 flex-1 overflow-auto p-3">
          {refusal ? <p className="p-6 text-rubric">{refusal}</p> : null}
          {composed && view === 'all' ? (
            <Thumbnails
              composed={composed}
              here={spread}
              onOpen={(s) => {
                setAt(Math.max(0, s * 2 - 1));
                setView('spreads');
              }}
            />
          ) : null}
          {composed && view !== 'all' ? (
            <div className="mx-auto flex w-max">
              {shown.map((p, i) =>
                p ? (
                  <ProofPage
                    key={i}
                    page={p.index}
                    side={p.side}
                    label={p.label}
                    composed={composed}
                    scale={scale}
                    overlays={overlays}
                    marked={found?.page === p.index ? found.lines : NONE}
                  />
                ) : (
                  <span key={i} style={{ width: composed.width * scale, height: composed.height * scale }} />
                ),
              )}
            </div>
          ) : null}
        </div>
      </Panes>
    </div>
  );
}
const NONE: readonly number[] = [];

/** Whether a key turns pages: not in a field or a pane, and not where arrows move between tools. */
const isPaging = (e: KeyboardEvent): boolean =>
  e.target instanceof Element &&
  e.currentTarget.contains(e.target) &&
  !e.target.closest('input, aside') &&
  !(/^(Arrow|Home|End)/.test(e.key) && e.target.closest('[role=toolbar], [role=separator]'));

/** Goes to the page that bears a folio. */
function Folio({
  now,
  pages,
  onGo,
}: {
  now: string;
  pages: Composed['pages'];
  onGo: (page: number) => void;
}) {
  const { register, handleSubmit, formState } = useForm({
    resolver: zodResolver(
      z.object({
        folio: z
          .string()
          .trim()
          .toLowerCase()
          .refine((f) => pages.some((p) => p.label === f), 'No page has this folio.'),
      }),
    ),
    defaultValues: { folio: '' },
  });
  const wrong = formState.errors.folio?.message;
  return (
    <form
      noValidate
      className="relative flex items-center gap-1"
      onSubmit={(e) =>
        void handleSubmit(({ folio }) => onGo(pages.find((p) => p.label === folio)?.index ?? 0))(e)
      }
    >
      <label className="flex items-center gap-2">
        <span className="text-ink-soft">Folio</span>
        <input
          {...register('folio')}
          aria-invalid={wrong ? true : undefined}
          aria-description={wrong}
          className={lineOf('h-7 w-14')}
          placeholder={now}
        />
      </label>
      <Button className="h-7 px-2" type="submit">
        Go
      </Button>
      {wrong ? (
        <span
          role="alert"
          className="absolute top-full left-0 z-20 mt-1 border border-rubric bg-sheet px-2 py-1 text-[13px] whitespace-nowrap text-rubric"
        >
          {wrong}
        </span>
      ) : null}
    </form>
  );
}

/** Any size, typed in per cent of the printed one, or as large as fits. */
function Zoom({
  scale,
  fits,
  onZoom,
}: {
  scale: number;
  fits: boolean;
  onZoom: (zoom: number | null) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const keep = (): void => {
    const n = Number((typed ?? '').replace(/[%\s]/g, ''));
    if (n >= 20 && n <= 600) onZoom(n / 100);
    setTyped(null);
  };
  return (
    <span className="flex items-center gap-1">
      <label className="flex items-center gap-2">
        <span className="text-ink-soft">Size</span>
        <input
          className={lineOf('h-7 w-16')}
          value={typed ?? `${Math.round(scale * 100)} %`}
          onChange={(e) => setTyped(e.target.value)}
          onBlur={() => typed !== null && keep()}
          onKeyDown={(e) => {
            if (e.key === 'Enter') keep();
            if (e.key === 'Escape') setTyped(null);
          }}
        />
      </label>
      <Button className="h-7 px-2" disabled={fits} onClick={() => onZoom(null)} tip="0">
        Fit
      </Button>
    </span>
  );
}

const counted = (n: number, what: string): string => `${n} ${what}${n === 1 ? '' : 's'}`;
