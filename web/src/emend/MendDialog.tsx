'use client';
/** What mending comes to, shown before it is done: each step with the lines that it changes. */
import { useState } from 'react';
import { toast } from 'sonner';
import type { PartDifference } from '@pagina/core/emend';
import type { Mending } from '@/workers/ebook-check';
import { Button } from '@/ui/Button';
import { Dialog } from '@/ui/Dialog';
import { useEbook } from './context';

export type Proposed = Mending & { base: number; label: string };

/** Parts of a step whose lines are shown before the others are only named. */
const SHOWN = 12;
const HOW: Record<PartDifference['how'], string> = {
  changed: '',
  added: ', new',
  removed: ', removed',
  renamed: '',
};

export function MendDialog({ proposed, onClose }: { proposed: Proposed | null; onClose: () => void }) {
  const { session, undo } = useEbook();
  const [working, setWorking] = useState(false);
  if (!proposed) return null;
  const { steps, before, after, other, label } = proposed;
  const mend = async (): Promise<void> => {
    setWorking(true);
    try {
      await session.mend(proposed, label);
      onClose();
      toast(before > after ? `Mended: ${said(before - after)} fewer.` : 'Mended.', {
        action: { label: 'Undo', onClick: () => void undo(false) },
      });
    } catch (e) {
      toast((e as Error).message);
    }
    setWorking(false);
  };
  return (
    <Dialog
      title={label}
      open
      onOpenChange={(open) => {
        if (!open) onClose();
      }}
      className="w-[860px]"
    >
      <div className="flex flex-col gap-3">
        <div
          className="max-h-[52vh] space-y-4 overflow-auto border-y border-rule py-2"
          tabIndex={0}
          aria-label="What changes"
        >
          {steps.map((step, i) => (
            <section key={i} data-mend-step>
              <h3 className="font-semibold">{step.label}</h3>
              {step.differences.slice(0, SHOWN).map((d) => (
                <Part key={d.path} of={d} />
              ))}
              {step.differences.length > SHOWN ? (
                <p className="text-[13px] text-ink-soft">
                  and {step.differences.length - SHOWN} more files in the same way
                </p>
              ) : null}
            </section>
          ))}
        </div>
        <p>
          {said(before)} before, {after === 0 ? 'none' : after} after.{' '}
          {other.length === 0
            ? 'Every word and every picture stays as it is.'
            : `The words or pictures of ${other.slice(0, 4).join(', ')} change.`}
        </p>
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button kind="primary" disabled={working} onClick={() => void mend()}>
            {working ? 'Mending …' : 'Mend'}
          </Button>
        </div>
      </div>
    </Dialog>
  );
}

const said = (n: number): string => (n === 1 ? '1 finding' : `${n.toLocaleString('en-GB')} findings`);

function Part({ of: { path, how, to, lines } }: { of: PartDifference }) {
  return (
    <figure className="mt-1">
      <figcaption className="text-[13px] text-ink-soft">
        {to ? `${path} → ${to}` : `${path}${HOW[how]}`}
      </figcaption>
      {lines.length > 0 ? (
        <pre className="overflow-x-auto font-mono text-[12px] leading-5">
          {lines.map((l, i) =>
            l === null ? (
              <span key={i} className="block text-ink-soft" aria-label="lines left out">
                …
              </span>
            ) : (
              <span key={i} className="block text-ink-soft">
                <Number of={l.line} sign={l.how === 'in' ? '+' : l.how === 'out' ? '−' : ' '} />
                {l.before}
                {l.how === 'in' ? (
                  <ins className="text-spruce decoration-2 underline-offset-2">{l.text}</ins>
                ) : l.how === 'out' ? (
                  <del className="text-rubric">{l.text}</del>
                ) : (
                  l.text
                )}
                {l.after}
              </span>
            ),
          )}
        </pre>
      ) : null}
    </figure>
  );
}

const Number = ({ of, sign }: { of: number; sign: string }) => (
  <span className="mr-2 inline-block w-14 text-right no-underline select-none">
    {of} {sign}
  </span>
);
