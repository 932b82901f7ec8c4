'use client';
import { Progress as Primitive } from 'radix-ui';

/** A job's stage in words and the share of it that is done, from 0 to 1. */
export function Progress({ stage, share }: { stage: string; share: number }) {
  const percent = Math.round(share * 100);
  return (
    <span className="inline-flex min-w-44 flex-col gap-1">
      <span className="text-[13px] text-ink-soft">
        {stage || 'Waiting'} · {percent} %
      </span>
      <Primitive.Root aria-label={stage || 'Waiting'} value={percent} className="block h-1 bg-rule">
        <Primitive.Indicator className="block h-1 bg-spruce" style={{ width: `${percent}%` }} />
      </Primitive.Root>
    </span>
  );
}
