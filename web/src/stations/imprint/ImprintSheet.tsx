'use client';
/** The imprint: what belongs to no one title. */
import Link from 'next/link';
import type { ReactNode } from 'react';
import { OUTLETS } from '@pagina/core/outlets';
import { Affiliate } from '@/stations/outlets/Affiliate';
import { Accounts } from './Accounts';
import { Currencies } from './Currencies';
import { IsbnBlock } from './IsbnBlock';
import { OwnOutlets } from './OwnOutlets';
import { TaxTable } from './TaxTable';
import { useImprint } from './useImprint';

export function ImprintSheet() {
  const { loaded, trouble, load, change } = useImprint();
  return (
    <main className="flex h-full flex-col">
      <header className="flex h-11 shrink-0 items-center gap-3 border-b border-rule px-4">
        <Link href="/titles" className="font-serif text-[18px] hover:underline">
          Pagina
        </Link>
        <h1 className="font-serif text-[18px] text-ink-soft">Imprint</h1>
        <Link href="/titles" className="ml-auto underline">
          Titles
        </Link>
      </header>
      <div className="flex-1 overflow-auto bg-sheet" tabIndex={0} role="region" aria-label="Imprint">
        {trouble ? (
          <p role="alert" className="m-6 border-l-2 border-rubric pl-3 text-rubric">
            {trouble}
          </p>
        ) : null}
        {loaded ? (
          <div className="mx-auto grid max-w-[1180px] grid-cols-2 gap-x-12 gap-y-8 px-6 py-6">
            <div className="space-y-8">
              <Part
                title="Outlet accounts"
                words="An outlet pays you once it has these. Tick what you’ve given it."
              >
                <Accounts imprint={loaded.imprint} change={change} />
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
              <Part
                title="Currencies"
                words="List prices in other currencies are worked out with these rates."
              >
                <Currencies imprint={loaded.imprint} change={change} />
              </Part>
              <Part title="Tax on books" words="Per cent of the price without tax.">
                <TaxTable imprint={loaded.imprint} change={change} />
              </Part>
            </div>
          </div>
        ) : null}
      </div>
    </main>
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
