'use client';
/** The record taken elsewhere, and filled from what others say of the book. */
import { useState } from 'react';
import { toast } from 'sonner';
import type { Difference } from '@pagina/core/onix';
import { useTitle } from '@/title/context';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/Checkbox';
import { Dialog } from '@/ui/Dialog';
import { Field, lineOf } from '@/ui/Field';
import { FileButton } from '@/ui/FileDrop';

const FORMATS = [
  ['onix', 'ONIX 3.0', 'for the book trade'],
  ['csv', 'CSV', 'for a spreadsheet'],
  ['json', 'JSON', 'for programs'],
] as const;

export function Carry() {
  const { session } = useTitle();
  const [open, setOpen] = useState(false);
  return (
    <>
      <ul>
        {FORMATS.map(([as, name, what]) => (
          <li key={as}>
            <a
              className="text-spruce underline"
              download
              href={`/api/titles/${session.id}/record?as=${as}`}
              onClick={(e) => {
                // What is still being typed goes along.
                e.preventDefault();
                const { href } = e.currentTarget;
                void session.flush().then(() => location.assign(href));
              }}
            >
              {name}
            </a>{' '}
            <span className="text-[13px] text-ink-soft">{what}</span>
          </li>
        ))}
      </ul>
      <Button onClick={() => setOpen(true)}>Fill the record from a file or text</Button>
      <Dialog title="Fill the record" open={open} onOpenChange={setOpen}>
        <Filling onDone={() => setOpen(false)} />
      </Dialog>
    </>
  );
}

interface Found {
  differences: Difference[];
  unread: string[];
}

function Filling({ onDone }: { onDone: () => void }) {
  const { session } = useTitle();
  const [text, setText] = useState('');
  const [found, setFound] = useState<Found | null>(null);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [wrong, setWrong] = useState<string | null>(null);
  const look = async (from: string): Promise<void> => {
    await session.flush();
    const r = await fetch(`/api/titles/${session.id}/record`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ text: from }),
    }).catch(() => null);
    const answer = r && ((await r.json()) as Partial<Found> & { message?: string });
    setWrong(r?.ok ? null : (answer?.message ?? 'Pagina can’t be reached.'));
    setFound(
      r?.ok && answer?.differences ? { differences: answer.differences, unread: answer.unread ?? [] } : null,
    );
    setLeft(new Set());
  };
  const taken = found?.differences.filter((d) => !left.has(d.key)) ?? [];
  const take = (): void => {
    void session.change({ type: 'group', label: 'Fill the record', changes: taken.map((d) => d.change) });
    toast(taken.length === 1 ? 'One field filled in.' : `${taken.length} fields filled in.`);
    onDone();
  };
  if (!found)
    return (
      <div className="space-y-3">
        <Field
          label="Particulars"
          hint="Lines such as “Title: The Salt Ledger” and “ISBN (ebook): 978-…”, or the text of an ONIX, CSV or JSON file"
        >
          <textarea
            className={lineOf('h-auto py-1.5')}
            rows={8}
            value={text}
            onChange={(e) => setText(e.target.value)}
          />
        </Field>
        {wrong ? (
          <p role="alert" className="text-rubric">
            {wrong}
          </p>
        ) : null}
        <div className="flex flex-wrap justify-end gap-2">
          <FileButton
            label="File with particulars"
            endings={['.xml', '.onix', '.csv', '.json', '.txt']}
            onFiles={([f]) => void f?.text().then(look)}
          >
            Choose a file
          </FileButton>
          <Button kind="primary" disabled={text.trim() === ''} onClick={() => void look(text)}>
            Read it
          </Button>
        </div>
      </div>
    );
  return (
    <div className="space-y-3">
      {found.differences.length === 0 ? (
        <p>The record already says all that.</p>
      ) : (
        <ul
          aria-label="What would change"
          className="max-h-[360px] divide-y divide-rule overflow-auto"
          tabIndex={0}
        >
          {found.differences.map((d) => (
            <li key={d.key} className="py-1.5" data-difference={d.key}>
              <Checkbox
                label={<span className="capitalize">{d.called}</span>}
                on={!left.has(d.key)}
                onSet={(on) =>
                  setLeft((now) => new Set(on ? [...now].filter((k) => k !== d.key) : [...now, d.key]))
                }
              />
              <div className="pl-6 text-[13px] break-words">
                {d.now ? <p className="line-clamp-2 text-ink-soft line-through">{d.now}</p> : null}
                <p className="line-clamp-4 whitespace-pre-wrap">{d.then || '(empty)'}</p>
              </div>
            </li>
          ))}
        </ul>
      )}
      {found.unread.length > 0 ? (
        <p className="text-[13px] text-ink-soft">
          Not used: {found.unread.slice(0, 6).join('; ')}
          {found.unread.length > 6 ? ` and ${found.unread.length - 6} more` : ''}.
        </p>
      ) : null}
      <div className="flex justify-end gap-2">
        <Button onClick={() => setFound(null)}>Back</Button>
        <Button kind="primary" disabled={taken.length === 0} onClick={take}>
          Fill in {taken.length === 1 ? 'one field' : `${taken.length} fields`}
        </Button>
      </div>
    </div>
  );
}
