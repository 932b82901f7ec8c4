'use client';
/** A menu of things to do. */
import { DropdownMenu } from 'radix-ui';
import type { ElementType } from 'react';
import { Button } from './Button';

export interface MenuItem {
  name: string;
  keys?: string;
  checked?: boolean;
  disabled?: boolean;
  run: () => void;
}

export const menuSheet = 'z-50 min-w-52 rounded-[2px] border border-edge bg-sheet py-1 text-ink';
export const menuRow =
  'flex h-8 cursor-default items-center gap-6 px-3 outline-none data-[disabled]:opacity-45 data-[highlighted]:bg-table data-[highlighted]:text-spruce';

export function Menu({
  label,
  of,
  items,
  disabled,
}: {
  label: string;
  /** Of what, where several menus bear the label: heard, not seen. */
  of?: string;
  items: readonly (MenuItem | 'line')[];
  disabled?: boolean;
}) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger asChild disabled={disabled}>
        <Button
          kind="quiet"
          className="h-7 px-2"
          aria-label={of ? `${label} for ${of}` : undefined}
          onMouseDown={(e) => e.preventDefault()}
        >
          {label} <span aria-hidden>▾</span>
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={2}
          className={menuSheet}
          onCloseAutoFocus={(e) => e.preventDefault()}
        >
          {items.map((i, k) =>
            i === 'line' ? (
              <MenuLine key={k} of={DropdownMenu.Separator} />
            ) : (
              <DropdownMenu.Item key={i.name} disabled={i.disabled} onSelect={i.run} className={menuRow}>
                <MenuWords item={i} />
              </DropdownMenu.Item>
            ),
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

export function MenuLine({ of: Separator }: { of: ElementType }) {
  return <Separator className="my-1 border-t border-rule" />;
}

export function MenuWords({ item }: { item: MenuItem }) {
  return (
    <>
      <span>
        {item.checked === undefined ? '' : item.checked ? '■ ' : '□ '}
        {item.name}
      </span>
      {item.keys ? <span className="ml-auto text-[12px] text-ink-soft">{item.keys}</span> : null}
    </>
  );
}
