'use client';
/** The files that were made of an edition, the newest first: when, how large, whether they are the same, and who has them. */
import { format } from 'date-fns';
import { OUTLETS } from '@pagina/core/outlets';
import type { Product } from '@pagina/data';
import { FileLink } from '@/ui/FileOf';
import { Table } from '@/ui/Table';

const outlet = (id: string): string => OUTLETS.find((o) => o.id === id)?.name ?? id;
/** "Lantern Quay and Saltmarket". */
const sentence = (names: readonly string[]): string =>
  names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;

/** To which outlets a file went; null for none. */
export const sentTo = ({ sentTo: ids }: Product): string | null =>
  ids.length === 0 ? null : sentence(ids.map(outlet));

export function EarlierFiles({ made }: { made: readonly Product[] }) {
  /** Against the file made before it. */
  const changed = (p: Product): string => {
    const before = made[made.indexOf(p) + 1];
    if (!before) return 'the first that is kept here';
    if (before.sha256 === p.sha256) return 'the same file as before';
    const changes = p.revision - before.revision;
    if (changes === 0) return 'nothing in the title: Pagina itself or its settings';
    const pages = p.pages - before.pages;
    const more =
      pages === 0
        ? ''
        : `, ${Math.abs(pages)} ${Math.abs(pages) === 1 ? 'page' : 'pages'} ${pages > 0 ? 'more' : 'fewer'}`;
    return `${changes} ${changes === 1 ? 'change' : 'changes'} to the title${more}`;
  };
  return (
    <Table
      label="Files"
      rows={[...made]}
      keyOf={(p) => p.id}
      columns={[
        {
          id: 'made',
          name: 'Made',
          width: '130px',
          heads: true,
          cell: (p) => format(p.madeAt, 'd MMM yyyy, HH:mm'),
          className: 'py-1.5',
        },
        { id: 'since', name: 'What has changed', cell: changed, className: 'py-1.5' },
        { id: 'sent', name: 'Sent to', width: '130px', cell: (p) => sentTo(p) ?? '', className: 'py-1.5' },
        {
          id: 'file',
          name: 'File',
          width: '200px',
          cell: (p) => (
            <>
              <FileLink product={p} />
              <code className="block font-sans text-[12px] text-ink-soft">
                SHA-256 {p.sha256.slice(0, 12)}…
              </code>
            </>
          ),
          className: 'py-1.5',
        },
      ]}
    />
  );
}
