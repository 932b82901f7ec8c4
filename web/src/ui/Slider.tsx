'use client';
import { Slider as Primitive } from 'radix-ui';
import { useEffect, useState, type ReactNode } from 'react';

/** A value between two ends. It is given out when the hand lets go, so that one pull is one change. */
export function Slider({
  label,
  value,
  least,
  most,
  step,
  onCommit,
  disabled,
  className = 'w-full',
  shown,
}: {
  label: string;
  value: number;
  least: number;
  most: number;
  step: number;
  onCommit: (value: number) => void;
  disabled?: boolean;
  className?: string;
  /** The value in words, beside it. */
  shown?: (value: number) => ReactNode;
}) {
  const [now, setNow] = useState(value);
  useEffect(() => setNow(value), [value]);
  return (
    <span className="flex items-center gap-1.5">
      <Primitive.Root
        value={[now]}
        min={least}
        max={most}
        step={step}
        disabled={disabled}
        onValueChange={([v]) => v !== undefined && setNow(v)}
        onValueCommit={([v]) => v !== undefined && v !== value && onCommit(v)}
        className={`relative flex h-6 touch-none items-center select-none data-[disabled]:opacity-45 ${className}`}
      >
        <Primitive.Track className="relative h-px flex-1 bg-edge">
          <Primitive.Range className="absolute -top-px h-[3px] bg-spruce" />
        </Primitive.Track>
        <Primitive.Thumb
          aria-label={label}
          className="block h-4 w-2 rounded-[2px] border border-spruce bg-sheet hover:bg-spruce"
        />
      </Primitive.Root>
      {shown ? <span className="whitespace-nowrap">{shown(now)}</span> : null}
    </span>
  );
}
