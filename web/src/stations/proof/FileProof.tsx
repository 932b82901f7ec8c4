'use client';
/** The proof of a PDF as it is: the sheet of a cover, or pages that someone else set. */
import { useCallback, useState, type ReactNode } from 'react';
import {
  openComments,
  type Comment,
  type CommentAbout,
  type Impression,
  type Match,
} from '@pagina/core/proof';
import type { CoverGeometry } from '@pagina/core/cover';
import type { Product } from '@pagina/data';
import { Guides } from '@/stations/design/cover/Guides';
import { useTitle } from '@/title/context';
import { Button, ToggleButton } from '@/ui/Button';
import { Panes } from '@/ui/Panes';
import { OneOf, type Pressable } from '@/ui/ToggleGroup';
import { Toolbar } from '@/ui/Toolbar';
import { useRoom } from '@/ui/useRoom';
import { BeforeAndNow } from './BeforeAndNow';
import { CommentsPane } from './CommentsPane';
import { FilePage } from './FilePage';
import { APART, AROUND, FULL, onPageKey, ZOOMS } from './paging';
import { Zoom } from './PageTools';
import { ReadingPane } from './ReadingPane';
import { useChanges } from './useChanges';
import { useFileImpression, useProofing } from './useProofing';

type View = 'spreads' | 'pages' | 'beside';
type Pane = 'reading' | 'comments';
const VIEWS: Pressable<View>[] = [
  { value: 'spreads', name: 'Spreads' },
  { value: 'pages', name: 'Single pages' },
];
const SHEET: Pressable<View> = { value: 'pages', name: 'Sheet' };
const BESIDE: Pressable<View> = { value: 'beside', name: 'Before and now' };

