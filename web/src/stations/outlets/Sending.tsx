'use client';
/** The file that goes to an outlet, whether it is what was signed off, and the sending of it. */
import Link from 'next/link';
import { useEffect, useState } from 'react';
import { format } from 'date-fns';
import { inSentence } from '@pagina/core/base';
import type { Edition } from '@pagina/core/book';
import {
  besideDigest,
  changesAt,
  filesTo,
  OUTLET_FIELDS,
  type ChangesAt,
  type Facts,
  type Outlet,
  type OutletField,
} from '@pagina/core/outlets';
import type { Job, Listing, Product } from '@pagina/data';
import type { SignedAs } from '@/server/signed';
import { useBook, useTitle } from '@/title/context';
import { Button } from '@/ui/Button';
import { Collapsible } from '@/ui/Collapsible';
import { Dialog } from '@/ui/Dialog';
import { FileLink } from '@/ui/FileOf';
import { Progress } from '@/ui/Progress';

export interface Sendable {
  product: Product;
  signed: SignedAs;
}
export interface Files {
  newest: Sendable;
  signed: Sendable | null;
}

/** The files that can go to an outlet; undefined until they are known, null where none was made. */
export function useFiles(outlet: string, edition: string): Files | null | undefined {
  const { session } = useTitle();
  const { products } = useBook();
  const [files, setFiles] = useState<{ key: string; files: Files | null }>();
  const key = `${outlet}/${edition}`;
  useEffect(() => {
    let gone = false;
    const query = new URLSearchParams({ outlet, edition }).toString();
    void fetch(`/api/titles/${session.id}/outlets/files?${query}`)
      .then(async (r) => (r.ok ? ((await r.json()) as { files: Files | null }) : null))
      .catch(() => null)
      .then((r) => !gone && r && setFiles({ key, files: r.files }));
    return () => {
      gone = true;
    };
  }, [session.id, outlet, edition, key, products]);
  return files?.key === key ? files.files : undefined;
}

/** What goes: the newest file while the book is as it was then, else the one that was signed off. */
export const toSend = (files: Files | null | undefined, revision: number): Sendable | null =>
  !files ? null : files.newest.product.upTo === revision ? files.newest : (files.signed ?? files.newest);

const when = (at: number): string => format(at, 'd MMM yyyy, HH:mm');

/** A file, what has changed of the record, or the end of the sale. */
export type What = { product: string; unsigned: boolean } | { details: true } | { withdraw: true };

export function Sending({
  outlet,
  edition,
  facts,
  files,
  file,
  ready,
  at,
  job,
  send,
}: {
  outlet: Outlet;
  edition: Edition;
  facts: Facts;
  files: Files | null;
  file: Sendable | null;
  ready: boolean;
  /** The listing of a book that the outlet has; null where it has none. */
  at: Listing | null;
  /** The sending that is under way or ended last. */
  job: Job | undefined;
  send: (what: What) => Promise<void>;
}) {
  const { session } = useTitle();
  const [asking, setAsking] = useState(false);
  const working = job && (job.state === 'queued' || job.state === 'running');
  const go = (which: Sendable): void => {
    setAsking(false);
    void send({ product: which.product.id, unsigned: which.signed.at === null });
  };
  const signed = files?.signed ?? null;
  const provisional = facts.placing.preorder && file !== null && file.signed.at === null;
  const beside = besideDigest(outlet, facts, provisional);
  // What goes beside the file counts too: a cover, or that a file is the final one.
  const same = at?.beside === beside ? (file?.product.sha256 ?? null) : null;
  const changes = at && changesAt(outlet, facts, at, same);
  const fileWaits = !changes?.has && file !== null && ready;
  const detailsWait = changes !== null && changes.details.length > 0 && changes.inFile.length === 0;
  const name = inSentence(edition.name);
  return (
    <>
      {file ? <Standing of={file} /> : null}
      {file ? <GoAlong outlet={outlet} facts={facts} /> : null}
      {provisional && outlet.preorder ? (
        <p className="mt-1 text-[13px] text-ochre">
          It goes as a provisional file for the pre-order. The final one, signed off, is due{' '}
          {outlet.preorder.file} days before the book appears.
        </p>
      ) : null}
      {changes?.has && changes.details.length === 0 && at?.state === 'held' ? (
        <p className="mt-3 text-rubric">{outlet.name} has this file and holds it, for the reasons below.</p>
      ) : changes ? (
        <Changes of={changes} outlet={outlet} edition={name} onSale={at?.link !== ''} fileWaits={fileWaits} />
      ) : null}
      <div className="mt-3 flex items-center gap-4">
        {!changes || fileWaits ? (
          <Button
            kind="primary"
            disabled={!fileWaits || Boolean(working)}
            onClick={() => file && (file.signed.at === null ? setAsking(true) : go(file))}
          >
            {changes ? `Send the new file to ${outlet.name}` : `Send the ${name} to ${outlet.name}`}
          </Button>
        ) : null}
        {detailsWait && !fileWaits ? (
          <Button kind="primary" disabled={Boolean(working)} onClick={() => void send({ details: true })}>
            Send the changed details to {outlet.name}
          </Button>
        ) : null}
        {working ? (
          <>
            <Progress stage={job.stage} share={job.share} />
            <Button onClick={() => void fetch(`/api/jobs/${job.id}`, { method: 'DELETE' })}>Stop</Button>
          </>
        ) : null}
        {job?.state === 'failed' && (!changes || fileWaits || detailsWait || job.kind === 'withdraw') ? (
          <p role="alert" className="text-rubric">
            {job.error}
          </p>
        ) : null}
      </div>
      {file ? (
        <Dialog title="Send a file that isn’t signed off?" open={asking} onOpenChange={setAsking}>
          <p>
            {file.product.name}, made {when(file.product.madeAt)}, hasn’t been signed off, so nobody has
            confirmed that all of it was read.{' '}
            <Link className="underline" href="proof" onClick={() => session.chooseEdition(edition.id)}>
              Read it and sign it off in Proof
            </Link>
            .
          </p>
          {signed ? (
            <p className="pt-2">
              The file signed off {when(signed.signed.at ?? 0)} can be sent instead. It doesn’t include later
              changes.
            </p>
          ) : null}
          <div className="flex flex-wrap justify-end gap-2 pt-4">
            <Button onClick={() => setAsking(false)}>Cancel</Button>
            <Button onClick={() => go(file)}>Send it unsigned</Button>
            {signed ? (
              <Button kind="primary" onClick={() => go(signed)}>
                Send the signed file
              </Button>
            ) : null}
          </div>
        </Dialog>
      ) : null}
    </>
  );
}

