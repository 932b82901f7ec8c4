'use client';
/** The proof of a print edition: pages at reading size as they print, by spreads, single pages, all at once, or beside an earlier file. */
import { useCallback, useEffect, useMemo, useState, type ReactNode } from 'react';
import type { TextLine } from '@pagina/core/compose';
import { editionOf, printOf } from '@pagina/core/book';
import { openComments, type CommentAbout, type Match } from '@pagina/core/proof';
import { useBook, useComposed, useTitle } from '@/title/context';
import { Button, ToggleButton } from '@/ui/Button';
import { Panes } from '@/ui/Panes';
import { OneOf, type Pressable } from '@/ui/ToggleGroup';
import { Toolbar } from '@/ui/Toolbar';
import { useRoom } from '@/ui/useRoom';
import type { FoundOnPage } from '@/workers/messages';
import { BeforeAndNow } from './BeforeAndNow';
import { commentLine, commentPage } from './commented';
import { CommentsPane } from './CommentsPane';
import { FindOnPages } from './FindOnPages';
import { Folio, Overlays, Zoom } from './PageTools';
import { APART, AROUND, FULL, onPageKey, ZOOMS } from './paging';
import { ProofPage, type Overlay } from './ProofPage';
import { ReadingPane } from './ReadingPane';
import { Thumbnails } from './Thumbnails';
import { useChanges } from './useChanges';
import { usePagesImpression, useProofing } from './useProofing';

type View = 'spreads' | 'pages' | 'all' | 'beside';
type Pane = 'find' | 'reading' | 'comments';
const VIEWS: Pressable<View>[] = [
  { value: 'spreads', name: 'Spreads' },
  { value: 'pages', name: 'Single pages' },
  { value: 'all', name: 'All pages' },
];
const BESIDE: Pressable<View> = { value: 'beside', name: 'Before and now' };

