/** What a reader does in a document of the ebook: follows links, presses keys, turns a wheel. The document itself runs no script. */

export interface Listener {
  onLink: (link: Element, address: string) => void;
  onKey: (e: KeyboardEvent) => void;
  onTurn: (by: 1 | -1) => void;
}

/** Movement of a wheel that turns a page, and rest before the next. */
const WHEEL = 40;
const WHEEL_REST = 220;

/** `now` answers who listens at the moment; `turns` whether a wheel turns pages, instead of scrolling. */
export function listenTo(document: Document, now: () => Listener, turns: () => boolean): void {
  document.addEventListener(
    'click',
    (e) => {
      const link = (e.target as Element | null)?.closest?.('a');
      const address =
        link?.getAttribute('href') ?? link?.getAttributeNS('http://www.w3.org/1999/xlink', 'href');
      if (!link || address === null || address === undefined) return;
      e.preventDefault();
      now().onLink(link, new URL(address, document.baseURI).href);
    },
    true,
  );
  document.addEventListener('keydown', (e) => now().onKey(e));
  let moved = 0;
  let rested = 0;
  document.addEventListener(
    'wheel',
    (e) => {
      if (!turns() || e.ctrlKey || (e.target as Element).closest?.('[data-reader-note]')) return;
      moved += e.deltaY + e.deltaX;
      if (Math.abs(moved) < WHEEL || e.timeStamp - rested < WHEEL_REST) return;
      now().onTurn(moved > 0 ? 1 : -1);
      moved = 0;
      rested = e.timeStamp;
    },
    { passive: true },
  );
}
