'use client';
/** The page about the book for its readers: as it stands, its short address, and the file for one's own web site. */
import { useCallback, useEffect, useState } from 'react';
import { toast } from 'sonner';
import { fileStem } from '@pagina/core/record';
import { pageName } from '@/forms/lines';
import { useBook, useTitle } from '@/title/context';
import { Button, lookOfButton } from '@/ui/Button';
import { LineForm } from '@/ui/LineForm';

interface Page {
  name: string | null;
  html: string;
}

export function BookPage() {
  const { session } = useTitle();
  const { book, revision, listings } = useBook();
  const [page, setPage] = useState<Page | null>(null);
  const at = `/api/titles/${session.id}/page`;
  const load = useCallback(async () => {
    const r = await fetch(at).catch(() => null);
    if (r?.ok) setPage((await r.json()) as Page);
  }, [at]);
  useEffect(() => {
    void load();
  }, [load, revision, listings]);
  const set = async (name: string | null): Promise<boolean> => {
    const r = await fetch(at, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ name }),
    }).catch(() => null);
    if (!r?.ok) toast(r ? ((await r.json()) as { message: string }).message : 'Pagina can’t be reached.');
    await load();
    return r?.ok ?? false;
  };
  if (!page) return null;
  const address = page.name ? `${location.origin}/b/${page.name}` : null;
  return (
    <div className="flex h-full min-h-0 flex-col">
      <div className="space-y-2 px-4 py-3">
        <p className="text-[13px] text-ink-soft">
          A page for readers, with every shop where the book is on sale, the description and the opening to
          read. It has no scripts and tracks nobody.
        </p>
        <div className="flex items-end gap-3">
          <LineForm
            className="w-80"
            heading
            label="Short address"
            schema={pageName}
            value={page.name ?? (fileStem(book.record.title) || 'book').slice(0, 60).replace(/^-+|-+$/g, '')}
            asItCame={page.name === null}
            action={page.name === null ? 'Publish' : 'Change'}
            onSend={set}
          />
          {page.name === null ? null : (
            <Button className="h-8" onClick={() => void set(null)}>
              Take the page down
            </Button>
          )}
          <a className={lookOfButton('plain', 'ml-auto')} href={`${at}?download`} download>
            Download for a web site
          </a>
        </div>
        {address ? (
          <p className="text-[13px]">
            <a className="underline" href={address} target="_blank" rel="noreferrer">
              {address}
            </a>
          </p>
        ) : null}
      </div>
      <iframe
        title="The page as readers see it"
        // Its picture comes from here; a script would not run.
        sandbox="allow-same-origin"
        srcDoc={page.html}
        className="min-h-0 flex-1 border-t border-rule bg-white"
      />
    </div>
  );
}
