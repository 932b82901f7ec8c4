'use client';
/** One outlet: what it asks for, the author's choices there, the sending or the copying sheet, and what happened. */
import { useState } from 'react';
import type { Finding } from '@pagina/core/base';
import { placingAt } from '@pagina/core/book';
import {
  ACCOUNT_NEEDS,
  fileFor,
  isReady,
  lackingAt,
  linksToShops,
  NEW_IMPRINT,
  demandsOf,
} from '@pagina/core/outlets';
import { useBook, useTitle } from '@/title/context';
import { TabNames, Tabs, TabView } from '@/ui/Tabs';
import { Select } from '@/ui/Select';
import { toast } from 'sonner';
import { Affiliate } from './Affiliate';
import { Choices } from './Choices';
import { CopyingSheet } from './CopyingSheet';
import { Demands } from './Demands';
import { Happened } from './Happened';
import { PlaceHere } from './PlaceHere';
import { Sending, toSend, useFiles, type What } from './Sending';
import type { Beside, Loaded } from './useOutlets';

export type View = 'asked' | 'choices' | 'sheet';

export function OutletPanel({
  of: beside,
  blocked,
  loaded,
  load,
  view,
  onView,
  onEdition,
}: {
  of: Beside;
  /** Conflicts in whose way its edition isn't sent. */
  blocked: readonly Finding[];
  loaded: Loaded | null;
  load: () => Promise<void>;
  view: View;
  onView: (view: View) => void;
  onEdition: (edition: string) => void;
}) {
  const { outlet, editions, edition, facts } = beside;
  const byHand = outlet.reached === 'hand';
  const shown = view === 'sheet' && !byHand ? 'asked' : view;
  const lacking = lackingAt(outlet, loaded?.imprint ?? NEW_IMPRINT);
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
              onChoose={onEdition}
            />
          ) : null}
        </div>
        <p className="mt-1 text-[13px] text-ink-soft">{outlet.words}</p>
        <div className="mt-2 text-[13px]">
          <PlaceHere outlet={outlet} />
          {lacking.length > 0 ? (
            <p className="mt-1 text-ink-soft">
              {byHand ? 'The account there' : 'The account'} still needs{' '}
              {new Intl.ListFormat('en-GB').format(lacking.map((n) => ACCOUNT_NEEDS[n]))}. Tick{' '}
              {lacking.length === 1 ? 'it' : 'them'} off in{' '}
              <a className="underline" href="/imprint">
                Imprint
              </a>{' '}
              once given
              {outlet.account.days > 0
                ? `; a new account is looked at for about ${outlet.account.days === 1 ? 'a day' : `${outlet.account.days} days`}`
                : ''}
              .
            </p>
          ) : null}
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
            className="min-h-0 flex-1 overflow-auto px-5 py-3"
            tabIndex={0}
            role="region"
            aria-label={`${outlet.name}: details`}
          >
            {!edition || !facts ? (
              <p className="text-ink-soft">The title has no edition that {outlet.name} sells.</p>
            ) : (
              <>
                <TabView of="asked">
                  <Asked
                    of={beside}
                    blocked={blocked}
                    loaded={loaded}
                    load={load}
                    onChoices={() => onView('choices')}
                  />
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

/** What it asks for; with a connection, the sending and what happened below. */
function Asked({
  of: { outlet, edition, facts, demands: plain, listing },
  blocked,
  loaded,
  load,
  onChoices,
}: {
  of: Beside;
  blocked: readonly Finding[];
  loaded: Loaded | null;
  load: () => Promise<void>;
  onChoices: () => void;
}) {
  const { session } = useTitle();
  const { book, revision, jobs } = useBook();
  const connected = outlet.reached === 'connection';
  const [sent, setSent] = useState(false);
  const files = useFiles(outlet.id, edition?.id ?? '');
  const file = connected ? toSend(files, revision) : null;
  if (!edition || !facts) return null;
  const made = file && { ...file.product, signedOff: file.signed.at !== null };
  const demands = connected
    ? demandsOf(outlet, {
        ...facts,
        made: { ...facts.made, [fileFor(book, edition.id, outlet.id)]: made ?? undefined },
      })
    : plain;
  const send = async (what: What): Promise<void> => {
    if (sent) return;
    setSent(true);
    await session.flush();
    const r = await fetch(`/api/titles/${session.id}/outlets`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ outlet: outlet.id, edition: edition.id, ...what }),
    }).finally(() => setSent(false));
    if (!r.ok) toast(((await r.json()) as { message: string }).message);
    await load();
  };
  const account = loaded?.accounts[outlet.id];
  return (
    <>
      <Demands of={demands} outlet={outlet.name} title={session.id} onVariant={onChoices} />
      {outlet.affiliate && loaded ? (
        <Affiliate
          key={account?.changedAt ?? 0}
          outlet={outlet}
          code={account?.affiliate ?? ''}
          used={linksToShops(book, edition.id)}
          onKept={load}
        />
      ) : null}
      {connected ? (
        <>
          {blocked.map((f) => (
            <p key={f.about} className="mt-3 text-rubric">
              <span aria-hidden>■</span> {f.message} {f.remedy}
            </p>
          ))}
          <Sending
            outlet={outlet}
            edition={edition}
            files={files ?? null}
            file={file}
            ready={isReady(demands) && blocked.length === 0}
            at={listing?.delivered ? listing : null}
            job={jobs.find((j) => j.kind === 'send')}
            send={send}
          />
          <Happened outlet={outlet} loaded={loaded} onLoad={load} />
        </>
      ) : (
        <ByHand outlet={outlet.id} />
      )}
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
