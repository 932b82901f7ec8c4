'use client';
/** Design of the inside: a specimen of composed pages of this very book. One points at a part and sets it; two designs lie side by side. */
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import {
  designOf,
  designWithout,
  INTERIOR_NOTES,
  isLargePrint,
  withChoice,
  withLargePrint,
  withoutLargePrint,
  withPart,
  type DesignChoice,
  type Part,
} from '@pagina/core/design';
import {
  isReflow,
  shownBy,
  type Book,
  type Change,
  type Edition,
  type EditionFields,
} from '@pagina/core/book';
import { addAtItsPlace, notesOfKind } from '@pagina/core/order';
import { shortId } from '@/title/ids';
import { toast } from 'sonner';
import { useBook, useComposed, useTitle } from '@/title/context';
import { useLengths } from '@/title/lengths';
import { Button } from '@/ui/Button';
import { Panes } from '@/ui/Panes';
import { TabView } from '@/ui/Tabs';
import { ScrollArea } from '@/ui/ScrollArea';
import { Comparison } from './Comparison';
import type { Hand } from './Controls';
import { ACROSS, DesignBar, type Size } from './DesignBar';
import { exemplarsOf, pagesShown } from './exemplars';
import { useOwnDesigns } from './ownDesigns';
import { Panel } from './Panel';
import { SpecimenPage } from './SpecimenPage';
import { targetsOf } from './target';

const GAP = 16;

/** The section that gathers the notes, where a design comes to want it and the book has none. */
function pageForNotes(b: Book, before: Edition, after: Edition): Change | null {
  const [old, now] = [designOf(before).notes, designOf(after).notes];
  const comes = (of: 'at' | 'ends'): boolean => old[of] !== 'book' && now[of] === 'book';
  const wanted = comes('at') || (comes('ends') && notesOfKind(b, 'end').count > 0);
  if (!wanted || b.sections.some((s) => s.kind === 'notes')) return null;
  const added = addAtItsPlace(b, 'notes', () => `k${shortId()}`);
  return added.ok ? added.value : null;
}

