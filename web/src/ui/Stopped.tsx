'use client';
/** What stands in a view's place when it cannot be shown: why, and the ways on. */
import Link from 'next/link';
import { Button } from './Button';

export function Stopped({ why, detail, onAgain }: { why: string; detail?: string; onAgain?: () => void }) {
  return (
    <div className="grid max-w-prose gap-4 p-8" role="alert">
      <p className="text-rubric">{why}</p>
      <p className="flex items-center gap-4">
        {onAgain ? <Button onClick={onAgain}>Show it again</Button> : null}
        <Link href="/titles" className="text-spruce underline">
          All titles
        </Link>
      </p>
      {detail ? <p className="text-[13px] text-ink-soft">For those who mend it: {detail}</p> : null}
    </div>
  );
}
