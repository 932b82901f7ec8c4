'use client';
/** The EPUBs that were opened as they are, on the page of all titles. */
import Link from 'next/link';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { formatDistanceToNow } from 'date-fns';
import { toast } from 'sonner';
import type { EbookRow } from '@pagina/data';
import { Button } from '@/ui/Button';
import { Collapsible } from '@/ui/Collapsible';
import { Table, type Column } from '@/ui/Table';

/** Keeps an EPUB to be opened as it is; answers its id. Throws a sentence. */
export async function sendEbook(file: File): Promise<string> {
  const r = await fetch('/api/ebooks', {
    method: 'POST',
    headers: { 'x-file-name': encodeURIComponent(file.name), 'Content-Type': 'application/octet-stream' },
    body: file,
  }).catch(() => null);
  const read = r && ((await r.json()) as { ebook?: string; message?: string });
  if (!read?.ebook) throw new Error(read?.message ?? 'Pagina can’t be reached. Is it running?');
  return read.ebook;
}

export function OpenedEbooks() {
  const [ebooks, setEbooks] = useState<EbookRow[]>([]);
  const load = useCallback(async () => {
    const r = await fetch('/api/ebooks');
    if (r.ok) setEbooks(((await r.json()) as { ebooks: EbookRow[] }).ebooks);
  }, []);
  useEffect(() => {
    // The list of titles says that Pagina can’t be reached.
    load().catch(() => undefined);
  }, [load]);
  const columns = useMemo((): Column<EbookRow>[] => {
    const put = async (e: EbookRow, deleted: boolean): Promise<void> => {
      await fetch(`/api/ebooks/${e.id}`, {
        method: 'PATCH',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ deleted }),
      });
      await load();
      if (deleted)
        toast(`“${e.name}” was deleted.`, { action: { label: 'Undo', onClick: () => void put(e, false) } });
    };
    return [
      {
        id: 'name',
        name: 'Ebook',
        heads: true,
        sortBy: (e) => e.name,
        className: 'py-2',
        cell: (e) => (
          <Link href={`/ebooks/${e.id}/documents`} className="font-serif text-[18px] hover:underline">
            {e.name}
          </Link>
        ),
      },
      {
        id: 'changes',
        name: 'Changes',
        right: true,
        sortBy: (e) => e.revision,
        cell: (e) => (e.revision === 0 ? 'none' : e.revision.toLocaleString('en-GB')),
      },
      {
        id: 'changed',
        name: 'Changed',
        sortBy: (e) => e.changedAt,
        className: 'text-ink-soft',
        cell: (e) => formatDistanceToNow(e.changedAt, { addSuffix: true }),
      },
      {
        id: 'actions',
        name: 'Actions',
        silent: true,
        right: true,
        cell: (e) => (
          <Button
            kind="quiet"
            onClick={() => void put(e, e.deletedAt === null)}
            aria-label={`${e.deletedAt === null ? 'Delete' : 'Restore'} ${e.name}`}
          >
            {e.deletedAt === null ? 'Delete' : 'Restore'}
          </Button>
        ),
      },
    ];
  }, [load]);
  const here = ebooks.filter((e) => e.deletedAt === null);
  const gone = ebooks.filter((e) => e.deletedAt !== null);
  if (ebooks.length === 0) return null;
  return (
    <section aria-label="EPUBs opened as they are" className="mt-8">
      <h2 className="column-head mb-1">EPUBs opened as they are</h2>
      {here.length > 0 ? (
        <Table
          label="EPUBs opened as they are"
          className="bg-sheet"
          columns={columns}
          rows={here}
          keyOf={(e) => e.id}
        />
      ) : null}
      {gone.length > 0 ? (
        <Collapsible className="mt-3" heading={<span className="column-head">Deleted ({gone.length})</span>}>
          <Table
            label="Deleted EPUBs"
            className="bg-sheet"
            columns={columns}
            rows={gone}
            keyOf={(e) => e.id}
          />
        </Collapsible>
      ) : null}
    </section>
  );
}