export function Inside() {
  const { session, composer, goTo } = useTitle();
  const { book, edition: chosen } = useBook();
  const { composed, own, beside, besideWhole, refusal, besideRefusal } = useComposed();
  const kept = useOwnDesigns();
  const [target, setTarget] = useState('');
  const [second, setSecond] = useState<({ name: string } & DesignChoice) | null>(null);
  const [size, setSize] = useState<Size>('large');
  const [room, setRoom] = useState(880);
  const pane = useRef<HTMLDivElement>(null);
  const edition = shownBy(book, chosen);
  const id = edition?.id ?? '';
  // Exemplars are found again only when the sections change: typing doesn’t reach this station.
  const exemplars = useMemo(() => exemplarsOf(book, id), [book.sections, id]);
  const sections = useMemo(() => [...new Set(exemplars.map((e) => e.section))], [exemplars]);
  const targets = useMemo(() => targetsOf(book, new Set(sections)), [book.sections, sections]);
  useEffect(() => {
    composer.look({ sections, beside: second });
  }, [composer, sections, second]);
  useEffect(() => () => composer.look(null), [composer]);
  useEffect(() => {
    const el = pane.current;
    if (!el) return;
    const watch = new ResizeObserver(([e]) => e && setRoom(e.contentRect.width));
    watch.observe(el);
    return () => watch.disconnect();
  }, []);

  const change = useCallback(
    (label: string, make: (e: Edition) => EditionFields | null): void =>
      void session.change((b) => {
        const now = b.editions.find((e) => e.id === id);
        const fields = now && make(now);
        if (!fields) return null;
        const own: Change = { type: 'set-edition', id, fields };
        const page = pageForNotes(b, now, { ...now, ...fields } as Edition);
        if (page) toast('The section “Notes” was added at the end of the book.');
        return { type: 'group', label, changes: page ? [page, own] : [own] };
      }),
    [session, id],
  );
  const metric = useLengths().metric(edition?.trim ?? '');
  const latest = useRef(edition);
  latest.current = edition;
  const hand = useMemo<Hand | null>(
    () =>
      edition
        ? {
            design: designOf(edition),
            own: new Set(Object.keys(edition.design.set)),
            interior: edition.interior,
            pictures: book.pictures,
            metric,
            set(path, value, label) {
              const design = latest.current && withChoice(latest.current, path, value);
              if (!latest.current || !design) return false;
              composer.try({ ...latest.current, design });
              change(`Design: ${label.toLowerCase()}`, (e) => {
                const design = withChoice(e, path, value);
                return design && { design };
              });
              return true;
            },
            reset: (path, label) =>
              change(`Design: ${label.toLowerCase()} as in ${edition.interior}`, (e) => ({
                design: designWithout(e, path),
              })),
          }
        : null,
    [edition, book.pictures, change, composer, metric],
  );
  if (!edition || !hand)
    return (
      <p className="p-6">This book has no print edition yet. Add one in Editions to give it a design.</p>
    );

  const take = ({ interior, design }: DesignChoice, name: string, trim?: string): void => {
    const brought = trim !== undefined && trim !== edition.trim;
    change(`Take the design “${name}”`, () => ({ interior, design, ...(brought ? { trim } : {}) }));
    if (brought) toast(`The trim is ${trim} now, as in “${name}”.`);
  };
  const looks = (e: Edition): string => JSON.stringify(designOf(e));
  const otherwise = book.editions.filter((e) => isReflow(e) && looks(e) !== looks(edition));
  const across = ACROSS[size][second ? 1 : 0];
  const column = second ? (room - 24) / 2 : room;
  const width = Math.max(120, Math.floor((column - GAP * (across - 1)) / across) - 3);
  const shown = own ? pagesShown(exemplars, own.composed) : [];
  const shownBeside = second && beside ? pagesShown(exemplars, beside.composed) : [];
  const large = isLargePrint(edition);

  return (
    <div className="flex h-full flex-col">
      <DesignBar
        edition={edition}
        kept={kept}
        second={second}
        size={size}
        large={large}
        onSize={setSize}
        onTake={take}
        onSecond={setSecond}
        ebooks={otherwise.length}
        onEbooks={() =>
          void session.change((b) => {
            const now = b.editions.find((e) => e.id === id);
            const { interior, design } = now ?? edition;
            return {
              type: 'group',
              label: 'Use the design for the ebook too',
              changes: otherwise.map((e) => ({
                type: 'set-edition',
                id: e.id,
                fields: { interior, design },
              })),
            };
          })
        }
        onLarge={() =>
          change(large ? 'Standard print' : 'Large print', (e) => ({
            design: isLargePrint(e) ? withoutLargePrint(e) : withLargePrint(e),
          }))
        }
      />
      <TabView of="inside">
        <Panes
          name="design"
          width={340}
          beside={
            <ScrollArea label="Settings" className="flex-1">
              <div className="border-b border-rule px-4 py-2">
                <Comparison
                  edition={edition}
                  columns={[
                    { name: second ? edition.interior : 'In figures', composed },
                    ...(second ? [{ name: second.name, composed: besideWhole }] : []),
                  ]}
                />
              </div>
              <Panel
                edition={edition}
                hand={hand}
                pages={composed?.pages.length ?? 0}
                target={target}
                onTarget={setTarget}
                onPart={(part: Part, from) =>
                  change(`Design: ${part} as in ${from}`, (e) => ({ design: withPart(e, part, from) }))
                }
                onTrim={(trim) => change('Change the trim', () => ({ trim }))}
              />
            </ScrollArea>
          }
        >
          <div
            ref={pane}
            className="min-h-0 flex-1 overflow-x-hidden overflow-y-scroll bg-table p-4"
            tabIndex={0}
            role="region"
            aria-label="Specimen"
            data-generation={own?.generation ?? 0}
          >
            <p className="pb-2 text-[13px] text-ink-soft">{INTERIOR_NOTES[edition.interior]}</p>
            {refusal ? <p className="pb-3 text-rubric">{refusal}</p> : null}
            {!own && !refusal ? <p className="text-ink-soft">Setting the specimen …</p> : null}
            {second ? (
              <div className="grid grid-cols-2 gap-x-6">
                {(
                  [
                    ['own', edition.interior, own, shown, refusal],
                    ['beside', second.name, beside, shownBeside, besideRefusal],
                  ] as const
                ).map(([which, name, specimen, pages, trouble]) => (
                  <section
                    key={which}
                    aria-label={which === 'own' ? `${name}, as it is` : `${name}, beside it`}
                  >
                    <h2 className="flex h-10 items-center gap-3 border-b border-edge pb-1 font-serif text-[17px]">
                      {name}
                      {which === 'beside' ? (
                        <Button
                          className="ml-auto h-7 font-sans text-[14px]"
                          onClick={() => {
                            take(second, second.name);
                            setSecond(null);
                          }}
                        >
                          Take this design
                        </Button>
                      ) : null}
                    </h2>
                    {trouble && which === 'beside' ? <p className="text-rubric">{trouble}</p> : null}
                    <div className="flex flex-wrap gap-4 pt-3">
                      {specimen
                        ? pages.map((p) => (
                            <SpecimenPage
                              key={p.page}
                              of={which}
                              {...p}
                              composed={specimen.composed}
                              width={width}
                              targets={targets}
                              target={which === 'own' ? target : ''}
                              onTarget={setTarget}
                            />
                          ))
                        : null}
                    </div>
                  </section>
                ))}
              </div>
            ) : (
              <div className="flex flex-wrap gap-4">
                {own
                  ? shown.map((p) => (
                      <SpecimenPage
                        key={p.page}
                        of="own"
                        {...p}
                        composed={own.composed}
                        width={width}
                        targets={targets}
                        target={target}
                        onTarget={(t) => {
                          setTarget(t);
                          goTo({ section: own.composed.pages[p.page]?.section ?? '', page: p.page });
                        }}
                      />
                    ))
                  : null}
              </div>
            )}
          </div>
        </Panes>
      </TabView>
    </div>
  );
}
