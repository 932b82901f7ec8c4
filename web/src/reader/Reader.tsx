'use client';
/** An ebook read as its readers do, on one screen or on two at once. The file is taken as it is. */
import { useCallback, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { toast } from 'sonner';
import { Button, ToggleButton } from '@/ui/Button';
import { Panes } from '@/ui/Panes';
import { Select } from '@/ui/Select';
import { Slider } from '@/ui/Slider';
import { OneOf } from '@/ui/ToggleGroup';
import { Toolbar } from '@/ui/Toolbar';
import { useRoom } from '@/ui/useRoom';
import { FindInBook } from './FindInBook';
import { Lists } from './Lists';
import { callsNote, showNote } from './notes';
import { placeAtShare, placeIn } from './place';
import { Screen, type Goal, type ScreenHandle, type Sight } from './Screen';
import {
  keepSettings,
  keptSettings,
  LIGHTS,
  SCREENS,
  type LightId,
  type ReadingSettings,
  type ScreenId,
  type ScreenSize,
} from './settings';
import { fetchDocument, pathOf, type DocumentText, type EbookSource } from './source';
import { spreadOf } from './spread';
import { nextSize, TypeSettings } from './TypeSettings';

const SCREEN_CHOICES = (Object.keys(SCREENS) as ScreenId[]).map((value) => ({
  value,
  name: SCREENS[value].name,
}));
const LIGHT_CHOICES = (Object.keys(LIGHTS) as LightId[]).map((value) => ({
  value,
  name: LIGHTS[value].name,
}));
const MOVES = [
  { value: 'turned', name: 'Pages' },
  { value: 'scrolled', name: 'Scroll' },
] as const;
/** How much wider than high a screen is that shows two pages together. */
const WIDE = 1.2;
/** Pixels around and between screens. */
const AROUND = 12;
/** Places that Back goes through. */
const TRAIL = 50;

export function Reader({
  source,
  texts,
  start,
  sought,
  goal,
  onPlace,
  below,
}: {
  source: EbookSource;
  /** Null while they are being read. */
  texts: readonly DocumentText[] | null;
  /** Where one read last; null for the beginning. */
  start: { path: string; offset: number } | null;
  /** Goes to the first of these ids that the book has, whenever it changes. */
  sought: readonly string[] | null;
  /** Goes to the beginning of a document, whenever it changes. */
  goal?: { path: string } | null;
  onPlace: (place: { path: string; offset: number }) => void;
  /** At the left of the line under the screens. */
  below: ReactNode;
}) {
  const { order } = source;
  const pages = useMemo(() => order.documents.filter((d) => d.linear).map((d) => d.path), [order]);
  const [settings, setSettings] = useState(keptSettings);
  const [goals, setGoals] = useState<readonly [Goal, Goal]>(() => {
    const known = start && order.documents.some((d) => d.path === start.path);
    const goal: Goal = known
      ? { path: start.path, spot: { offset: start.offset } }
      : { path: pages[0] ?? order.documents[0]?.path ?? '', spot: 'start' };
    return [goal, goal];
  });
  const [sight, setSight] = useState<Sight | null>(null);
  const [pane, setPane] = useState<'lists' | 'find' | null>(null);
  /** The screens have the whole window. */
  const [whole, setWhole] = useState(false);
  const trail = useRef<Goal[]>([]);
  const [behind, setBehind] = useState(0);
  const screens = [useRef<ScreenHandle>(null), useRef<ScreenHandle>(null)] as const;
  const { room, size } = useRoom({ width: 900, height: 480 });
  const change = useCallback((part: Partial<ReadingSettings>): void => {
    setSettings((now) => {
      const next = { ...now, ...part };
      keepSettings(next);
      return next;
    });
  }, []);
  const go = useCallback((goal: Goal): void => setGoals([goal, { ...goal }]), []);
  /** Goes somewhere from where Back leads here again. */
  const jump = useCallback(
    (goal: Goal): void => {
      if (sight) {
        trail.current = [...trail.current, { path: sight.path, spot: { offset: sight.offset } }].slice(
          -TRAIL,
        );
        setBehind(trail.current.length);
      }
      go(goal);
    },
    [go, sight],
  );
  const back = (): void => {
    const to = trail.current.pop();
    setBehind(trail.current.length);
    if (to) go(to);
  };
  const open = (path: string, id: string): void => jump({ path, spot: id ? { id } : 'start' });
  const sizes: ScreenId[] =
    settings.beside === 'none' ? [settings.screen] : [settings.screen, settings.beside];
  const each = {
    width: Math.max(120, (size.width - AROUND * (sizes.length + 1)) / sizes.length),
    height: Math.max(120, size.height - AROUND * 2),
  };
  /** What each screen shows together: a wide one has room for pages that face each other. */
  const spreadsOf = ([0, 1] as const).map((which) => {
    const of = sizes[which];
    if (of === undefined) return null;
    const screen: ScreenSize = SCREENS[of];
    const wide = (screen.width || each.width) > WIDE * (screen.height || each.height);
    return wide ? spreadOf(order, goals[which].path) : null;
  });
  const turn = (which: 0 | 1, by: 1 | -1): void => {
    if (screens[which].current?.turn(by) !== false) return;
    const now = pages.indexOf(goals[which].path);
    const spread = spreadsOf[which];
    const path = pages[spread ? (by > 0 ? spread.to : spread.from) + by : now + by];
    if (path) go({ path, spot: by > 0 ? 'start' : 'end' });
  };
  const seen = (which: 0 | 1, now: Sight, byHand: boolean): void => {
    if (which === 0 || byHand) {
      setSight(now);
      onPlace({ path: now.path, offset: now.offset });
    }
    if (!byHand || settings.beside === 'none') return;
    const follow: Goal = { path: now.path, spot: { offset: now.offset } };
    setGoals((g) => (which === 0 ? [g[0], follow] : [follow, g[1]]));
  };
  useEffect(() => {
    if (!sought || !texts) return;
    for (const id of sought) {
      const held = texts.find((t) => t.ids.has(id));
      if (held) return jump({ path: held.path, spot: { id } });
    }
    // Where one is when these change makes no difference.
  }, [sought, texts]);

  useEffect(() => {
    if (goal) jump({ path: goal.path, spot: 'start' });
    // Where one is makes no difference here either.
  }, [goal]);

  const follow = async (which: 0 | 1, link: Element, address: string): Promise<void> => {
    const to = pathOf(source.base, address);
    if (!to) {
      if (/^https?:|^mailto:/.test(address))
        toast(`This link leads out of the book: ${address}`, {
          duration: 12_000,
          action: {
            label: 'Open',
            onClick: () => void window.open(address, '_blank', 'noopener,noreferrer'),
          },
        });
      else toast('This link leads nowhere.');
      return;
    }
    const known = order.documents.some((d) => d.path === to.path);
    const leaf = screens[which].current?.leaf();
    if (known && leaf && to.id && settings.notes === 'over' && callsNote(link)) {
      const holder = to.path === goals[which].path ? leaf.document : await fetchDocument(source, to.path);
      const note = holder.getElementById(to.id);
      const paper = LIGHTS[settings.light].paper;
      if (note) return showNote(leaf.document, note, paper, () => open(to.path, to.id));
    }
    if (known) open(to.path, to.id);
    else toast(`This link leads to ${to.path}, which is not in the reading order.`);
  };
  const key = (which: 0 | 1, e: KeyboardEvent): void => {
    if (e.ctrlKey || e.metaKey) {
      if (e.key.toLowerCase() !== 'f' || e.shiftKey || e.altKey) return;
      e.preventDefault();
      return setPane('find');
    }
    if (e.altKey) {
      if (e.key === 'ArrowLeft') back();
      return;
    }
    const run: Record<string, () => void> = {
      ArrowRight: () => turn(which, 1),
      ArrowLeft: () => turn(which, -1),
      PageDown: () => turn(which, 1),
      PageUp: () => turn(which, -1),
      ' ': () => turn(which, e.shiftKey ? -1 : 1),
      Home: () => pages[0] !== undefined && jump({ path: pages[0], spot: 'start' }),
      End: () => pages.length > 0 && jump({ path: pages.at(-1) as string, spot: 'end' }),
      '+': () => change({ type: nextSize(settings.type, 1) }),
      '-': () => change({ type: nextSize(settings.type, -1) }),
      Escape: () => {
        const closed = screens.map((s) => s.current?.closeNote() ?? false);
        if (!closed.includes(true)) setWhole(false);
      },
    };
    const act = run[e.key];
    if (!act || ((e.target as Element).closest('button') && e.key === ' ')) return;
    e.preventDefault();
    act();
  };
  /** Pages of a fixed size look as they look: nothing of them is the reader's. */
  const fixed = order.documents.every((d) => d.fixed);
  const place = useMemo(() => (sight ? placeIn(source.order, texts, sight) : null), [source, texts, sight]);
  const at = {
    from: pages.indexOf(sight?.path ?? ''),
    to: pages.indexOf(sight?.path ?? ''),
    ...spreadsOf[0],
  };
  const first = sight?.screen === 0 && at.from === 0;
  const last = sight !== null && at.to === pages.length - 1 && sight.screen >= sight.screens - 1;
  return (
    <div
      className={whole ? 'fixed inset-0 z-40 flex flex-col bg-table' : 'flex h-full flex-col'}
      tabIndex={0}
      onKeyDown={(e) => isReading(e.nativeEvent, e.currentTarget) && key(0, e.nativeEvent)}
    >
      <Toolbar label="Reading" className="gap-x-2">
        <Button className="h-7 px-2" disabled={first} onClick={() => turn(0, -1)}>
          Previous
        </Button>
        <Button className="h-7 px-2" disabled={last} onClick={() => turn(0, 1)}>
          Next
        </Button>
        <Button
          className="h-7 px-2"
          disabled={behind === 0}
          onClick={back}
          tip="Back to where you were (Alt+←)"
        >
          Back
        </Button>
        <Select
          label="Screen"
          className="h-7 w-44"
          value={settings.screen}
          choices={SCREEN_CHOICES}
          onChoose={(screen) => change({ screen })}
        />
        <Select
          label="Second screen"
          className="h-7 w-44"
          value={settings.beside}
          choices={[{ value: 'none', name: 'No second screen' }, ...SCREEN_CHOICES]}
          onChoose={(beside) => {
            if (sight) setGoals(([g]) => [g, { path: sight.path, spot: { offset: sight.offset } }]);
            change({ beside });
          }}
        />
        {fixed ? null : (
          <>
            <OneOf
              label="Shown as"
              value={settings.moves}
              choices={MOVES}
              onChoose={(moves) => change({ moves })}
            />
            <OneOf
              label="Light"
              value={settings.light}
              choices={LIGHT_CHOICES}
              onChoose={(light) => change({ light })}
            />
            <TypeSettings settings={settings} onChange={change} />
          </>
        )}
        <ToggleButton
          className="h-7 px-2"
          pressed={pane === 'lists'}
          onToggle={() => setPane(pane === 'lists' ? null : 'lists')}
        >
          Contents
        </ToggleButton>
        <ToggleButton
          className="h-7 px-2"
          pressed={pane === 'find'}
          onToggle={() => setPane(pane === 'find' ? null : 'find')}
          tip="Ctrl+F"
        >
          Find
        </ToggleButton>
        <ToggleButton
          className="h-7 px-2"
          pressed={whole}
          onToggle={() => setWhole(!whole)}
          tip={whole ? 'Esc' : 'Use the whole window'}
        >
          Read
        </ToggleButton>
      </Toolbar>
      <Panes
        name="reader"
        width={320}
        beside={
          pane === 'lists' ? (
            <Lists
              order={order}
              here={{ contents: place?.entry ?? -1, pages: place?.page ?? -1 }}
              onOpen={open}
              onClose={() => setPane(null)}
            />
          ) : pane === 'find' ? (
            <FindInBook
              texts={texts}
              onOpen={({ path, from, to }) => jump({ path, spot: { offset: from }, found: { from, to } })}
              onClose={() => setPane(null)}
            />
          ) : null
        }
      >
        <div ref={room} className="flex min-h-0 min-w-0 flex-1 items-center justify-center overflow-hidden">
          {sight?.broken ? (
            <p role="alert" className="absolute top-0 z-10 border border-rubric bg-sheet px-3 py-1.5">
              This document isn’t well-formed XML, so some readers will refuse it. The error is shown below.
            </p>
          ) : null}
          <div className="flex items-center" style={{ gap: AROUND }}>
            {sizes.map((id, i) => {
              const which = i as 0 | 1;
              return (
                <Screen
                  key={i}
                  ref={screens[which]}
                  source={source}
                  size={SCREENS[id]}
                  settings={settings}
                  room={each}
                  goal={goals[which]}
                  spread={spreadsOf[which] ?? null}
                  label={which === 0 ? 'The ebook' : 'The ebook on the second screen'}
                  onSight={(s, byHand) => seen(which, s, byHand)}
                  onLink={(link, address) => void follow(which, link, address)}
                  onKey={(e) => key(which, e)}
                  onTurn={(by) => turn(which, by)}
                />
              );
            })}
          </div>
        </div>
      </Panes>
      <footer className="no-print flex min-h-9 flex-wrap items-center gap-x-4 border-t border-rule px-4 text-[13px]">
        {below}
        <span className="ml-auto min-w-0 truncate text-ink-soft" role="status" data-reading>
          {place && sight ? place.words : null}
        </span>
        {place?.share === null || !place ? null : (
          <Slider
            label="Place in the book"
            className="w-40"
            value={Math.round(place.share * 1000)}
            least={0}
            most={1000}
            step={1}
            onCommit={(n) => {
              const to = placeAtShare(texts ?? [], pages, n / 1000);
              if (to) jump({ path: to.path, spot: { offset: to.offset } });
            }}
            shown={(n) => <span className="inline-block w-9 text-right">{Math.round(n / 10)} %</span>}
          />
        )}
      </footer>
    </div>
  );
}

/** Whether a key pressed outside the frames moves through the book. */
const isReading = (e: KeyboardEvent, within: Element): boolean =>
  e.target instanceof Element &&
  within.contains(e.target) &&
  !e.target.closest('input, aside, [role=slider]') &&
  !(/^(Arrow|Home|End| )/.test(e.key) && e.target.closest('[role=toolbar], [role=separator], button'));