export function FileProof({
  file,
  called,
  sheet,
  geometry,
  files,
}: {
  file: Product;
  /** "designer’s cover". */
  called: string;
  /** Whether it is one sheet, not pages. */
  sheet: boolean;
  /** Where a cover’s sheet is to be cut and folded; null where that isn’t known. */
  geometry: CoverGeometry | null;
  /** Chooses what is proofed. */
  files: ReactNode;
}) {
  const { session } = useTitle();
  const [at, setAt] = useState(0);
  const [view, setView] = useState<View>(sheet ? 'pages' : 'spreads');
  const [zoom, setZoom] = useState<number | null>(null);
  const [pane, setPane] = useState<Pane | null>(null);
  const [guides, setGuides] = useState(false);
  const [gone, setGone] = useState<Match | null>(null);
  /** The line that a new comment is about. */
  const [pointed, setPointed] = useState<{ page: number; line: number } | null>(null);
  const now = useFileImpression(file);
  const proofing = useProofing(file.edition);
  const changes = useChanges(file.edition, now, file.sha256);
  const { room, size } = useRoom({ width: 1000, height: 500 });
  const what = sheet ? 'sheet' : 'page';
  const last = Math.max(0, (now?.views.length ?? 1) - 1);
  const spread = Math.floor((at + 1) / 2);
  const single = view !== 'spreads';
  const go = useCallback((page: number) => {
    setGone(null);
    setPointed(null);
    setAt(page);
  }, []);
  const turn = (by: number): void =>
    go(Math.max(0, Math.min(last, single ? at + by : Math.max(0, (spread + by) * 2 - 1))));
  const around = view === 'beside' ? APART : AROUND;
  const fit = now
    ? Math.min(
        (size.width - around.width) / (now.width * (view === 'pages' ? 1 : 2)),
        (size.height - around.height) / now.height,
      )
    : 1;
  const scale = zoom === null ? fit : zoom * FULL;
  const [width, height] = [(now?.width ?? 0) * scale, (now?.height ?? 0) * scale];
  const numbers = (single ? [at] : [spread * 2 - 1, spread * 2]).filter((n) => now?.views[n]);
  const marks = numbers.flatMap((n) => now?.views[n]?.mark ?? []);
  const isRead = marks.length > 0 && marks.every((m) => proofing.read.has(m));
  const markable = gone === null && marks.length > 0 && proofing.known;
  const markRead = (): void => {
    if (!markable) return;
    void proofing.mark(marks, !isRead);
    if (!isRead) turn(1);
  };
  const grow = (by: number): void =>
    setZoom(Math.max(ZOOMS.least, Math.min(ZOOMS.most, (scale / FULL) * by)));
  const beside = view === 'beside' ? changes.matches : null;
  const match = beside ? (gone ?? beside.find((m) => m.now === at) ?? null) : null;
  const open = openComments(proofing.comments, file.edition);
  const commented = now?.views[pointed?.page ?? numbers.at(-1) ?? 0];
  const about: CommentAbout | null = commented
    ? {
        mark: commented.mark,
        label: commented.label,
        path: '',
        quote: pointed ? (commented.words[pointed.line] ?? '').slice(0, 500) : '',
        place: null,
      }
    : null;
  const page = (n: number, lines: readonly number[] = []) => {
    const v = now?.views[n];
    return v && now ? (
      <div key={n} className="relative">
        <FilePage
          sha256={file.sha256}
          page={n}
          view={v}
          called={sheet ? `The ${called}` : `Page ${v.label || n + 1} of the ${called}`}
          lines={lines}
          saying="Lines that are different"
          commented={open.filter((c) => placeOf(c, now) === n).map((c) => lineOf(c, v.words))}
          onPoint={pane === 'comments' ? (line) => setPointed({ page: n, line }) : undefined}
          width={width}
          height={height}
          across={now.width}
          sheet
        />
        {guides && geometry ? <Laid over={geometry} width={width} height={height} scale={scale} /> : null}
      </div>
    ) : (
      <span key={n} style={{ width: width + 2, height }} />
    );
  };
  const toggle = (value: Pane, name: string) => (
    <ToggleButton
      className="h-7 px-2"
      pressed={pane === value}
      onToggle={() => setPane(pane === value ? null : value)}
    >
      {name}
    </ToggleButton>
  );
  const views = [...(sheet ? [SHEET] : VIEWS), ...(changes.files.length > 0 ? [BESIDE] : [])];
  return (
    <div
      className="flex h-full flex-col"
      tabIndex={0}
      onKeyDown={(e) => onPageKey(e, { turn, go, last, grow, fit: () => setZoom(null), mark: markRead })}
    >
      <Toolbar label="Proof" className="gap-x-2">
        {files}
        {sheet ? null : (
          <>
            <Button className="h-7 px-2" onClick={() => turn(-1)} disabled={at === 0}>
              Previous
            </Button>
            <Button className="h-7 px-2" onClick={() => turn(1)} disabled={at >= last}>
              Next
            </Button>
          </>
        )}
        <ToggleButton
          className="h-7 border-edge px-2"
          pressed={isRead}
          disabled={!markable}
          onToggle={markRead}
          tip={isRead ? 'Marks as unread again (M)' : sheet ? 'M' : 'And turns to the next (M)'}
        >
          {isRead ? 'Marked as read' : 'Mark as read'}
        </ToggleButton>
        {sheet ? null : (
          <span className="text-ink-soft" data-at={at}>
            {numbers.map((n) => now?.views[n]?.label).join('–')} of {last + 1}
          </span>
        )}
        {views.length > 1 ? <OneOf label="Shown as" value={view} choices={views} onChoose={setView} /> : null}
        <Zoom scale={scale / FULL} fits={zoom === null} onZoom={setZoom} />
        {geometry ? (
          <ToggleButton
            className="h-7 px-2"
            pressed={guides}
            onToggle={() => setGuides(!guides)}
            tip="Trim, folds and safe areas of this edition"
          >
            Guides
          </ToggleButton>
        ) : null}
        {toggle('comments', open.length > 0 ? `Comments, ${open.length}` : 'Comments')}
        {toggle('reading', 'Sign-off')}
      </Toolbar>
      <Panes
        name="found"
        width={340}
        beside={
          pane === 'comments' ? (
            <CommentsPane
              what={what}
              draftKey={`comment-draft/${session.id}/${file.edition}`}
              proofing={proofing}
              about={about}
              onWhole={() => setPointed(null)}
              labelOf={(c) => now?.views[placeOf(c, now) ?? -1]?.label ?? null}
              onGo={(c) => {
                const n = now && placeOf(c, now);
                if (n !== null) go(n);
              }}
              onClose={() => setPane(null)}
            />
          ) : pane === 'reading' ? (
            <ReadingPane
              what={what}
              edition={{ id: file.edition, name: called }}
              proofing={proofing}
              now={now}
              changes={changes}
              here={gone ? [] : numbers}
              onGo={(m) => {
                if (m.now !== null) go(m.now);
                else setGone(m);
                if (m.how !== 'same') setView('beside');
              }}
              onClose={() => setPane(null)}
            />
          ) : null
        }
      >
        <div ref={room} className="min-h-0 min-w-0 flex-1 overflow-auto p-3">
          {file.impression === '' ? (
            <p className="p-6">
              This file was checked by an earlier version of Pagina. {sheet ? 'Make it' : 'Check it'} again in
              Editions, then read it here.
            </p>
          ) : now === null ? (
            <p className="p-6 text-ink-soft">Opening the {called} …</p>
          ) : match && changes.compared && changes.before ? (
            <BeforeAndNow
              match={match}
              file={changes.compared}
              before={changes.before}
              now={now}
              inColour={false}
              sheet
              width={width}
              height={height}
            >
              {page}
            </BeforeAndNow>
          ) : (
            <div className="mx-auto flex w-max">
              {(single ? [at] : [spread * 2 - 1, spread * 2]).map((n) => page(n))}
            </div>
          )}
        </div>
      </Panes>
    </div>
  );
}

/** The guides at their own size in the middle of the sheet: on a sheet of another size they show by how much. */
function Laid({
  over: g,
  width,
  height,
  scale,
}: {
  over: CoverGeometry;
  width: number;
  height: number;
  scale: number;
}) {
  const [w, h] = [(g.width / 1000) * scale, (g.height / 1000) * scale];
  return (
    <div
      className="pointer-events-none absolute"
      style={{ left: 1 + (width - w) / 2, top: 1 + (height - h) / 2, width: w, height: h }}
    >
      <Guides geometry={g} />
    </div>
  );
}

/** The page that a comment stands on: the one as it was, else the first with the line that it quotes; null for none. */
function placeOf({ about: { mark, quote } }: Comment, { views }: Impression): number | null {
  const same = views.findIndex((v) => v.mark === mark);
  const found = same < 0 && quote !== '' ? views.findIndex((v) => v.words.includes(quote)) : same;
  return found < 0 ? null : found;
}
const lineOf = ({ about: { quote } }: Comment, words: readonly string[]): number =>
  quote === '' ? -1 : words.indexOf(quote);
