'use client';
/** The work and a pane beside it, whose edge can be dragged or moved by arrow keys; its width is remembered in this browser. */
import { Group, Panel, Separator, type PanelSize } from 'react-resizable-panels';
import type { ReactNode } from 'react';

const LEAST = 280;

export function Panes({
  name,
  beside,
  width = 400,
  children,
}: {
  /** By which its width is remembered. */
  name: string;
  /** The pane; null while it is closed. */
  beside: ReactNode;
  /** Pixels, until another width was chosen. */
  width?: number;
  children: ReactNode;
}) {
  const key = `pagina-pane-${name}`;
  const keep = (size: PanelSize): void => {
    if (size.inPixels >= LEAST) localStorage.setItem(key, String(Math.round(size.inPixels)));
  };
  return (
    <Group orientation="horizontal" className="min-h-0 flex-1">
      <Panel id="work" minSize={360} className="flex min-h-0 min-w-0 flex-col overflow-hidden!">
        {children}
      </Panel>
      {beside ? (
        <>
          <Separator
            aria-label="Width of the pane"
            className="no-print w-1 border-l border-edge bg-sheet outline-none hover:bg-spruce focus-visible:bg-spruce data-[separator=active]:bg-spruce"
          />
          <Panel
            key={name}
            id={`beside-${name}`}
            defaultSize={Number(localStorage.getItem(key)) || width}
            minSize={LEAST}
            maxSize="60%"
            groupResizeBehavior="preserve-pixel-size"
            onResize={keep}
            className="no-print flex min-h-0 flex-col overflow-hidden! bg-sheet"
          >
            {beside}
          </Panel>
        </>
      ) : null}
    </Group>
  );
}
