'use client';
/** Sends to all outlets with a connection at once: first a summary of what goes where, and what it costs in time. */
import { useState } from 'react';
import { toast } from 'sonner';
import { inSentence } from '@pagina/core/base';
import { editionOf } from '@pagina/core/book';
import { OUTLET_FIELDS, outletNamed } from '@pagina/core/outlets';
import type { Going } from '@/server/parcels';
import { useBook, useTitle } from '@/title/context';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/Checkbox';
import { Dialog } from '@/ui/Dialog';
import { Table, type Column } from '@/ui/Table';

const list = new Intl.ListFormat('en-GB');
const nameOf = (g: Going): string => outletNamed(g.outlet)?.name ?? g.outlet;
const outletsIn = (n: number): string => (n === 1 ? '1 outlet' : `${n} outlets`);

function sizeIn(bytes: number): string {
  return bytes < 1_000_000 ? `${Math.ceil(bytes / 1_000)} kB` : `${(bytes / 1_000_000).toFixed(1)} MB`;
}
function daysIn(days: number): string {
  if (days === 0) return 'at once';
  if (days < 0.5)
    return `about ${Math.max(1, Math.round(days * 24))} hours`.replace('about 1 hours', 'about an hour');
  return days === 1 ? 'about a day' : `about ${days} days`;
}

export function SendAll({ connected }: { connected: number }) {
  const { session } = useTitle();
  const { book } = useBook();
  const [going, setGoing] = useState<readonly Going[] | null>(null);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [unsigned, setUnsigned] = useState(false);
  const [busy, setBusy] = useState(false);
  if (connected === 0) return null;
  const open = async (): Promise<void> => {
    setBusy(true);
    await session.flush();
    const r = await fetch(`/api/titles/${session.id}/outlets?going`).catch(() => null);
    setBusy(false);
    if (!r?.ok) {
      toast('Pagina can’t be reached.');
      return;
    }
    setLeft(new Set());
    setUnsigned(false);
    setGoing(((await r.json()) as { going: Going[] }).going);
  };
  const can = (g: Going): boolean => g.why === null && g.what !== 'nothing';
  const needsSigning = (g: Going): boolean => g.what === 'files' && !g.signedOff;
  const chosen = (going ?? []).filter((g) => can(g) && !left.has(g.outlet) && (unsigned || !needsSigning(g)));
  const send = async (): Promise<void> => {
    setBusy(true);
    const refused: string[] = [];
    for (const g of chosen) {
      const what = g.what === 'details' ? { details: true } : { product: g.product, unsigned };
      const r = await fetch(`/api/titles/${session.id}/outlets`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ outlet: g.outlet, edition: g.edition, ...what }),
      }).catch(() => null);
      if (!r?.ok)
        refused.push(
          `${nameOf(g)}: ${r ? ((await r.json()) as { message: string }).message : 'Pagina can’t be reached.'}`,
        );
    }
    setBusy(false);
    setGoing(null);
    for (const words of refused) toast(words);
  };
  const columns: Column<Going>[] = [
    {
      id: 'outlet',
      name: 'Outlet',
      heads: true,
      width: '150px',
      className: 'py-1 align-top',
      cell: (g) => (
        <Checkbox
          label={nameOf(g)}
          disabled={!can(g) || (needsSigning(g) && !unsigned)}
          on={chosen.includes(g)}
          onSet={(on) => {
            const next = new Set(left);
            if (on) next.delete(g.outlet);
            else next.add(g.outlet);
            setLeft(next);
          }}
        />
      ),
    },
    {
      id: 'what',
      name: 'What goes',
      className: 'py-1 align-top text-[13px] break-words',
      cell: (g) => {
        if (g.what === 'nothing') return 'nothing, it’s up to date';
        if (g.why !== null) return <span className="text-rubric">{g.why}</span>;
        if (g.what === 'details')
          return `changed details: ${list.format(g.details.map((f) => inSentence(OUTLET_FIELDS[f as keyof typeof OUTLET_FIELDS])))}`;
        const edition = editionOf(book, g.edition)?.name ?? '';
        return (
          <>
            {inSentence(edition)}: {g.files.map((f) => f.name).join(', ')}
            {g.signedOff ? null : (
              <span className="text-ochre">
                {g.provisional ? ' · provisional, not signed off' : ' · not signed off'}
              </span>
            )}
          </>
        );
      },
    },
    {
      id: 'size',
      name: 'Size',
      width: '80px',
      className: 'py-1 align-top text-[13px] tabular-nums',
      cell: (g) => (can(g) && g.what === 'files' ? sizeIn(g.size) : ''),
    },
    {
      id: 'days',
      name: 'On sale after',
      width: '120px',
      className: 'py-1 align-top text-[13px]',
      cell: (g) => (can(g) ? daysIn(g.days) : ''),
    },
  ];
  const waiting = (going ?? []).filter((g) => can(g) && needsSigning(g));
  return (
    <>
      <Button className="h-7" disabled={busy} onClick={() => void open()}>
        Send to several outlets
      </Button>
      <Dialog
        title="What goes where"
        className="w-[860px]"
        open={going !== null}
        onOpenChange={(o) => (o ? undefined : setGoing(null))}
      >
        {going?.length === 0 ? (
          <p>
            The title isn’t placed at any outlet that has a connection. Tick the outlets in the ledger first.
          </p>
        ) : (
          <Table
            label="What goes where"
            columns={columns}
            rows={going ?? []}
            keyOf={(g) => g.outlet}
            attributesOf={(g) => ({ 'data-going': g.outlet })}
          />
        )}
        {waiting.length > 0 ? (
          <div className="pt-3">
            <Checkbox
              label={`Send files that aren’t signed off too (${list.format(waiting.map(nameOf))})`}
              on={unsigned}
              onSet={setUnsigned}
            />
          </div>
        ) : null}
        <div className="flex justify-end gap-2 pt-4">
          <Button onClick={() => setGoing(null)}>Cancel</Button>
          <Button kind="primary" disabled={busy || chosen.length === 0} onClick={() => void send()}>
            {chosen.length === 0 ? 'Nothing to send' : `Send to ${outletsIn(chosen.length)}`}
          </Button>
        </div>
      </Dialog>
    </>
  );
}
