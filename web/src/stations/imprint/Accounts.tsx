'use client';
/** What each outlet needs to know before it pays, and what of it was given. */
import {
  ACCOUNT_NEEDS,
  OUTLETS,
  type AccountNeed,
  type Imprint,
  type ImprintChange,
  type Outlet,
} from '@pagina/core/outlets';
import { Checkbox } from '@/ui/Checkbox';
import { Table, type Column } from '@/ui/Table';

const NEEDS = Object.keys(ACCOUNT_NEEDS) as AccountNeed[];

export function Accounts({
  imprint,
  change,
}: {
  imprint: Imprint;
  change: (change: ImprintChange) => Promise<boolean>;
}) {
  const given = (o: Outlet): AccountNeed[] => imprint.accounts[o.id]?.given ?? [];
  const ready = (o: Outlet): boolean => o.account.needs.every((n) => given(o).includes(n));
  const set = (o: Outlet, need: AccountNeed, on: boolean): void => {
    const now = given(o).filter((n) => n !== need);
    void change({ set: 'account', outlet: o.id, account: { given: on ? [...now, need] : now } });
  };
  const columns: Column<Outlet>[] = [
    { id: 'outlet', name: 'Outlet', heads: true, cell: (o) => o.name, className: 'h-8' },
    ...NEEDS.map((need): Column<Outlet> => ({
      id: need,
      name: { payment: 'Payment', tax: 'Tax', address: 'Address' }[need],
      cell: (o) =>
        o.account.needs.includes(need) ? (
          <Checkbox
            label={<span className="sr-only">{`${o.name} has the ${ACCOUNT_NEEDS[need]}`}</span>}
            on={given(o).includes(need)}
            onSet={(on) => set(o, need, on)}
          />
        ) : (
          <span className="text-ink-soft">
            <span aria-hidden>–</span>
            <span className="sr-only">not asked</span>
          </span>
        ),
    })),
    {
      id: 'state',
      name: 'Status',
      cell: (o) =>
        ready(o) ? (
          <span className="text-spruce">✓ ready</span>
        ) : (
          <span className="text-[13px] text-ink-soft">
            {o.account.days === 0
              ? 'open at once'
              : `open after about ${o.account.days === 1 ? 'a day' : `${o.account.days} days`}`}
          </span>
        ),
    },
  ];
  return (
    <Table
      label="Accounts"
      columns={columns}
      rows={OUTLETS}
      keyOf={(o) => o.id}
      attributesOf={(o) => ({ 'data-account': o.id })}
    />
  );
}
