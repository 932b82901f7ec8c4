'use client';
/** What can be done with the thing under the pointer, by the right button or the menu key. */
import { ContextMenu as Primitive } from 'radix-ui';
import type { ReactElement } from 'react';
import { MenuLine, menuRow, menuSheet, MenuWords, type MenuItem } from './Menu';

export function ContextMenu({
  items,
  onOpen,
  children,
}: {
  items: readonly (MenuItem | 'line')[];
  /** Hears what was pointed at, before the menu shows. */
  onOpen: (at: Element) => void;
  children: ReactElement;
}) {
  return (
    <Primitive.Root>
      <Primitive.Trigger asChild onContextMenu={(e) => e.target instanceof Element && onOpen(e.target)}>
        {children}
      </Primitive.Trigger>
      {items.length > 0 ? (
        <Primitive.Portal>
          <Primitive.Content collisionPadding={8} className={menuSheet}>
            {items.map((i, k) =>
              i === 'line' ? (
                <MenuLine key={k} of={Primitive.Separator} />
              ) : (
                <Primitive.Item key={i.name} disabled={i.disabled} onSelect={i.run} className={menuRow}>
                  <MenuWords item={i} />
                </Primitive.Item>
              ),
            )}
          </Primitive.Content>
        </Primitive.Portal>
      ) : null}
    </Primitive.Root>
  );
}
