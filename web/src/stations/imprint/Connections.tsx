'use client';
/** Keys of accounts: an outlet whose key is known is reached by its connection. */
import { useState } from 'react';
import { toast } from 'sonner';
import { OUTLETS, type Outlet } from '@pagina/core/outlets';
import { accountKey } from '@/forms/lines';
import { Button } from '@/ui/Button';
import { Confirm } from '@/ui/Dialog';
import { LineForm } from '@/ui/LineForm';
import type { ImprintLoaded } from './useImprint';

export function Connections({ loaded, load }: { loaded: ImprintLoaded; load: () => Promise<void> }) {
  const set = async (outlet: string, key: string): Promise<boolean> => {
    const r = await fetch('/api/outlets/accounts/key', {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ outlet, key }),
    }).catch(() => null);
    if (!r?.ok) toast(r ? ((await r.json()) as { message: string }).message : 'Pagina can’t be reached.');
    await load();
    return r?.ok ?? false;
  };
  return (
    <>
      <p className="mb-3 text-[13px]">
        These outlets are simulated.{' '}
        <a className="underline" href={loaded.desk} target="_blank" rel="noreferrer">
          Their own page
        </a>{' '}
        shows the keys of your accounts, and lets you try slow answers and outages.
      </p>
      <ul className="divide-y divide-rule border-y border-rule">
        {OUTLETS.filter((o) => o.reached === 'connection').map((o) => (
          <li key={o.id} className="py-2" data-connection={o.id}>
            <One
              outlet={o}
              connected={loaded.accounts[o.id]?.connected === true}
              onSet={(key) => set(o.id, key)}
            />
          </li>
        ))}
      </ul>
    </>
  );
}

function One({
  outlet,
  connected,
  onSet,
}: {
  outlet: Outlet;
  connected: boolean;
  onSet: (key: string) => Promise<boolean>;
}) {
  const [entering, setEntering] = useState(false);
  return (
    <>
      <div className="flex items-center gap-3">
        <span className="w-32 font-serif text-[15px]">{outlet.name}</span>
        {connected ? (
          <span className="text-spruce">✓ connected</span>
        ) : (
          <span className="text-ink-soft">filled in by hand</span>
        )}
        <span className="ml-auto flex gap-2">
          <Button className="h-7" onClick={() => setEntering(!entering)}>
            {connected ? 'Enter another key' : 'Enter the key'}
            <span className="sr-only"> of {outlet.name}</span>
          </Button>
          {connected ? (
            <Confirm
              question={`End the connection to ${outlet.name}?`}
              consequence="Books that are there stay there. What you send later is entered by hand, with the copying sheet."
              action="End it"
              onConfirm={() => void onSet('')}
            >
              <Button className="h-7">
                Disconnect<span className="sr-only"> {outlet.name}</span>
              </Button>
            </Confirm>
          ) : null}
        </span>
      </div>
      {entering ? (
        <LineForm
          className="mt-2"
          label={`Key of your account at ${outlet.name}`}
          placeholder="Key of your account"
          schema={accountKey}
          secret
          autoFocus
          action="Save"
          onSend={async (key) => {
            const kept = await onSet(key);
            if (kept) setEntering(false);
            return kept;
          }}
        />
      ) : null}
    </>
  );
}
