'use client';
/** What is done with all editions at once: made, and their files fetched together. */
import { useRef } from 'react';
import { coverOf, currentFiles, isPrint } from '@pagina/core/book';
import { filesForOutlets } from '@pagina/core/outlets';
import { useBook, useTitle } from '@/title/context';
import { Button, lookOfButton } from '@/ui/Button';

/** Makes every edition, and the covers of those in print, that is not there yet or older than the book. */
export function MakeAll() {
  const { session } = useTitle();
  const { book, products, jobs, revision } = useBook();
  const current = new Set(products.filter((p) => p.upTo >= revision).map((p) => p.edition));
  const running = jobs.filter((j) => j.kind === 'make' && (j.state === 'queued' || j.state === 'running'));
  const working = new Set(running.map((j) => (j.payload as { edition?: string }).edition));
  const due = book.editions
    .flatMap((e) => (isPrint(e) ? [e.id, coverOf(e.id)] : [e.id]))
    .concat(filesForOutlets(book))
    .filter((id) => !current.has(id) && !working.has(id));
  const stopping = useRef(false);
  const makeAll = async (): Promise<void> => {
    stopping.current = false;
    for (const id of due) if (!stopping.current) await session.make(id);
  };
  const stopAll = async (): Promise<void> => {
    stopping.current = true;
    // Those that wait first, so that none of them begins while the others are being stopped.
    const waiting = [...running].sort(
      (a, b) => Number(a.state === 'running') - Number(b.state === 'running'),
    );
    for (const j of waiting) await fetch(`/api/jobs/${j.id}`, { method: 'DELETE' });
  };
  if (running.length > 1)
    return (
      <Button
        kind="quiet"
        className="h-7 px-2"
        tip="Stops everything that is being made or waiting. Finished files stay."
        onClick={() => void stopAll()}
      >
        Stop all {running.length}
      </Button>
    );
  return (
    <Button
      kind="quiet"
      className="h-7 px-2"
      disabled={due.length === 0}
      tip={
        due.length === 0
          ? 'All editions are made, or being made.'
          : 'Makes all editions and covers that are not made yet or are older than the book.'
      }
      onClick={() => void makeAll()}
    >
      Make all
    </Button>
  );
}

export function AllFiles() {
  const { session } = useTitle();
  const { book, products } = useBook();
  const files = currentFiles(book, products);
  if (files.length < 2) return null;
  return (
    <a className={lookOfButton('quiet', 'h-7 px-2')} href={`/api/titles/${session.id}/archive`} download>
      Download all {files.length} files in one archive
    </a>
  );
}
