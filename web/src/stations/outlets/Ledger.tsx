'use client';
/** The ledger: what outlets ask for down the side, the outlets across. */
import { Fragment } from 'react';
import { FIELDS_IN_ORDER, OUTLET_FIELDS, salesAt, sumString, type OutletField } from '@pagina/core/outlets';
import { placingAt } from '@pagina/core/book';
import { useBook } from '@/title/context';
import { MARKS } from './Demands';
import { STATE_COLOUR, standsAt, type Beside } from './useOutlets';
import { PlaceHere } from './PlaceHere';

export function Ledger({
  of: rows,
  chosen,
  onChoose,
}: {
  of: readonly Beside[];
  chosen: string;
  /** `field` where one is meant. */
  onChoose: (outlet: string, field?: OutletField) => void;
}) {
  const { book } = useBook();
  const asked = FIELDS_IN_ORDER.filter((f) => rows.some((r) => r.demands.some((d) => d.field === f)));
  const shade = (id: string): string => (id === chosen ? 'bg-table' : '');
  return (
    <table aria-label="What outlets ask for" className="w-full border-collapse">
      <thead className="sticky top-0 z-10 bg-sheet">
        <tr className="h-9 border-b border-edge text-left">
          <th scope="col" className="column-head sticky left-0 bg-sheet px-3">
            Asked for
          </th>
          {rows.map(({ outlet }) => (
            <th key={outlet.id} scope="col" className={`px-2 text-left font-normal ${shade(outlet.id)}`}>
              <button
                type="button"
                aria-pressed={outlet.id === chosen}
                className="max-w-36 min-h-6 truncate border-b-2 border-transparent font-serif text-[15px] hover:text-spruce aria-pressed:border-spruce aria-pressed:text-spruce"
                onClick={() => onChoose(outlet.id)}
              >
                {outlet.name}
              </button>
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        <Row head="Place here">
          {rows.map(({ outlet }) => (
            <td key={outlet.id} className={`px-2 ${shade(outlet.id)}`}>
              <PlaceHere outlet={outlet} short />
            </td>
          ))}
        </Row>
        <Row head="Status">
          {rows.map(({ outlet, listing, connected }) => {
            const state = standsAt(listing, placingAt(book, outlet.id), connected);
            const colour = STATE_COLOUR[state] ?? '';
            return (
              <td key={outlet.id} className={`px-2 text-[13px] ${colour} ${shade(outlet.id)}`}>
                {state}
              </td>
            );
          })}
        </Row>
        <Row head="You earn per sale">
          {rows.map((r) => (
            <td key={r.outlet.id} className={`px-2 text-[13px] tabular-nums ${shade(r.outlet.id)}`}>
              {atHome(r)}
            </td>
          ))}
        </Row>
        {asked.map((field) => (
          <Row key={field} head={OUTLET_FIELDS[field]} field={field}>
            {rows.map(({ outlet, demands, edition }) => {
              const demand = demands.find((d) => d.field === field);
              const state = demand?.state ?? 'not asked';
              return (
                <td
                  key={outlet.id}
                  className={`px-2 text-[13px] whitespace-nowrap ${MARKS[state][1]} ${shade(outlet.id)}`}
                  title={demand ? `${outlet.name}: ${demand.called}. ${demand.why}` : undefined}
                >
                  {state === 'not met' ? (
                    <button
                      type="button"
                      className="min-h-6 hover:underline"
                      onClick={() => onChoose(outlet.id, field)}
                    >
                      <Mark state={state} />
                    </button>
                  ) : edition ? (
                    <>
                      <Mark state={state} />
                      {demand?.own ? <span className="text-ink-soft">, own</span> : null}
                    </>
                  ) : (
                    ''
                  )}
                </td>
              );
            })}
          </Row>
        ))}
      </tbody>
    </table>
  );
}

function Mark({ state }: { state: keyof typeof MARKS }) {
  const [shape] = MARKS[state];
  return state === 'not asked' ? (
    <>
      <span aria-hidden>{shape}</span>
      <span className="sr-only">not asked</span>
    </>
  ) : (
    <Fragment>
      <span aria-hidden>{shape}</span> {state}
    </Fragment>
  );
}

function Row({ head, field, children }: { head: string; field?: OutletField; children: React.ReactNode }) {
  return (
    <tr className="h-7 border-b border-rule" data-field={field}>
      <th
        scope="row"
        className="sticky left-0 bg-sheet px-3 text-left text-[13px] font-normal whitespace-nowrap"
      >
        {head}
      </th>
      {children}
    </tr>
  );
}

/** What a sale brings in the first territory that uses the currency of the list price. */
function atHome({ outlet, facts }: Beside): string {
  const home = facts && salesAt(outlet, facts).filter((s) => s.from === 'given');
  const sums = (home ?? []).flatMap((s) =>
    s.market.territory === home?.[0]?.market.territory ? (s.sales[0] ?? []) : [],
  );
  if (sums.length === 0) return '–';
  const [least, most] = [Math.min(...sums.map((s) => s.author)), Math.max(...sums.map((s) => s.author))];
  const { currency } = sums[0]!;
  return least === most
    ? sumString(least, currency)
    : `${sumString(least, currency)}–${sumString(most, currency)}`;
}
