'use client';
import { Checkbox as Primitive } from 'radix-ui';
import type { ReactNode } from 'react';

/** A box to tick, with its words beside it and a remark below them. */
export function Checkbox({
  label,
  on,
  onSet,
  hint,
  disabled,
  className = '',
}: {
  label: ReactNode;
  on: boolean;
  onSet: (on: boolean) => void;
  hint?: ReactNode;
  disabled?: boolean;
  className?: string;
}) {
  return (
    <label className={`flex items-start gap-2 ${className}`}>
      <Primitive.Root
        checked={on}
        onCheckedChange={(v) => onSet(v === true)}
        disabled={disabled}
        className="mt-[3px] flex h-3.5 w-3.5 shrink-0 items-center justify-center rounded-[2px] border border-edge bg-sheet hover:border-ink disabled:opacity-45 data-[state=checked]:border-spruce data-[state=checked]:bg-spruce"
      >
        <Primitive.Indicator>
          <svg viewBox="0 0 10 10" className="h-2.5 w-2.5 stroke-on-spruce" aria-hidden>
            <path d="M1 5.4 3.8 8 9 2" fill="none" strokeWidth="1.8" />
          </svg>
        </Primitive.Indicator>
      </Primitive.Root>
      <span>
        {label}
        {hint ? <span className="block text-[12px] text-ink-soft">{hint}</span> : null}
      </span>
    </label>
  );
}
