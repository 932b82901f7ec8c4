'use client';
/** The block of ISBNs: how many are left, which edition has which, and how more come in. */
import Link from 'next/link';
import { useCallback, useEffect, useState } from 'react';
import { toast } from 'sonner';
import type { IsbnRow } from '@pagina/data';
import { Button } from '@/ui/Button';
import { Collapsible } from '@/ui/Collapsible';
import { Field, input, lineOf } from '@/ui/Field';
import { NumberField } from '@/ui/NumberField';
import { Table, type Column } from '@/ui/Table';

async function send(method: 'POST' | 'DELETE', body: unknown): Promise<Record<string, unknown> | null> {
  const r = await fetch('/api/imprint/isbns', {
    method,
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(body),
  }).catch(() => null);
  const answer = r && ((await r.json()) as Record<string, unknown>);
  if (!r?.ok)
    toast(
      typeof answer?.message === 'string' ? answer.message : 'Pagina can’t be reached. Nothing was changed.',
    );
  return r?.ok ? answer : null;
}

export function IsbnBlock() {
  const [rows, setRows] = useState<IsbnRow[] | null>(null);
  const [list, setList] = useState('');
  const [first, setFirst] = useState('');
  const [count, setCount] = useState(10);
  const load = useCallback(async () => {
    const r = await fetch('/api/imprint/isbns').catch(() => null);
    if (r?.ok) setRows(((await r.json()) as { isbns: IsbnRow[] }).isbns);
  }, []);
  useEffect(() => {
    void load();
  }, [load]);
  const add = async (body: unknown, done: () => void): Promise<void> => {
    const answer = await send('POST', body);
    if (!answer) return;
    const { added, found, wrong } = answer as { added: number; found: number; wrong: string[] };
    const known = found - added;
    toast(
      [
        added === 1 ? '1 number added.' : `${added} numbers added.`,
        known > 0 ? `${known} already there.` : '',
        wrong.length > 0
          ? `Not an ISBN: ${wrong.slice(0, 3).join(', ')}${wrong.length > 3 ? ' …' : ''}.`
          : '',
      ]
        .filter(Boolean)
        .join(' '),
    );
    done();
    await load();
  };
  if (!rows) return null;
  const free = rows.filter((r) => r.use === null);
  return (
    <div className="space-y-3">
      {rows.length === 0 ? (
        <p>
          No numbers yet. Add those that your ISBN agency gave you: each edition gets the next one by a press
          in the record.
        </p>
      ) : (
        <p>
          {free.length} of {rows.length} free{free[0] ? `; the next is ${free[0].number}` : ''}.
        </p>
      )}
      <div className="grid grid-cols-[minmax(0,1fr)_90px_auto] items-end gap-2">
        <Field label="First number of a block">
          <input
            className={input}
            value={first}
            maxLength={40}
            placeholder="978-…"
            onChange={(e) => setFirst(e.target.value)}
          />
        </Field>
        <div>
          <span className="column-head mb-1 block">How many</span>
          <NumberField
            label="How many"
            value={count}
            least={1}
            most={1_000}
            onSet={setCount}
            className="w-full"
          />
        </div>
        <Button disabled={first.trim() === ''} onClick={() => void add({ first, count }, () => setFirst(''))}>
          Add them
        </Button>
      </div>
      <Field label="Or a list">
        <textarea
          className={lineOf('h-auto py-1.5')}
          rows={2}
          value={list}
          onChange={(e) => setList(e.target.value)}
        />
      </Field>
      <Button disabled={list.trim() === ''} onClick={() => void add({ list }, () => setList(''))}>
        Add the list
      </Button>
      {rows.length > 0 ? (
        <Collapsible heading={<span className="column-head">All numbers ({rows.length})</span>}>
          <div className="mt-2 max-h-72 overflow-auto" tabIndex={0} role="region" aria-label="All ISBNs">
            <Table
              label="ISBNs"
              columns={columnsWith(load)}
              rows={rows}
              keyOf={(r) => r.number}
              attributesOf={(r) => ({ 'data-isbn': r.number })}
            />
          </div>
        </Collapsible>
      ) : null}
    </div>
  );
}

const columnsWith = (load: () => Promise<void>): Column<IsbnRow>[] => {
  const drop = (number: string, how: 'remove' | 'free'): void =>
    void send('DELETE', { number, how }).then(load);
  return [
    { id: 'number', name: 'ISBN', heads: true, cell: (r) => r.number, className: 'h-8 tabular-nums' },
    {
      id: 'use',
      name: 'Edition',
      cell: (r) =>
        r.use === null ? (
          <span className="text-spruce">○ free</span>
        ) : r.kept ? (
          <span className="text-ink-soft">kept for an edition that doesn’t carry it now</span>
        ) : (
          <Link className="underline" href={`/titles/${r.use.title}/record`}>
            {r.use.titleName || 'Untitled'}, {r.use.editionName}
          </Link>
        ),
      className: 'text-[13px]',
    },
    {
      id: 'drop',
      name: 'Actions',
      silent: true,
      right: true,
      cell: (r) =>
        r.use === null ? (
          <Button
            kind="quiet"
            className="h-7"
            aria-label={`Remove ${r.number}`}
            onClick={() => drop(r.number, 'remove')}
          >
            Remove
          </Button>
        ) : r.kept ? (
          <Button
            kind="quiet"
            className="h-7"
            aria-label={`Free ${r.number}`}
            onClick={() => drop(r.number, 'free')}
          >
            Free it
          </Button>
        ) : null,
    },
  ];
};
