'use client';
/** What a copy would have that the file that was opened has not; saved as a file, or brought in as a title. */
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import type { Differences } from '@pagina/core/emend';
import { followed, type Reading } from '@/title/reading';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/Checkbox';
import { Dialog } from '@/ui/Dialog';
import { Field, input } from '@/ui/Field';
import { ReadingLine } from '@/ui/ReadingLine';
import { useEbook, useSnapshot } from './context';

/** Names that are listed before the others are only counted. */
const LISTED = 6;

function Names({ what, names }: { what: string; names: readonly string[] }) {
  if (names.length === 0) return null;
  const more = names.length - LISTED;
  return (
    <p>
      <span className="text-ink-soft">{what}:</span> {names.slice(0, LISTED).join(', ')}
      {more > 0 ? ` and ${more} more` : ''}
    </p>
  );
}

export function SaveCopy({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const router = useRouter();
  const { session, run } = useEbook();
  const { view, findings } = useSnapshot();
  const [differences, setDifferences] = useState<Differences | null>(null);
  const [name, setName] = useState('');
  const [stamp, setStamp] = useState(true);
  const [reading, setReading] = useState<Reading | null>(null);
  useEffect(() => {
    if (!open) return;
    setDifferences(null);
    setName(view.name.replace(/(\.epub)?$/i, ', copy.epub'));
    void session
      .flush()
      .then(() => fetch(`/api/ebooks/${session.id}/differences`))
      .then(async (r) => setDifferences((await r.json()) as Differences))
      .catch(() => toast('Pagina can’t be reached.'));
    // The name is proposed when the sheet opens, and then the author’s.
  }, [open, session]);
  const d = differences;
  const same = d !== null && d.changed.length + d.added.length + d.removed.length + d.renamed.length === 0;
  const blockers = findings?.filter((f) => f.severity === 'blocker').length ?? 0;
  const newer = !view.version.startsWith('2');
  const save = async (): Promise<void> => {
    if (stamp && newer && !same) {
      const moment = `${new Date().toISOString().slice(0, 19)}Z`;
      if (!(await run({ type: 'restamp', moment }))) return;
    }
    const link = document.createElement('a');
    link.href = `/api/ebooks/${session.id}/copy?name=${encodeURIComponent(name)}`;
    link.download = '';
    link.click();
    onOpenChange(false);
  };
  const bringIn = async (): Promise<void> => {
    try {
      setReading({ name: view.name, job: null });
      await session.flush();
      const job = await followed(
        await fetch(`/api/ebooks/${session.id}/title`, { method: 'POST' }),
        view.name,
        setReading,
      );
      if (job?.title) return router.push(`/titles/${job.title}/order`);
    } catch (e) {
      toast((e as Error).message || 'The ebook couldn’t be brought in.');
    }
    setReading(null);
  };
  return (
    <Dialog title="Save a copy" open={open} onOpenChange={onOpenChange}>
      <div className="flex flex-col gap-3">
        {d === null ? (
          <p className="text-ink-soft">Comparing with the file that was opened …</p>
        ) : same ? (
          <p>Nothing was changed: the copy is the file that was opened, to the byte.</p>
        ) : (
          <div data-differences>
            <Names what="Changed" names={d.changed} />
            <Names what="Added" names={d.added} />
            <Names what="Renamed" names={d.renamed.map((r) => `${r.from} → ${r.to}`)} />
            <Names what="Removed" names={d.removed} />
            <p>
              {d.untouched === 1 ? 'One other part is' : `${d.untouched} other parts are`} untouched, to the
              byte.
            </p>
          </div>
        )}
        {blockers > 0 ? (
          <p className="border-l-2 border-rubric pl-2 text-rubric">
            The checks find {blockers === 1 ? '1 blocker' : `${blockers} blockers`}. A shop may refuse this
            file.
          </p>
        ) : null}
        <Field label="Name of the file">
          <input className={input} value={name} onChange={(e) => setName(e.target.value)} maxLength={200} />
        </Field>
        {newer && !same ? (
          <Checkbox label="Set its date of modification to now" on={stamp} onSet={setStamp} />
        ) : null}
        {reading ? <ReadingLine reading={reading} /> : null}
        <div className="flex items-center justify-end gap-2">
          <Button disabled={reading !== null} onClick={() => void bringIn()}>
            Bring it in as a title
          </Button>
          <Button kind="primary" disabled={name.trim() === ''} onClick={() => void save()}>
            Save
          </Button>
        </div>
      </div>
    </Dialog>
  );
}
