'use client';
/** A short explanation beside what is pointed at or has the focus. */
import { Tooltip } from 'radix-ui';
import type { ReactElement, ReactNode } from 'react';

const DELAY = 500;

/** Once around the whole application: after the first tip, others nearby appear at once. */
export function Tips({ children }: { children: ReactNode }) {
  return <Tooltip.Provider delayDuration={DELAY}>{children}</Tooltip.Provider>;
}

export function Tip({ words, children }: { words: ReactNode; children: ReactElement }) {
  if (!words) return children;
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          sideOffset={4}
          collisionPadding={8}
          className="z-50 max-w-80 rounded-[2px] border border-edge bg-ink px-2 py-1 text-[13px] whitespace-pre-line text-sheet"
        >
          {words}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}
