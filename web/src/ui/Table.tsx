'use client';
/** A ruled table. Columns that have something to sort by are sorted by their head; all can be searched from outside. */
import {
  columnFilteringFeature,
  createFilteredRowModel,
  createSortedRowModel,
  filterFn_includesString,
  globalFilteringFeature,
  rowSortingFeature,
  tableFeatures,
  useTable,
  type ColumnDef,
  type SortingState,
} from '@tanstack/react-table';
import { useMemo, useState, type HTMLAttributes, type ReactNode } from 'react';

export interface Column<Row> {
  id: string;
  /** Its head; not shown where `silent`. */
  name: string;
  silent?: boolean;
  width?: string;
  right?: boolean;
  className?: string;
  cell: (row: Row) => ReactNode;
  sortBy?: (row: Row) => string | number;
  /** Names its row to a screen reader. */
  heads?: boolean;
}

const features = tableFeatures({
  rowSortingFeature,
  columnFilteringFeature,
  globalFilteringFeature,
  sortedRowModel: createSortedRowModel(),
  filteredRowModel: createFilteredRowModel(),
  filterFns: { includesString: filterFn_includesString },
});
/** As a person would order names: capitals, accents and figures by their sense. */
const byName = new Intl.Collator('en', { sensitivity: 'base', numeric: true });
const compared = (a: unknown, b: unknown): number =>
  typeof a === 'number' && typeof b === 'number' ? a - b : byName.compare(String(a), String(b));
const STATES = { asc: 'ascending', desc: 'descending' } as const;

export function Table<Row extends object>({
  label,
  columns,
  rows,
  keyOf,
  attributesOf,
  find = '',
  none,
  className = '',
}: {
  label?: string;
  columns: readonly Column<Row>[];
  rows: readonly Row[];
  keyOf: (row: Row) => string;
  attributesOf?: (row: Row) => HTMLAttributes<HTMLTableRowElement> & Record<`data-${string}`, unknown>;
  /** Only rows are shown that have this somewhere in what they are sorted by. */
  find?: string;
  /** Said where no row has it. */
  none?: ReactNode;
  className?: string;
}) {
  const [sorting, setSorting] = useState<SortingState>([]);
  const defined = useMemo(
    () =>
      columns.map((c): ColumnDef<typeof features, Row> => ({
        id: c.id,
        accessorFn: (row) => c.sortBy?.(row) ?? '',
        enableSorting: c.sortBy !== undefined,
        enableGlobalFilter: c.sortBy !== undefined,
        sortFn: (a, b, id) => compared(a.getValue(id), b.getValue(id)),
        sortDescFirst: false,
      })),
    [columns],
  );
  const data = useMemo(() => [...rows], [rows]);
  const table = useTable({
    features,
    columns: defined,
    data,
    getRowId: keyOf,
    state: { sorting, globalFilter: find },
    onSortingChange: setSorting,
    globalFilterFn: 'includesString',
  });
  const byId = new Map(columns.map((c) => [c.id, c]));
  const shown = table.getRowModel().rows;
  const fixed = columns.some((c) => c.width !== undefined);
  return (
    <table aria-label={label} className={`w-full border-collapse ${fixed ? 'table-fixed' : ''} ${className}`}>
      {fixed ? (
        <colgroup>
          {columns.map((c) => (
            <col key={c.id} style={c.width ? { width: c.width } : undefined} />
          ))}
        </colgroup>
      ) : null}
      <thead className="sticky top-0 z-10 bg-sheet">
        {table.getHeaderGroups().map((group) => (
          <tr key={group.id} className="h-8 border-b border-edge text-left">
            {group.headers.map(({ column }) => {
              const c = byId.get(column.id);
              const sorted = column.getIsSorted();
              return (
                <th
                  key={column.id}
                  scope="col"
                  aria-sort={sorted ? STATES[sorted] : undefined}
                  className={`column-head px-3 ${c?.right ? 'text-right' : ''}`}
                >
                  {c?.silent ? (
                    <span className="sr-only">{c.name}</span>
                  ) : column.getCanSort() ? (
                    <button
                      type="button"
                      className="column-head min-h-6 hover:text-ink"
                      onClick={column.getToggleSortingHandler()}
                    >
                      {c?.name}
                      <span aria-hidden>{sorted === 'asc' ? ' ↑' : sorted === 'desc' ? ' ↓' : ''}</span>
                    </button>
                  ) : (
                    c?.name
                  )}
                </th>
              );
            })}
          </tr>
        ))}
      </thead>
      <tbody>
        {shown.map((row) => (
          <tr key={row.id} className="border-b border-rule" {...attributesOf?.(row.original)}>
            {columns.map((c) => {
              const looks = `px-3 ${c.right ? 'text-right' : ''} ${c.className ?? ''}`;
              return c.heads ? (
                <th key={c.id} scope="row" className={`text-left font-normal ${looks}`}>
                  {c.cell(row.original)}
                </th>
              ) : (
                <td key={c.id} className={looks}>
                  {c.cell(row.original)}
                </td>
              );
            })}
          </tr>
        ))}
        {shown.length === 0 && none ? (
          <tr>
            <td colSpan={columns.length} className="px-3 py-3 text-ink-soft">
              {none}
            </td>
          </tr>
        ) : null}
      </tbody>
    </table>
  );
}
