'use client';
/** The text of the ebook: one document after the other on the table, and what can be done with the one that lies there. */
import { useMemo, useState } from 'react';
import * as z from 'zod';
import { isTooDeep } from '@pagina/core/emend';
import { Button } from '@/ui/Button';
import { Dialog } from '@/ui/Dialog';
import { LineForm } from '@/ui/LineForm';
import { Menu } from '@/ui/Menu';
import { Toolbar } from '@/ui/Toolbar';
import { useRoom } from '@/ui/useRoom';
import { useEbook, useSnapshot, useSource } from './context';
import { DocumentPage } from './DocumentPage';
import { faultsIn } from './faults';
import { RenameFile } from './RenameFile';
import { WholeSource } from './WholeSource';

export function Documents() {
  const { spot, goTo, run } = useEbook();
  const { view, findings } = useSnapshot();
  const [whole, setWhole] = useState<{ path: string; cursor: { at: number } | null } | null>(null);
  const [asking, setAsking] = useState<'rename' | 'add' | null>(null);
  const index = view.documents.findIndex((d) => d.path === spot.path);
  const row = view.documents[index];
  const { text, refusal } = useSource(row?.there ? row.path : '');
  const faults = useMemo(
    () => (row && text !== null ? faultsIn(findings, row.path, text) : []),
    [findings, row, text],
  );
  const { room, size } = useRoom({ width: 1000, height: 500 });
  if (!row)
    return (
      <p className="p-8 text-ink-soft">
        {view.documents.length === 0
          ? 'The reading order of this ebook is empty, or its package can’t be read. The package shows its source.'
          : 'Choose a document along the strip.'}
      </p>
    );
  const next = view.documents[index + 1];
  const show = async (done: ReturnType<typeof run>): Promise<boolean> => {
    const saved = await done;
    if (saved?.show) goTo({ path: saved.show, offset: null });
    return saved !== null;
  };
  const open = whole?.path === row.path ? whole : null;
  return (
    <div
      className="flex h-full flex-col"
      onKeyDown={(e) => {
        if (e.key !== 'F2') return;
        e.preventDefault();
        setAsking('rename');
      }}
    >
      <Toolbar label="Document" className="gap-x-2">
        <Button
          className="h-7 px-2"
          disabled={index <= 0}
          onClick={() => goTo({ path: view.documents[index - 1]?.path ?? row.path, offset: null })}
        >
          Previous
        </Button>
        <Button
          className="h-7 px-2"
          disabled={!next}
          onClick={() => next && goTo({ path: next.path, offset: null })}
        >
          Next
        </Button>
        <span className="mx-2 max-w-64 min-w-0 truncate font-serif text-[17px]">{row.label}</span>
        <span className="max-w-72 min-w-0 truncate text-[13px] text-ink-soft">{row.path}</span>
        <span className="ml-auto" />
        <Menu
          label="Document"
          items={[
            { name: 'Rename the file', keys: 'F2', run: () => setAsking('rename') },
            { name: 'Add a document after it', run: () => setAsking('add') },
            {
              name: 'Join the next one to it',
              disabled: !next,
              run: () => void show(run({ type: 'join', path: row.path })),
            },
            'line',
            {
              name: 'Readers come to it by turning pages',
              checked: row.linear,
              run: () => void run({ type: 'linear', path: row.path, linear: !row.linear }),
            },
            'line',
            { name: 'Remove', run: () => void show(run({ type: 'remove-document', path: row.path })) },
          ]}
        />
        <Button
          className="h-7 px-2"
          aria-pressed={open !== null}
          onClick={() => setWhole(open ? null : { path: row.path, cursor: null })}
        >
          {open ? 'Back to the page' : 'Whole source'}
        </Button>
      </Toolbar>
      <div ref={room} className="flex min-h-0 flex-1 flex-col">
        {!row.there ? (
          <p role="alert" className="p-8">
            The reading order names “{row.path}”, but the ebook has no such file.
          </p>
        ) : refusal ? (
          <p role="alert" className="p-8">
            {refusal}
          </p>
        ) : text === null ? (
          <p className="p-8 text-ink-soft">Opening the document …</p>
        ) : isTooDeep(text) && !open ? (
          <p role="alert" className="p-8">
            The elements of this document are nested hundreds of levels deep, so readers may refuse it, and
            the page isn’t shown. Its whole source can be edited.
          </p>
        ) : open ? (
          <WholeSource path={row.path} cursor={open.cursor} />
        ) : (
          <DocumentPage
            key={row.path}
            row={row}
            text={text}
            faults={faults}
            room={size}
            onWhole={(at) => setWhole({ path: row.path, cursor: at === null ? null : { at } })}
          />
        )}
      </div>
      <RenameFile
        path={asking === 'rename' ? row.path : null}
        onDone={(to) => {
          setAsking(null);
          if (to) goTo({ path: to, offset: null });
        }}
      />
      <Dialog title="Add a document" open={asking === 'add'} onOpenChange={(o) => !o && setAsking(null)}>
        <LineForm
          heading
          primary
          autoFocus
          label="Its title"
          schema={z.string().min(1).max(500)}
          action="Add"
          hint={() => 'It comes after this one, has the same styles, and is listed in the contents.'}
          onSend={async (title) => {
            const done = await show(run({ type: 'add-document', after: row.path, title }));
            if (done) setAsking(null);
            return done;
          }}
        />
      </Dialog>
    </div>
  );
}