const list = new Intl.ListFormat('en-GB');
const called = (f: OutletField): string => inSentence(OUTLET_FIELDS[f]);

/** What goes with the file, under the names that the outlet wants. */
function GoAlong({ outlet, facts }: { outlet: Outlet; facts: Facts }) {
  const others = filesTo(outlet, facts).slice(1);
  if (others.length === 0) return null;
  const { height, ratio } = outlet.cover;
  const names = others.map(({ part, name }) =>
    part === 'cover'
      ? `the cover as ${name ?? 'a JPEG'}, ${Math.round(height * ratio)} × ${height} pixels`
      : `the ${part} as ${name ?? 'a file'}`,
  );
  return <p className="mt-1 text-[13px] text-ink-soft">Also sent: {list.format(names)}.</p>;
}

/** What an outlet that has the book has differently, and what bringing it up to date costs in time. */
function Changes({
  of: { has, details, inFile, reviewed, unsure },
  outlet,
  edition,
  onSale,
  fileWaits,
}: {
  of: ChangesAt;
  outlet: Outlet;
  edition: string;
  onSale: boolean;
  fileWaits: boolean;
}) {
  if (has && details.length === 0)
    return <p className="mt-3 text-spruce">✓ {outlet.name} has this file and lists it like the record.</p>;
  const changed = unsure
    ? 'Its last reply was lost, so everything will be sent again.'
    : details.length > 0
      ? `Changed since: ${list.format(details.map(called))}.`
      : '';
  const file = has
    ? inFile.length > 0
      ? `The ${edition} contains the old ${list.format(inFile.map(called))}: make it again, then send it.`
      : ''
    : fileWaits
      ? `${outlet.name} has an earlier file.`
      : '';
  const cost =
    (fileWaits || (has && inFile.length === 0)) &&
    (reviewed
      ? `${outlet.name} will look at the book again, for about ${outlet.review.days} days${onSale ? '; it stays on sale meanwhile' : ''}.`
      : `${outlet.name} takes this over at once, without another review.`);
  return <p className="mt-3 text-ink-soft">{[changed, file, cost].filter(Boolean).join(' ')}</p>;
}

/** Whether a file is what was signed off, and in which addresses it differs. */
function Standing({ of: { product, signed } }: { of: Sendable }) {
  return (
    <div className="mt-3 text-[13px]" data-signed={signed.at !== null}>
      <FileLink product={product} />{' '}
      {signed.at === null ? (
        <span className="text-ochre">isn’t signed off.</span>
      ) : signed.addresses.length === 0 ? (
        <span className="text-spruce">✓ signed off {when(signed.at)}</span>
      ) : (
        <>
          <span className="text-spruce">
            ✓ signed off {when(signed.at)}; only its links to books in the shop differ
          </span>
          <Collapsible
            heading={signed.addresses.length === 1 ? '1 address' : `${signed.addresses.length} addresses`}
          >
            <ul aria-label="Addresses that differ" className="space-y-1 pb-2">
              {signed.addresses.map((a, i) => (
                <li key={i}>
                  <span className="font-serif">“{a.words}”</span>{' '}
                  <span className="break-all text-ink-soft">
                    {a.before ?? 'no link'} → {a.now ?? 'no link'}, in {a.file}
                  </span>
                </li>
              ))}
            </ul>
          </Collapsible>
        </>
      )}
      {signed.at === null && signed.other.length > 0 ? (
        <p className="text-ink-soft">
          It also differs from the signed file in {signed.other.slice(0, 4).join(', ')}
          {signed.other.length > 4 ? ` and ${signed.other.length - 4} more` : ''}.
        </p>
      ) : null}
    </div>
  );
}
