'use client';
/** Editions added at the head of the list, and what is done with one from its row. Each is one step to undo. */
import { useState } from 'react';
import { toast } from 'sonner';
import * as z from 'zod';
import { done, inSentence, type Outcome } from '@pagina/core/base';
import { closingWords, isPrint, isSample, type Book, type Change, type Edition } from '@pagina/core/book';
import {
  editionAdded,
  editionByChoices,
  editionCopied,
  editionNamed,
  editionRemoved,
  NEW_EDITIONS,
  wrongEditionName,
  type NewEdition,
} from '@pagina/core/design';
import { useBook, useTitle } from '@/title/context';
import { shortId } from '@/title/ids';
import { editionName } from '@/forms/lines';
import { Button } from '@/ui/Button';
import { Dialog } from '@/ui/Dialog';
import { LineForm } from '@/ui/LineForm';
import { Menu } from '@/ui/Menu';
import { useAttaching } from './Attached';
import { EarlierFiles } from './EarlierFiles';
import { useKeptEditions } from './keptEditions';

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
  const kept = useKeptEditions();
  const [open, setOpen] = useState(false);
  const add = async (name: string, make: (book: Book, id: string) => Outcome<Change>): Promise<void> => {
    const id = `e${shortId()}`;
    if (!(await change((b) => make(b, id), `The ${inSentence(name)} was added.`))) return;
    session.chooseEdition(id);
    // Its row is drawn with the next frame.
    requestAnimationFrame(() =>
      document.querySelector(`[data-edition="${id}"]`)?.scrollIntoView({ block: 'nearest' }),
    );
  };
  return (
    <>
      <Menu
        label="Add an edition"
        items={[
          ...(Object.keys(NEW_EDITIONS) as NewEdition[]).map((what) => ({
            name: NEW_EDITIONS[what].name,
            run: () => void add(NEW_EDITIONS[what].name, (b, id) => editionAdded(b, what, id)),
          })),
          ...(kept.list.length > 0 ? (['line'] as const) : []),
          ...kept.list.map(({ name, choices }) => ({
            name: `Like “${name}”`,
            run: () => void add(name, (b, id) => editionByChoices(b, name, choices, id)),
          })),
          ...(kept.list.length > 0 ? [{ name: 'Kept settings', run: () => setOpen(true) }] : []),
        ]}
      />
      <Dialog title="Settings kept for new editions" open={open} onOpenChange={setOpen}>
        <ul>
          {kept.list.map(({ name }) => (
            <li key={name} className="flex h-9 items-center justify-between border-b border-rule">
              {name}
              <Button kind="quiet" aria-label={`Remove ${name}`} onClick={() => void kept.remove(name)}>
                Remove
              </Button>
            </li>
          ))}
        </ul>
      </Dialog>
    </>
  );
}

export function EditionMenu({ edition }: { edition: Edition }) {
  const change = useChange();
  const { book, products } = useBook();
  const [open, setOpen] = useState(false);
  const [earlier, setEarlier] = useState(false);
  const [keeping, setKeeping] = useState(false);
  const kept = useKeptEditions();
  const made = products.filter((p) => p.edition === edition.id);
  const called = inSentence(edition.name);
  const cover = useAttaching(edition.id, 'attached-cover');
  const pages = useAttaching(edition.id, 'attached-pages');
  return (
    <>
      {isPrint(edition) ? (
        <>
          {cover.field}
          {pages.field}
        </>
      ) : null}
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
          { name: 'Keep its settings', run: () => setKeeping(true) },
          ...(isPrint(edition)
            ? [
                { name: 'Attach a designer’s cover', run: cover.open },
                { name: 'Attach a supplied interior', run: pages.open },
              ]
            : []),
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
      <Dialog title={`Keep the settings of the ${called}`} open={keeping} onOpenChange={setKeeping}>
        <LineForm
          label="Kept as"
          heading
          autoFocus
          value={edition.name}
          schema={editionName}
          action="Keep"
          onSend={async (name) => {
            const done = await kept.keep(name, edition);
            if (done) setKeeping(false);
            return done;
          }}
        />
        <p className="mt-3 text-[13px] text-ink-soft">
          Its form, design and settings can then be used in any title. Its ISBN and sections stay here.
        </p>
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
      {isSample(edition) ? (
        <LineForm
          className="mt-4"
          label="Closing words, before the title"
          heading
          optional
          value={edition.closing}
          placeholder={closingWords(book.record.language).join(' ')}
          schema={z.string().max(400, 'The closing words have more than 400 characters.')}
          action="Change"
          onSend={(line) =>
            change(() =>
              done({
                type: 'group',
                label: 'Change the last page of the sample',
                changes: [{ type: 'set-edition', id: edition.id, fields: { closing: line.trim() } }],
              }),
            )
          }
        />
      ) : null}
    </>
  );
}
