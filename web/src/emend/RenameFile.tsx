'use client';
/** Asks for another path of a file. Whatever leads to it follows. */
import * as z from 'zod';
import { Dialog } from '@/ui/Dialog';
import { LineForm } from '@/ui/LineForm';
import { useEbook } from './context';

const pathSchema = z.string().min(1).max(1_000);

export function RenameFile({
  path,
  onDone,
}: {
  /** Null while nobody asks. */
  path: string | null;
  /** With the path that it has now, where it was renamed. */
  onDone: (to?: string) => void;
}) {
  const { run } = useEbook();
  return (
    <Dialog title="Rename the file" open={path !== null} onOpenChange={(o) => !o && onDone()}>
      <LineForm
        heading
        primary
        autoFocus
        label="Path in the ebook"
        schema={pathSchema}
        value={path ?? ''}
        action="Rename"
        hint={() => 'Links, the navigation and the package follow.'}
        onSend={async (to) => {
          const saved = path === null ? null : await run({ type: 'rename', path, to: to.trim() });
          if (saved) onDone(saved.show);
          return false;
        }}
      />
    </Dialog>
  );
}
