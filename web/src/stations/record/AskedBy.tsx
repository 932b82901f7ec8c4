'use client';
/** Beside a field of the record: which of the outlets that the title goes to ask for it, and what they say of it. */
import { createContext, useContext, useMemo, type ReactNode } from 'react';
import {
  demandsOf,
  editionAt,
  factsOf,
  outletsOf,
  type Demand,
  type Outlet,
  type OutletField,
} from '@pagina/core/outlets';
import { placingAt } from '@pagina/core/book';
import { useBook } from '@/title/context';

export type AskingOutlets = readonly { outlet: Outlet; demands: readonly Demand[] }[];
export const Asking = createContext<AskingOutlets>([]);
const LIST = new Intl.ListFormat('en-GB');

/** While the title goes nowhere yet, nothing is said. */
export function AskedByProvider({ children }: { children: ReactNode }) {
  const { book, revision, products, imprint } = useBook();
  const asking = useMemo((): AskingOutlets => {
    const chosen = outletsOf(imprint).filter((o) => placingAt(book, o.id).chosen);
    return chosen.flatMap((outlet) => {
      const edition = editionAt(outlet, book);
      if (!edition) return [];
      const facts = factsOf({ outlet, book, edition, revision, files: products, imprint });
      return [{ outlet, demands: demandsOf(outlet, facts) }];
    });
  }, [book, revision, products, imprint]);
  return <Asking.Provider value={asking}>{children}</Asking.Provider>;
}

export function AskedBy({
  field,
  faultsOnly = false,
}: {
  field: OutletField;
  /** Where there is little room. */
  faultsOnly?: boolean;
}) {
  const asking = useContext(Asking).flatMap(({ outlet, demands }) => {
    const demand = demands.find((d) => d.field === field);
    return demand ? [{ outlet, demand }] : [];
  });
  if (asking.length === 0) return null;
  const faults = asking.filter((a) => a.demand.state === 'not met');
  if (faultsOnly && faults.length === 0) return null;
  const names = asking.map((a) => a.outlet.name);
  const shown = names.length > 3 ? `${names.length} outlets` : LIST.format(names);
  return (
    <span
      className="block text-[12px] text-ink-soft"
      data-asked={field}
      title={names.length > 3 ? LIST.format(names) : undefined}
    >
      {faults.length === 0 ? `Asked for by ${shown}.` : null}
      {faults.map(({ outlet, demand }) => (
        <span key={outlet.id} className="block text-rubric">
          <span aria-hidden>■</span> {outlet.name}: {demand.why}
        </span>
      ))}
    </span>
  );
}
