'use client';
/** The imprint: what belongs to no one title. */
import type { ReactNode } from 'react';
import { OUTLETS } from '@pagina/core/outlets';
import { reminderDays } from '@/forms/lines';
import { LineForm } from '@/ui/LineForm';
import { Affiliate } from '@/stations/outlets/Affiliate';
import { Accounts } from './Accounts';
import { Connections } from './Connections';
import { Currencies } from './Currencies';
import { HousePart } from './HousePart';
import { IsbnBlock } from './IsbnBlock';
import { OwnOutlets } from './OwnOutlets';
import { TaxTable } from './TaxTable';
import { SheetPage } from '@/ui/SheetPage';
import { useImprint } from './useImprint';

export function ImprintSheet() {
  const { loaded, trouble, load, change } = useImprint();
  return (
    <SheetPage name="Imprint" trouble={trouble}>
      {loaded ? (
        <div className="mx-auto grid max-w-[1180px] grid-cols-2 gap-x-12 gap-y-8 px-6 py-6">
          <div className="space-y-8">
            <Part
              title="The house"
              words="New titles begin with these; in other titles the record offers them."
            >
              <HousePart imprint={loaded.imprint} change={change} load={load} />
            </Part>
            <Part
              title="Outlet accounts"
              words="An outlet pays you once it has these. Tick what you’ve given it."
            >
              <Accounts imprint={loaded.imprint} change={change} />
            </Part>
            <Part
              title="Connections"
              words="With the key of your account, Pagina sends books to an outlet and follows them there. Keys are encrypted, and never shown again."
            >
              <Connections loaded={loaded} load={load} />
            </Part>
            <Part
              title="ISBN block"
              words="Each edition gets a number of its own, which is never used again."
            >
              <IsbnBlock />
            </Part>
            <Part title="Affiliate codes" words="They go into the links of files made for an outlet.">
              {OUTLETS.filter((o) => o.affiliate).map((o) => (
                <Affiliate
                  key={`${o.id} ${loaded.accounts[o.id]?.changedAt ?? 0}`}
                  outlet={o}
                  code={loaded.accounts[o.id]?.affiliate ?? ''}
                  used={false}
                  onKept={load}
                />
              ))}
            </Part>
            <Part
              title="Outlets of your own"
              words="For a shop that Pagina doesn’t know. Say what its pages ask for, and you get a copying sheet for it."
            >
              <OwnOutlets imprint={loaded.imprint} change={change} />
            </Part>
          </div>
          <div className="space-y-8">
            <Part title="Currencies" words="List prices in other currencies are worked out with these rates.">
              <Currencies imprint={loaded.imprint} change={change} />
            </Part>
            <Part
              title="Reminders"
              words="Readers search for other words after a while. Keywords and descriptions come up again in News."
            >
              <LineForm
                heading
                label="Days until they come up again; 0 for never"
                schema={reminderDays}
                value={String(loaded.imprint.reminders)}
                action="Save"
                className="w-80"
                onSend={(days) => change({ set: 'reminders', days: Number(days) })}
              />
            </Part>
            <Part title="Tax on books" words="Per cent of the price without tax.">
              <TaxTable imprint={loaded.imprint} change={change} />
            </Part>
          </div>
        </div>
      ) : null}
    </SheetPage>
  );
}

function Part({ title, words, children }: { title: string; words: string; children: ReactNode }) {
  return (
    <section aria-label={title}>
      <h2 className="border-b border-rule pb-1 font-serif text-[18px]">{title}</h2>
      <p className="mt-1 mb-3 text-[13px] text-ink-soft">{words}</p>
      {children}
    </section>
  );
}
