'use client';
/** A menu of things to do. */
import { DropdownMenu } from 'radix-ui';
import { Button } from './controls';

export interface MenuItem {
  name: string;
  keys?: string;
  checked?: boolean;
  disabled?: boolean;
  run: () => void;
}

export function Menu({
  label,
  items,
  disabled,
}: {
  label: string;
  items: readonly (MenuItem | 'line')[];
  disabled?: boolean;
}) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger asChild disabled={disabled}>
        <Button kind="quiet" className="h-7 px-2" onMouseDown={(e) => e.preventDefault()}>
          {label} <span aria-hidden>▾</span>
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={2}
          className="z-30 min-w-52 rounded-[2px] border border-edge bg-sheet py-1"
          onCloseAutoFocus={(e) => e.preventDefault()}
        >
          {items.map((i, k) =>
            i === 'line' ? (
              <DropdownMenu.Separator key={k} className="my-1 border-t border-rule" />
            ) : (
              <DropdownMenu.Item
                key={i.name}
                disabled={i.disabled}
                onSelect={i.run}
                className="flex h-8 cursor-default items-center gap-6 px-3 outline-none data-[disabled]:opacity-45 data-[highlighted]:bg-table data-[highlighted]:text-spruce"
              >
                <span>
                  {i.checked === undefined ? '' : i.checked ? '■ ' : '□ '}
                  {i.name}
                </span>
                {i.keys ? <span className="ml-auto text-[12px] text-ink-soft">{i.keys}</span> : null}
              </DropdownMenu.Item>
            ),
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
