'use client';
/** Editions added at the head of the list, and what is done with one from its row. Each is one step to undo. */
import { useState } from 'react';
import { toast } from 'sonner';
import * as z from 'zod';
import { inSentence, type Outcome } from '@pagina/core/base';
import type { Book, Change, Edition } from '@pagina/core/book';
import {
  editionAdded,
  editionCopied,
  editionNamed,
  editionRemoved,
  NEW_EDITIONS,
  wrongEditionName,
  type NewEdition,
} from '@pagina/core/design';
import { useBook, useTitle } from '@/title/context';
import { shortId } from '@/title/ids';
import { Dialog } from '@/ui/Dialog';
import { LineForm } from '@/ui/LineForm';
import { Menu } from '@/ui/Menu';
import { EarlierFiles } from './EarlierFiles';

/** Makes the change, says in a word that it is done, and offers to undo it; says why where it can't be made. */
function useChange(): (make: (book: Book) => Outcome<Change>, said?: string) => Promise<boolean> {
  const { session } = useTitle();
  return async (make, said) => {
    let refusal: string | null = null;
    const made = await session.change((book) => {
      const change = make(book);
      if (change.ok) return change.value;
      refusal = change.refusal.message;
      return null;
    });
    if (refusal) toast.error(refusal);
    else if (made && said) toast(said, { action: { label: 'Undo', onClick: () => void session.undo() } });
    return made && refusal === null;
  };
}

export function AddEdition() {
  const change = useChange();
  const { session } = useTitle();
  const add = async (what: NewEdition): Promise<void> => {
    const id = `e${shortId()}`;
    const said = `The ${inSentence(NEW_EDITIONS[what].name)} was added.`;
    if (!(await change((b) => editionAdded(b, what, id), said))) return;
    session.chooseEdition(id);
    // Its row is drawn with the next frame.
    requestAnimationFrame(() =>
      document.querySelector(`[data-edition="${id}"]`)?.scrollIntoView({ block: 'nearest' }),
    );
  };
  return (
    <Menu
      label="Add an edition"
      items={(Object.keys(NEW_EDITIONS) as NewEdition[]).map((what) => ({
        name: NEW_EDITIONS[what].name,
        run: () => void add(what),
      }))}
    />
  );
}

export function EditionMenu({ edition }: { edition: Edition }) {
  const change = useChange();
  const { book, products } = useBook();
  const [open, setOpen] = useState(false);
  const [earlier, setEarlier] = useState(false);
  const made = products.filter((p) => p.edition === edition.id);
  const called = inSentence(edition.name);
  return (
    <>
      <Menu
        label="More"
        of={`the ${called}`}
        items={[
          { name: 'Name and purpose', run: () => setOpen(true) },
          {
            name: 'Earlier files',
            disabled: made.length < 2,
            run: () => setEarlier(true),
          },
          {
            name: 'Copy',
            run: () =>
              void change((b) => editionCopied(b, edition.id, `e${shortId()}`), `The ${called} was copied.`),
          },
          {
            name: 'Remove',
            disabled: book.editions.length === 1,
            run: () => void change((b) => editionRemoved(b, edition.id), `The ${called} was removed.`),
          },
        ]}
      />
      <Dialog title={`Name and purpose of the ${called}`} open={open} onOpenChange={setOpen}>
        <Particulars edition={edition} book={book} change={change} />
      </Dialog>
      <Dialog
        title={`Files made of the ${called}`}
        open={earlier}
        onOpenChange={setEarlier}
        className="w-[720px]"
      >
        <EarlierFiles made={made} />
      </Dialog>
    </>
  );
}

function Particulars({
  edition,
  book,
  change,
}: {
  edition: Edition;
  book: Book;
  change: ReturnType<typeof useChange>;
}) {
  const name = z.string().superRefine((value, context) => {
    const wrong = wrongEditionName(book, edition.id, value);
    if (wrong) context.addIssue(wrong);
  });
  return (
    <>
      <LineForm
        label="Name"
        heading
        autoFocus
        value={edition.name}
        schema={name}
        action="Rename"
        onSend={(line) => change((b) => editionNamed(b, edition.id, { name: line }))}
      />
      <LineForm
        className="mt-4"
        label="What it is for"
        heading
        optional
        value={edition.purpose}
        schema={z.string().max(200, 'The sentence has more than 200 characters.')}
        action="Change"
        onSend={(line) => change((b) => editionNamed(b, edition.id, { purpose: line.trim() }))}
      />
    </>
  );
}
