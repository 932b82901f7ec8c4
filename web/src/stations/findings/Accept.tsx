'use client';
/** Lets findings stand, with a reason that is kept. */
import { useState } from 'react';
import * as z from 'zod';
import { Button } from '@/ui/Button';
import { LineForm } from '@/ui/LineForm';
import { Popover } from '@/ui/Popover';

const REASON = z
  .string()
  .trim()
  .min(1, 'Say why, so that you know it later.')
  .max(400, 'Keep the reason under 400 characters.');

export function Accept({ many, onAccept }: { many: number; onAccept: (reason: string) => Promise<void> }) {
  const [open, setOpen] = useState(false);
  return (
    <Popover
      label="Accept"
      open={open}
      onOpenChange={setOpen}
      className="w-80 p-3"
      trigger={
        <Button kind="quiet" className="h-7 px-2">
          {many > 1 ? `Accept all ${many.toLocaleString('en-GB')} …` : 'Accept …'}
        </Button>
      }
    >
      <LineForm
        label={many > 1 ? 'Why these stand' : 'Why it stands'}
        heading
        schema={REASON}
        action="Accept"
        placeholder="The character stammers"
        maxLength={400}
        autoFocus
        onSend={async (reason) => {
          await onAccept(reason);
          setOpen(false);
          return true;
        }}
      />
    </Popover>
  );
}
