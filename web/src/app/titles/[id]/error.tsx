'use client';
/** A fault in one station: the title stays open around it, and what was written goes on being kept. */
import { Stopped } from '@/ui/Stopped';

export default function Fault({ error, reset }: { error: Error; reset: () => void }) {
  return (
    <Stopped
      why="This station can’t be shown because of an error in Pagina. Your work is safe."
      detail={error.message}
      onAgain={reset}
    />
  );
}
