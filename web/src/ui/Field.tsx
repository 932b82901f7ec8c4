'use client';
import { Label } from 'radix-ui';
import { twMerge } from 'tailwind-merge';
import type { ReactNode } from 'react';

/** How a line of text is entered, anywhere. Other sizes go through `lineOf`. */
export const input =
  'w-full rounded-[2px] border border-edge bg-sheet px-2 h-8 text-ink placeholder:text-ink-soft aria-invalid:border-rubric';

export const lineOf = (className: string): string => twMerge(input, className);

/** A control below its name, and what is to be said about it. */
export function Field({ label, hint, children }: { label: string; hint?: ReactNode; children: ReactNode }) {
  return (
    <Label.Root className="block">
      <span className="column-head mb-1 block">{label}</span>
      {children}
      {hint ? <span className="mt-1 block text-[13px] text-ink-soft">{hint}</span> : null}
    </Label.Root>
  );
}

/** What is wrong with what was entered. */
export function Wrong({ id, children }: { id?: string; children: ReactNode }) {
  return children ? (
    <span id={id} role="alert" className="block text-[12px] text-rubric">
      {children}
    </span>
  ) : null;
}
