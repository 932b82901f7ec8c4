'use client';
/** A button: square, ruled, no shadow. In a toolbar, arrow keys move between buttons. */
import { twMerge } from 'tailwind-merge';
import { Toggle } from 'radix-ui';
import type { ButtonHTMLAttributes, ReactNode } from 'react';
import { InToolbar } from './Toolbar';
import { Tip } from './Tip';

type Kind = 'primary' | 'plain' | 'quiet';

const LOOKS: Record<Kind, string> = {
  primary: 'bg-spruce text-on-spruce border-spruce hover:opacity-90',
  plain: 'bg-sheet border-edge hover:border-ink',
  quiet: 'border-transparent hover:border-edge',
};
/** How a button looks; for a link that does what buttons do. */
export const lookOfButton = (kind: Kind, className: string): string =>
  twMerge(
    'inline-flex h-8 items-center gap-1.5 rounded-[2px] border px-3 whitespace-nowrap disabled:opacity-45',
    LOOKS[kind],
    className,
  );

interface Props extends ButtonHTMLAttributes<HTMLButtonElement> {
  kind?: Kind;
  /** A sentence or a shortcut, shown when the button is pointed at or has the focus. */
  tip?: ReactNode;
}

export function Button({ kind = 'plain', className = '', tip, ...rest }: Props) {
  return (
    <Tip words={tip}>
      <InToolbar>
        <button type="button" className={lookOfButton(kind, className)} {...rest} />
      </InToolbar>
    </Tip>
  );
}

/** A button that stays pressed. */
export function ToggleButton({
  pressed,
  onToggle,
  className = '',
  tip,
  ...rest
}: Omit<Props, 'kind' | 'onToggle'> & { pressed: boolean; onToggle: () => void }) {
  return (
    <Tip words={tip}>
      <InToolbar>
        <Toggle.Root
          pressed={pressed}
          onPressedChange={onToggle}
          className={lookOfButton(
            'quiet',
            `aria-pressed:border-spruce aria-pressed:text-spruce ${className}`,
          )}
          {...rest}
        />
      </InToolbar>
    </Tip>
  );
}
