'use client';
/** One outlet: what it asks for, the author's choices there, the sending or the copying sheet, and what happened. */
import { useState } from 'react';
import { toast } from 'sonner';
import type { Finding } from '@pagina/core/base';
import { placingAt, type Edition } from '@pagina/core/book';
import {
  ACCOUNT_NEEDS,
  demandsOf,
  fileFor,
  isReady,
  lackingAt,
  linksToShops,
  moveFault,
  type Facts,
  type Outlet,
} from '@pagina/core/outlets';
import { useBook, useTitle } from '@/title/context';
import { Select } from '@/ui/Select';
import { TabNames, Tabs, TabView } from '@/ui/Tabs';
import { Affiliate } from './Affiliate';
import { Choices, isoDay } from './Choices';
import { CopyingSheet } from './CopyingSheet';
import { Demands } from './Demands';
import { Happened } from './Happened';
import { PlaceHere } from './PlaceHere';
import { Sending, toSend, useFiles, type What } from './Sending';
import { usePlacing, type Beside, type Loaded } from './useOutlets';

export type View = 'asked' | 'choices' | 'sheet';

interface At {
  of: Beside;
  /** Conflicts in whose way its edition isn't sent. */
  blocked: readonly Finding[];
  loaded: Loaded | null;
  load: () => Promise<void>;
}

export function OutletPanel({ view, onView, ...at }: At & { view: View; onView: (view: View) => void }) {
  const { outlet, editions, edition, facts, demands, connected } = at.of;
  const { session } = useTitle();
  const set = usePlacing(outlet.id);
  const byHand = !connected;
  const shown = view === 'sheet' && !byHand ? 'asked' : view;
  const onChoices = (): void => onView('choices');
  return (
    <section aria-label={outlet.name} className="flex min-h-0 flex-1 flex-col">
      <header className="px-5 pt-4 pb-2">
        <div className="flex items-start gap-3">
          <h1 className="font-serif text-[20px]">{outlet.name}</h1>
          {editions.length > 1 && edition ? (
            <Select
              label={`Edition for ${outlet.name}`}
              className="ml-auto"
              value={edition.id}
              choices={editions.map((e) => ({ value: e.id, name: e.name }))}
              onChoose={(e) => set({ edition: e }, `Choose the edition for ${outlet.name}`)}
            />
          ) : null}
        </div>
        <p className="mt-1 text-[13px] text-ink-soft">{outlet.words}</p>
        <div className="mt-2 text-[13px]">
          <PlaceHere outlet={outlet} />
          <AccountLacks outlet={outlet} />
          {byHand && outlet.reached === 'connection' ? <CouldConnect outlet={outlet} /> : null}
        </div>
      </header>
      <Tabs value={shown} onChoose={onView}>
        <div className="flex h-full min-h-0 flex-col">
          <div className="border-b border-rule px-4">
            <TabNames
              label={`Views of ${outlet.name}`}
              names={[
                ['asked', 'Asked for'],
                ...(byHand ? ([['sheet', 'Copying sheet']] as const) : []),
                ['choices', 'Choices'],
              ]}
              className=""
            />
          </div>
          <div
            className="min-h-0 flex-1 overflow-auto px-5 pb-3"
            tabIndex={0}
            role="region"
            aria-label={`${outlet.name}: details`}
          >
            {!edition || !facts ? (
              <p className="pt-3 text-ink-soft">The title has no edition that {outlet.name} sells.</p>
            ) : (
              <>
                {/* Above what scrolls, so that heads of tables stick to the edge. */}
                <div className="h-3" />
                <TabView of="asked">
                  {byHand ? (
                    <>
                      <Demands of={demands} outlet={outlet.name} title={session.id} onChoices={onChoices} />
                      <OwnCode outlet={outlet} edition={edition} {...at} />
                      <ByHand outlet={outlet.id} />
                    </>
                  ) : (
                    <Connected
                      outlet={outlet}
                      edition={edition}
                      facts={facts}
                      onChoices={onChoices}
                      {...at}
                    />
                  )}
                </TabView>
                <TabView of="sheet">
                  <CopyingSheet outlet={outlet} edition={edition} facts={facts} />
                </TabView>
                <TabView of="choices">
                  <Choices outlet={outlet} facts={facts} />
                </TabView>
              </>
            )}
          </div>
        </div>
      </Tabs>
    </section>
  );
}

