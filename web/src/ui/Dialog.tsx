'use client';
/** A sheet over the work, with its name; and a question that must be answered. */
import { AlertDialog, Dialog as Primitive } from 'radix-ui';
import type { ReactElement, ReactNode } from 'react';
import { Button } from './Button';

const overlay = 'fixed inset-0 z-40 bg-ink/20';
const sheet =
  'fixed top-24 left-1/2 z-50 max-h-[80vh] max-w-[92vw] -translate-x-1/2 overflow-auto rounded-[2px] border border-edge bg-sheet';

export function Dialog({
  title,
  open,
  onOpenChange,
  trigger,
  bare = false,
  className = 'w-[560px]',
  children,
}: {
  title: string;
  open: boolean;
  onOpenChange: (open: boolean) => void;
  /** What opens it, if it is a button of its own. */
  trigger?: ReactElement;
  /** Without a head: its name is only spoken. */
  bare?: boolean;
  className?: string;
  children: ReactNode;
}) {
  return (
    <Primitive.Root open={open} onOpenChange={onOpenChange}>
      {trigger ? <Primitive.Trigger asChild>{trigger}</Primitive.Trigger> : null}
      <Primitive.Portal>
        <Primitive.Overlay className={overlay} />
        <Primitive.Content
          aria-describedby={undefined}
          className={`${sheet} ${className} ${bare ? '' : 'p-5'}`}
        >
          {bare ? (
            <Primitive.Title className="sr-only">{title}</Primitive.Title>
          ) : (
            <div className="flex items-center pb-3">
              <Primitive.Title className="font-serif text-[20px]">{title}</Primitive.Title>
              <Primitive.Close asChild>
                <Button kind="quiet" className="ml-auto h-7">
                  Close
                </Button>
              </Primitive.Close>
            </div>
          )}
          {children}
        </Primitive.Content>
      </Primitive.Portal>
    </Primitive.Root>
  );
}

/** Asks before something that Undo does not bring back. */
export function Confirm({
  question,
  consequence,
  action,
  onConfirm,
  children,
}: {
  question: string;
  /** What is lost, in a sentence. */
  consequence: string;
  /** The word on the button that does it. */
  action: string;
  onConfirm: () => void;
  /** The button that asks. */
  children: ReactElement;
}) {
  return (
    <AlertDialog.Root>
      <AlertDialog.Trigger asChild>{children}</AlertDialog.Trigger>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className={overlay} />
        <AlertDialog.Content className={`${sheet} w-[440px] p-5`}>
          <AlertDialog.Title className="font-serif text-[20px]">{question}</AlertDialog.Title>
          <AlertDialog.Description className="py-3">{consequence}</AlertDialog.Description>
          <div className="flex justify-end gap-2">
            <AlertDialog.Cancel asChild>
              <Button>Cancel</Button>
            </AlertDialog.Cancel>
            <AlertDialog.Action asChild>
              <Button kind="primary" onClick={onConfirm}>
                {action}
              </Button>
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
