'use client';
/** Files of the ebook that no other sheet shows: documents outside the reading order, the NCX, scripts, what nobody lists. */
import { useState } from 'react';
import { Button } from '@/ui/Button';
import { Dialog } from '@/ui/Dialog';
import { sizeInWords } from '@/ui/FileOf';
import { Table, type Column } from '@/ui/Table';
import { useEbook, useSnapshot } from './context';
import { RenameFile } from './RenameFile';
import { useFiles, type EbookFile } from './useFiles';
import { WholeSource } from './WholeSource';

const ELSEWHERE = /^(image|font)\/|font|opentype|text\/css/;

export function OtherFiles() {
  const { run } = useEbook();
  const { view } = useSnapshot();
  const files = useFiles();
  const [shown, setShown] = useState<string | null>(null);
  const [renamed, setRenamed] = useState<string | null>(null);
  const documents = new Set(view.documents.map((d) => d.path));
  const others = (files ?? []).filter((f) => !documents.has(f.path) && !ELSEWHERE.test(f.type));
  const columns: Column<EbookFile>[] = [
    { id: 'path', name: 'File', heads: true, sortBy: (f) => f.path, cell: (f) => f.path },
    {
      id: 'type',
      name: 'Declared as',
      sortBy: (f) => f.type,
      cell: (f) => f.type || <span className="text-rubric">not in the manifest</span>,
    },
    { id: 'size', name: 'Size', right: true, sortBy: (f) => f.bytes, cell: (f) => sizeInWords(f.bytes) },
    {
      id: 'actions',
      name: 'Actions',
      silent: true,
      right: true,
      cell: (f) => (
        <>
          <Button
            kind="quiet"
            className="h-7 px-2"
            aria-label={`Source of ${f.path}`}
            onClick={() => setShown(f.path)}
          >
            Source
          </Button>
          <Button
            kind="quiet"
            className="h-7 px-2"
            aria-label={`Rename ${f.path}`}
            onClick={() => setRenamed(f.path)}
          >
            Rename
          </Button>
          <Button
            kind="quiet"
            className="h-7 px-2"
            aria-label={`Remove ${f.path}`}
            onClick={() => void run({ type: 'remove-file', path: f.path })}
          >
            Remove
          </Button>
        </>
      ),
    },
  ];
  if (others.length === 0) return null;
  return (
    <section aria-label="Other files" className="mt-6 max-w-[880px]">
      <h2 className="column-head mb-1">Other files</h2>
      <Table label="Other files" className="bg-sheet" columns={columns} rows={others} keyOf={(f) => f.path} />
      <Dialog
        title={shown ?? ''}
        open={shown !== null}
        onOpenChange={(o) => !o && setShown(null)}
        className="flex h-[76vh] w-[900px] flex-col"
      >
        {shown !== null ? <WholeSource path={shown} /> : null}
      </Dialog>
      <RenameFile path={renamed} onDone={() => setRenamed(null)} />
    </section>
  );
}