/** `files` chooses what is proofed, where there is more than the pages. */
export function PagesProof({ files }: { files?: ReactNode }) {
  const { composed, refusal } = useComposed();
  const { session, place } = useTitle();
  const { book, edition } = useBook();
  const [at, setAt] = useState(0);
  const [view, setView] = useState<View>('spreads');
  /** A share of full size; null for as large as fits. */
  const [zoom, setZoom] = useState<number | null>(null);
  const [overlays, setOverlays] = useState<ReadonlySet<Overlay>>(new Set());
  const [pane, setPane] = useState<Pane | null>(null);
  /** The pages have the whole window. */
  const [reading, setReading] = useState(false);
  const [found, setFound] = useState<FoundOnPage | null>(null);
  /** A page of the earlier file that the book no longer has. */
  const [gone, setGone] = useState<Match | null>(null);
  /** The line that a new comment is about; null for the page as a whole. */
  const [pointed, setPointed] = useState<{ page: number; line: TextLine } | null>(null);
  const proofed = editionOf(book, composed?.edition ?? edition) ?? editionOf(book, edition);
  const proofing = useProofing(proofed?.id ?? '');
  const now = usePagesImpression();
  const changes = useChanges(proofed?.id ?? '', now);
  const { room, size } = useRoom({ width: 1000, height: 500 });
  const last = Math.max(0, (composed?.pages.length ?? 1) - 1);
  const spread = Math.floor((at + 1) / 2);
  const go = useCallback((page: number) => {
    setGone(null);
    setPointed(null);
    setAt(page);
  }, []);
  useEffect(() => {
    if (!place || !composed) return;
    const page =
      place.page ??
      (place.block ? composed.places[place.block]?.[0] : undefined) ??
      composed.pages.find((p) => p.section === place.section && !p.blank)?.index;
    if (page !== undefined) go(page);
  }, [place, composed, go]);
  useEffect(() => {
    const keys = (e: globalThis.KeyboardEvent): void => {
      if (!(e.ctrlKey || e.metaKey) || e.altKey || e.shiftKey || e.key.toLowerCase() !== 'f') return;
      e.preventDefault();
      setPane('find');
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
  const single = view === 'pages' || view === 'beside';
  const turn = useCallback(
    (by: number) => {
      const to = single ? at + by : Math.max(0, (spread + by) * 2 - 1);
      go(Math.max(0, Math.min(last, to)));
    },
    [at, spread, last, single, go],
  );
  const beside = view === 'beside' && changes.compared && changes.before && now && changes.matches;
  const match = beside ? (gone ?? beside.find((m) => m.now === at) ?? null) : null;
  const around = view === 'beside' ? APART : AROUND;
  const fit = composed
    ? Math.min(
        (size.width - around.width) / (composed.width * (view === 'pages' ? 1 : 2)),
        (size.height - around.height) / composed.height,
      )
    : 1;
  const scale = zoom === null ? fit : zoom * FULL;
  const shown = useMemo(
    () => (single ? [at] : [spread * 2 - 1, spread * 2]).map((i) => composed?.pages[i] ?? null),
    [single, at, spread, composed],
  );
  const here = useMemo(() => shown.flatMap((p) => (p ? [p.index] : [])), [shown]);
  const grow = (by: number): void =>
    setZoom(Math.max(ZOOMS.least, Math.min(ZOOMS.most, (scale / FULL) * by)));
  const print = printOf(book, edition) !== undefined;
  const marks = here.flatMap((i) => now?.views[i]?.mark ?? []);
  const isRead = marks.length > 0 && marks.every((m) => proofing.read.has(m));
  const markable = view !== 'all' && gone === null && marks.length > 0 && proofing.known;
  const markRead = (): void => {
    if (!markable) return;
    void proofing.mark(marks, !isRead);
    // Who has read a page goes on to the next.
    if (!isRead) turn(1);
  };
  const commented = pointed?.page ?? here.at(-1) ?? 0;
  const about: CommentAbout | null = now?.views[commented]
    ? {
        mark: now.views[commented].mark,
        label: now.views[commented].label,
        path: '',
        quote: pointed?.line.text.slice(0, 500) ?? '',
        place: pointed?.line.block
          ? {
              section: composed?.pages[commented]?.section ?? '',
              block: pointed.line.block,
              offset: pointed.line.offset,
            }
          : null,
      }
    : null;
  const open = openComments(proofing.comments, proofed?.id ?? '');
  const page = (n: number, differs: readonly number[] = NONE) => {
    const p = composed?.pages[n];
    return composed && p ? (
      <ProofPage
        key={single ? 'one' : p.side}
        page={p.index}
        side={p.side}
        label={p.label}
        composed={composed}
        scale={scale}
        overlays={overlays}
        marked={found?.page === p.index ? found.lines : NONE}
        differs={differs}
        comments={open.filter((c) => commentPage(c, composed, now) === p.index).map(commentLine)}
        onPoint={pane === 'comments' ? (line) => setPointed({ page: p.index, line }) : undefined}
      />
    ) : (
      <span
        key={n}
        style={{ width: (composed?.width ?? 0) * scale, height: (composed?.height ?? 0) * scale }}
      />
    );
  };
  const paneButton = (value: Pane, name: string, tip?: string) => (
    <ToggleButton
      className="h-7 px-2"
      pressed={pane === value}
      onToggle={() => setPane(pane === value ? null : value)}
      tip={tip}
    >
      {name}
    </ToggleButton>
  );
  const views = changes.files.length > 0 ? [...VIEWS, BESIDE] : VIEWS;
  return (
    <div
      className={reading ? 'fixed inset-0 z-40 flex flex-col bg-table' : 'flex h-full flex-col'}
      tabIndex={0}
      onKeyDown={(e) => {
        if (view !== 'all') onPageKey(e, { turn, go, last, grow, fit: () => setZoom(null), mark: markRead });
      }}
    >
      <Toolbar label="Proof" className="gap-x-2">
        {files}
        <Button className="h-7 px-2" onClick={() => turn(-1)} disabled={at === 0}>
          Previous
        </Button>
        <Button className="h-7 px-2" onClick={() => turn(1)} disabled={at >= last}>
          Next
        </Button>
        <ToggleButton
          className="h-7 border-edge px-2"
          pressed={isRead}
          disabled={!markable}
          onToggle={markRead}
          tip={isRead ? 'Marks them as unread again (M)' : 'And turns to the next (M)'}
        >
          {isRead ? 'Marked as read' : 'Mark as read'}
        </ToggleButton>
        <Folio now={shown.find((p) => p)?.label ?? ''} pages={composed?.pages ?? []} onGo={go} />
        <OneOf label="Shown as" value={view} choices={views} onChoose={setView} />
        <Zoom scale={scale / FULL} fits={zoom === null} onZoom={setZoom} />
        {reading ? null : <Overlays of={overlays} onChange={setOverlays} />}
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
        {paneButton('find', 'Find', 'Ctrl+F')}
        {paneButton('comments', open.length > 0 ? `Comments, ${open.length}` : 'Comments')}
        {paneButton('reading', 'Sign-off')}
        {print ? null : (
          <span className="ml-auto truncate text-[13px] text-ink-soft">Pages of the print edition.</span>
        )}
      </Toolbar>
      <Panes
        name="found"
        width={340}
        beside={
          pane === 'find' ? (
            <FindOnPages
              onOpen={(p) => {
                setFound(p);
                go(p.page);
                if (view === 'all') setView('spreads');
              }}
              onClose={() => {
                setPane(null);
                setFound(null);
              }}
            />
          ) : pane === 'comments' ? (
            <CommentsPane
              what="page"
              draftKey={`comment-draft/${session.id}/${proofed?.id ?? ''}`}
              proofing={proofing}
              about={about}
              onWhole={() => setPointed(null)}
              labelOf={(c) => {
                const n = composed ? commentPage(c, composed, now) : null;
                return n === null ? null : (composed?.pages[n]?.label ?? '');
              }}
              onGo={(c) => {
                const n = composed ? commentPage(c, composed, now) : null;
                if (n !== null) go(n);
                if (view === 'all') setView('spreads');
              }}
              onClose={() => setPane(null)}
            />
          ) : pane === 'reading' && proofed ? (
            <ReadingPane
              what="page"
              edition={proofed}
              proofing={proofing}
              now={now}
              changes={changes}
              setting={
                composed
                  ? `${counted(composed.report.looseLines, 'loose line')}, ${counted(composed.report.hyphenatedLines, 'hyphen')}`
                  : null
              }
              here={gone ? [] : here}
              onGo={(m) => {
                if (m.now !== null) go(m.now);
                else setGone(m);
                if (m.how !== 'same') setView('beside');
                else if (view === 'all') setView('spreads');
              }}
              onClose={() => setPane(null)}
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
              unread={(n) => proofing.known && now !== null && !proofing.read.has(now.views[n]?.mark ?? '')}
              onOpen={(s) => {
                go(Math.max(0, s * 2 - 1));
                setView('spreads');
              }}
            />
          ) : null}
          {composed && beside && match && changes.compared && changes.before && now ? (
            <BeforeAndNow
              match={match}
              file={changes.compared}
              before={changes.before}
              now={now}
              inColour={printOf(book, proofed?.id ?? '')?.inks === 'colour'}
              width={composed.width * scale}
              height={composed.height * scale}
            >
              {page}
            </BeforeAndNow>
          ) : composed && view !== 'all' ? (
            <div className="mx-auto flex w-max">
              {(single ? [at] : [spread * 2 - 1, spread * 2]).map((n) => page(n))}
            </div>
          ) : null}
        </div>
      </Panes>
    </div>
  );
}
const NONE: readonly number[] = [];

const counted = (n: number, what: string): string => `${n} ${what}${n === 1 ? '' : 's'}`;
