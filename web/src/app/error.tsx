'use client';
import { Stopped } from '@/ui/Stopped';

export default function Fault({ error, reset }: { error: Error; reset: () => void }) {
  return (
    <Stopped
      why="A fault in the program keeps this page from being shown."
      detail={error.message}
      onAgain={reset}
    />
  );
}
