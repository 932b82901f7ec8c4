'use client';
/** Outlets: the ledger of what they ask for, and one outlet beside it. */
import { useMemo, useState } from 'react';
import { conflictsOf, inTheWayOf, meantOf, type OutletField } from '@pagina/core/outlets';
import { useBook } from '@/title/context';
import { Panes } from '@/ui/Panes';
import { TabNames, Tabs, TabView } from '@/ui/Tabs';
import { OneOf } from '@/ui/ToggleGroup';
import { SeverityMark } from '@/ui/SeverityMark';
import { BookPage } from './BookPage';
import { isoDay } from './Choices';
import { Ledger } from './Ledger';
import { OutletPanel, type View } from './OutletPanel';
import { Prices } from './Prices';
import { SendAll } from './SendAll';
import { useBeside, useLoaded } from './useOutlets';

export function Outlets() {
  const { book, products, listings, imprint } = useBook();
  const { loaded, load } = useLoaded();
  const [chosen, setChosen] = useState<string | null>(null);
  const [view, setView] = useState<View>('asked');
  const [across, setAcross] = useState<'ledger' | 'prices' | 'page'>('ledger');
  const rows = useBeside(loaded);
  const beside = rows.find((r) => r.outlet.id === chosen) ?? rows[0];
  const choose = (outlet: string, field?: OutletField): void => {
    setChosen(outlet);
    if (field) setView('asked');
  };
  const meant = useMemo(
    () => meantOf(book, products, listings, imprint),
    [book, products, listings, imprint],
  );
  const today = isoDay(new Date());
  const conflicts = conflictsOf(book, meant, today);
  return (
    <Panes
      name="outlet"
      width={470}
      beside={
        beside ? (
          <OutletPanel
            key={beside.outlet.id}
            of={beside}
            blocked={beside.edition ? inTheWayOf(beside.edition, book, meant, today) : []}
            loaded={loaded}
            load={load}
            view={view}
            onView={setView}
          />
        ) : null
      }
    >
      <Tabs value={across} onChoose={setAcross}>
        <div className="flex h-full min-h-0 flex-col bg-sheet">
          <div className="flex items-center border-b border-rule px-3 pt-1">
            <TabNames
              label="Views of all outlets"
              names={[
                ['ledger', 'Ledger'],
                ['prices', 'Prices'],
                ['page', 'Page for readers'],
              ]}
              className=""
            />
            <span className="ml-auto pb-1">
              <SendAll connected={rows.filter((r) => r.connected).length} />
            </span>
          </div>
          {across !== 'page' ? (
            <div className="min-h-0 flex-1 overflow-auto" tabIndex={0} role="region" aria-label="Outlets">
              {conflicts.length > 0 ? (
                <ul
                  aria-label="Conflicts between outlets"
                  className="space-y-1 border-b border-edge px-3 py-2 text-[13px]"
                >
                  {conflicts.map((f) => (
                    <li key={`${f.rule} ${f.about}`}>
                      <SeverityMark severity={f.severity} /> {f.message}{' '}
                      <span className="text-ink-soft">{f.remedy}</span>
                    </li>
                  ))}
                </ul>
              ) : null}
              <TabView of="ledger">
                <Ledger of={rows} chosen={beside?.outlet.id ?? ''} onChoose={choose} />
              </TabView>
              <TabView of="prices">
                <div className="px-4 py-3">
                  <OneOf
                    label="Outlet"
                    value={beside?.outlet.id ?? ''}
                    choices={rows.map((r) => ({ value: r.outlet.id, name: r.outlet.name }))}
                    onChoose={setChosen}
                  />
                  {beside?.facts ? (
                    <Prices outlet={beside.outlet} facts={beside.facts} />
                  ) : (
                    <p className="mt-4 text-ink-soft">The title has no edition that it sells.</p>
                  )}
                </div>
              </TabView>
            </div>
          ) : null}
          <TabView of="page">
            <BookPage />
          </TabView>
        </div>
      </Tabs>
    </Panes>
  );
}
