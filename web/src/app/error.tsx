'use client';
import { Stopped } from '@/ui/Stopped';

export default function Fault({ error, reset }: { error: Error; reset: () => void }) {
  return (
    <Stopped
      why="This page can’t be shown because of an error in Pagina."
      detail={error.message}
      onAgain={reset}
    />
  );
}
