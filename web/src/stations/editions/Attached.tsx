'use client';
/** PDFs that others made for a print edition: attached, checked, checked again when the edition has changed, taken away. */
import { toast } from 'sonner';
import { attachedTo, type Attached } from '@pagina/core/book';
import type { Product } from '@pagina/data';
import { useOutdated } from '@/stations/proof/useOutdated';
import { useBook, useTitle } from '@/title/context';
import { Button } from '@/ui/Button';
import { useFileChooser } from '@/ui/FileDrop';
import { Menu } from '@/ui/Menu';
import { Progress } from '@/ui/Progress';
import { Ended } from './Ended';

export const ATTACHED: readonly { what: Attached; name: string; called: string; form: string }[] = [
  {
    what: 'attached-cover',
    name: 'Designer’s cover',
    called: 'designer’s cover',
    form: 'A finished PDF: back, spine and front on one sheet',
  },
  {
    what: 'attached-pages',
    name: 'Supplied interior',
    called: 'supplied interior',
    form: 'A finished PDF of the pages, made by someone else',
  },
];

const AWAY = 'Pagina can’t be reached just now. Try again in a moment.';
/** Answers whether it was done, and says why where it wasn’t. */
async function ask(address: string, more: RequestInit): Promise<boolean> {
  const r = await fetch(address, more).catch(() => null);
  if (!r?.ok) toast(r ? ((await r.json()) as { message: string }).message : AWAY);
  return r?.ok ?? false;
}

/** Chooses a PDF and sends it. Its field is to stand somewhere in the page. */
export function useAttaching(of: string, what: Attached): ReturnType<typeof useFileChooser> {
  const { session } = useTitle();
  return useFileChooser({
    label: what === 'attached-cover' ? 'Designer’s cover, a PDF' : 'Supplied interior, a PDF',
    endings: ['.pdf'],
    onFiles: ([file]) => {
      if (!file) return;
      const query = new URLSearchParams({ of, what }).toString();
      void session.flush().then(() =>
        ask(`/api/titles/${session.id}/attached?${query}`, {
          method: 'POST',
          headers: { 'X-File-Name': encodeURIComponent(file.name) },
          body: file,
        }),
      );
    },
  });
}

export function Outgrown({ product }: { product: Product }) {
  const why = useOutdated(product);
  return why ? <span className="block text-[13px] text-ochre">{why}</span> : null;
}

export function AttachedActions({ of, what }: { of: string; what: Attached }) {
  const { session } = useTitle();
  const { jobs, products } = useBook();
  const { field, open } = useAttaching(of, what);
  const id = attachedTo(of, what);
  const address = `/api/titles/${session.id}/attached`;
  const job = jobs.find((j) => (j.payload as { edition?: string }).edition === id);
  const working = job && (job.state === 'queued' || job.state === 'running');
  const file = products.find((p) => p.edition === id);
  const check = (more: { file?: { sha256: string; name: string } } = {}): Promise<boolean> =>
    ask(address, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ of, what, ...more }),
    });
  const remove = async (): Promise<void> => {
    const query = new URLSearchParams({ of, what }).toString();
    if (!(await ask(`${address}?${query}`, { method: 'DELETE' })) || !file) return;
    const { sha256, name } = file;
    toast(`${name} was removed.`, {
      action: { label: 'Undo', onClick: () => void check({ file: { sha256, name } }) },
    });
  };
  const named = what === 'attached-cover' ? 'the designer’s cover' : 'the supplied interior';
  return (
    <>
      {field}
      {working ? (
        <span className="inline-flex flex-wrap items-center justify-end gap-3">
          <Progress stage={job.stage} share={job.share} />
          <Button onClick={() => void fetch(`/api/jobs/${job.id}`, { method: 'DELETE' })}>Stop</Button>
        </span>
      ) : (
        <span className="inline-flex flex-wrap justify-end gap-1">
          <Button aria-label={`Check ${named} again`} onClick={() => void check()}>
            Check again
          </Button>
          <Menu
            label="More"
            of={named}
            items={[
              { name: 'Replace', run: open },
              { name: 'Remove', run: () => void remove() },
            ]}
          />
        </span>
      )}
      <Ended job={job} />
    </>
  );
}