function AccountLacks({ outlet }: { outlet: Outlet }) {
  const { imprint } = useBook();
  const lacking = lackingAt(outlet, imprint);
  const { days } = outlet.account;
  if (lacking.length === 0) return null;
  return (
    <p className="mt-1 text-ink-soft">
      Your account there still needs your{' '}
      {new Intl.ListFormat('en-GB').format(lacking.map((n) => ACCOUNT_NEEDS[n]))}. Once you’ve given{' '}
      {lacking.length === 1 ? 'it' : 'them'}, say so in{' '}
      <a className="underline" href="/imprint">
        Imprint
      </a>
      .{days > 0 ? ` Opening an account takes about ${days === 1 ? 'a day' : `${days} days`}.` : ''}
    </p>
  );
}

/** An outlet that could be reached without filling in forms. */
function CouldConnect({ outlet }: { outlet: Outlet }) {
  return (
    <p className="mt-1 text-ink-soft">
      Pagina can send to {outlet.name} directly, once you’ve entered the key of your account in{' '}
      <a className="underline" href="/imprint">
        Imprint
      </a>
      . Until then, its copying sheet leads through its pages.
    </p>
  );
}

/** The affiliate code, where the outlet takes one. */
function OwnCode({ outlet, edition, loaded, load }: At & { outlet: Outlet; edition: Edition }) {
  const { book } = useBook();
  if (!outlet.affiliate || !loaded) return null;
  const account = loaded.accounts[outlet.id];
  return (
    <Affiliate
      key={account?.changedAt ?? 0}
      outlet={outlet}
      code={account?.affiliate ?? ''}
      used={linksToShops(book, edition.id)}
      onKept={load}
    />
  );
}

/** An outlet with a connection: what it asks of the file that would go, the sending, and what happened. */
function Connected({
  outlet,
  edition,
  facts,
  onChoices,
  ...at
}: At & { outlet: Outlet; edition: Edition; facts: Facts; onChoices: () => void }) {
  const { session } = useTitle();
  const { book, revision, jobs } = useBook();
  const [sending, setSending] = useState(false);
  const { blocked, load, loaded, of } = at;
  const files = useFiles(outlet.id, edition.id);
  const file = toSend(files, revision);
  const made = file ? { ...file.product, signedOff: file.signed.at !== null } : undefined;
  const told = { ...facts, made: { ...facts.made, [fileFor(book, edition.id, outlet.id)]: made } };
  const demands = demandsOf(outlet, told);
  const { listing } = of;
  const late = listing && moveFault(outlet, listing, book.record.published, isoDay(new Date()));
  const send = async (what: What): Promise<void> => {
    if (sending) return;
    setSending(true);
    await session.flush();
    const r = await fetch(`/api/titles/${session.id}/outlets`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ outlet: outlet.id, edition: edition.id, ...what }),
    }).finally(() => setSending(false));
    if (!r.ok) toast(((await r.json()) as { message: string }).message);
    await load();
  };
  return (
    <>
      <Demands of={demands} outlet={outlet.name} title={session.id} onChoices={onChoices} />
      <OwnCode outlet={outlet} edition={edition} {...at} />
      {[...blocked.map((f) => `${f.message} ${f.remedy ?? ''}`), ...(late ? [late] : [])].map((words) => (
        <p key={words} className="mt-3 text-rubric">
          <span aria-hidden>■</span> {words}
        </p>
      ))}
      <Sending
        outlet={outlet}
        edition={edition}
        facts={told}
        files={files ?? null}
        file={file}
        ready={isReady(demands) && blocked.length === 0 && !late}
        at={listing?.delivered && listing.state !== 'withdrawn' ? listing : null}
        job={jobs.find(
          (j) =>
            (j.kind === 'send' || j.kind === 'withdraw') &&
            (j.payload as { listing?: string }).listing === listing?.id,
        )}
        send={send}
      />
      <Happened
        outlet={outlet}
        loaded={loaded}
        onLoad={load}
        onWithdraw={() => void send({ withdraw: true })}
      />
    </>
  );
}

/** What was entered back of an outlet that is filled in by hand. */
function ByHand({ outlet }: { outlet: string }) {
  const { book } = useBook();
  const { state, number, link } = placingAt(book, outlet);
  if (state === 'waiting') return null;
  return (
    <p className="mt-4 border-t border-rule pt-3 text-[13px]" data-listing={state}>
      <strong className={state === 'on sale' ? 'text-spruce' : state === 'held' ? 'text-rubric' : ''}>
        {state}
      </strong>
      {number ? <span className="text-ink-soft"> · {number}</span> : null}
      {link ? <span className="text-ink-soft"> · {link}</span> : null}
    </p>
  );
}
