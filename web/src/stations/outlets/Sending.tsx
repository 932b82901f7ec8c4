'use client';
/** The file that goes to an outlet, whether it is what was signed off, and the sending of it. */
import Link from 'next/link';
import { useEffect, useState } from 'react';
import { format } from 'date-fns';
import { inSentence } from '@pagina/core/base';
import type { Edition } from '@pagina/core/book';
import type { Outlet } from '@pagina/core/outlets';
import type { Job, Product } from '@pagina/data';
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
  !files ? null : files.newest.product.revision === revision ? files.newest : (files.signed ?? files.newest);

const when = (at: number): string => format(at, 'd MMM yyyy, HH:mm');

export function Sending({
  outlet,
  edition,
  files,
  file,
  ready,
  sent,
  job,
  send,
}: {
  outlet: Outlet;
  edition: Edition;
  files: Files | null;
  file: Sendable | null;
  ready: boolean;
  /** Whether this file is there already. */
  sent: boolean;
  /** The sending that is under way or ended last. */
  job: Job | undefined;
  send: (product: string, unsigned: boolean) => Promise<void>;
}) {
  const { session } = useTitle();
  const [asking, setAsking] = useState(false);
  const working = job && (job.state === 'queued' || job.state === 'running');
  const go = (which: Sendable): void => {
    setAsking(false);
    void send(which.product.id, which.signed.at === null);
  };
  const signed = files?.signed ?? null;
  return (
    <>
      {file ? <Standing of={file} /> : null}
      <div className="mt-3 flex items-center gap-4">
        <Button
          kind="primary"
          disabled={!ready || Boolean(working) || sent || !file}
          onClick={() => file && (file.signed.at === null ? setAsking(true) : go(file))}
        >
          Send the {inSentence(edition.name)} to {outlet.name}
        </Button>
        {working ? <Progress stage={job.stage} share={job.share} /> : null}
        {job?.state === 'failed' && !sent ? (
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
