'use client';
/** Controls of the house: square, ruled, no shadows. State is a word. */
import { twMerge } from 'tailwind-merge';
import type { ButtonHTMLAttributes, ReactNode } from 'react';
import type { Severity } from '@pagina/core/base';

export function Button({
  kind = 'plain',
  className = '',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { kind?: 'primary' | 'plain' | 'quiet' }) {
  const looks = {
    primary: 'bg-spruce text-on-spruce border-spruce hover:opacity-90',
    plain: 'bg-sheet border-edge hover:border-ink',
    quiet: 'border-transparent hover:border-edge',
  }[kind];
  return (
    <button
      type="button"
      className={twMerge(
        'inline-flex h-8 items-center gap-1.5 rounded-[2px] border px-3 whitespace-nowrap disabled:opacity-45',
        looks,
        className,
      )}
      {...rest}
    />
  );
}

export function Field({ label, hint, children }: { label: string; hint?: ReactNode; children: ReactNode }) {
  return (
    <label className="block">
      <span className="column-head mb-1 block">{label}</span>
      {children}
      {hint ? <span className="mt-1 block text-[13px] text-ink-soft">{hint}</span> : null}
    </label>
  );
}
export const input =
  'w-full rounded-[2px] border border-edge bg-sheet px-2 h-8 text-ink placeholder:text-ink-soft';

/** A word with its shape: a filled square for a blocker, a triangle for a caution, a ring for a note. */
export function SeverityMark({ severity }: { severity: Severity }) {
  const looks: Record<Severity, [string, string, string]> = {
    blocker: ['■', 'text-rubric', 'blocker'],
    caution: ['▲', 'text-ochre', 'caution'],
    note: ['○', 'text-ink-soft', 'note'],
  };
  const [shape, colour, word] = looks[severity];
  return (
    <span className={`inline-flex items-baseline gap-1 text-[12px] ${colour}`}>
      <span aria-hidden>{shape}</span>
      {word}
    </span>
  );
}

export function Progress({ stage, share }: { stage: string; share: number }) {
  return (
    <span className="inline-flex min-w-44 flex-col gap-1">
      <span className="text-[13px] text-ink-soft">
        {stage || 'Waiting'} · {Math.round(share * 100)} %
      </span>
      <span
        role="progressbar"
        aria-label={stage || 'Waiting'}
        aria-valuenow={Math.round(share * 100)}
        aria-valuemin={0}
        aria-valuemax={100}
        className="block h-1 bg-rule"
      >
        <span className="block h-1 bg-spruce" style={{ width: `${Math.round(share * 100)}%` }} />
      </span>
    </span>
  );
}
