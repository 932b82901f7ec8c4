'use client';
/** Words that were typed here into a part that was removed elsewhere: they are shown until one has seen them. */
import { Button } from '@/ui/Button';
import { useEbook, useSnapshot } from './context';

export function Strays() {
  const { session } = useEbook();
  const { strays } = useSnapshot();
  if (strays.length === 0) return null;
  const words = strays.map((s) => s.inserted).join('\n');
  return (
    <div role="alert" className="border-b border-rubric bg-sheet px-4 py-2">
      <p>
        “{strays[0]?.path}” was removed or replaced in another window while you typed in it. What you typed:
      </p>
      <textarea
        readOnly
        aria-label="What you typed"
        value={words}
        rows={3}
        className="my-1 w-full border border-edge bg-table p-1 font-mono text-[13px]"
      />
      <Button className="h-7" onClick={() => void navigator.clipboard.writeText(words)}>
        Copy it
      </Button>{' '}
      <Button kind="quiet" className="h-7" onClick={() => session.forgetStrays()}>
        Close
      </Button>
    </div>
  );
}
