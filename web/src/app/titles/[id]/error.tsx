'use client';
/** A fault in one station: the title stays open around it, and what was written goes on being kept. */
import { Stopped } from '@/ui/Stopped';

export default function Fault({ error, reset }: { error: Error; reset: () => void }) {
  return (
    <Stopped
      why="A fault in the program keeps this station from being shown. What you wrote is kept."
      detail={error.message}
      onAgain={reset}
    />
  );
}
