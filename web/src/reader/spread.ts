/** Pages of a fixed size that face each other: which of them a wide screen shows together (EPUB 3.3 §8.2.2.5). */
import type { ReadingDocument, ReadingOrder } from '@pagina/core/package';

type Hand = 'left' | 'right' | 'centre';

/** On which hand each page lies; one that doesn’t say follows the page before it, and the first lies where books begin. */
function handsOf(documents: readonly ReadingDocument[], direction: ReadingOrder['direction']): Hand[] {
  const [first, second]: [Hand, Hand] = direction === 'rtl' ? ['right', 'left'] : ['left', 'right'];
  let before: Hand = first;
  return documents.map(({ side }) => {
    const hand = side ?? (before === first ? second : first);
    if (hand !== 'centre') before = hand;
    return hand;
  });
}

export interface Spread {
  left: string | null;
  right: string | null;
  /** First and last of its pages in the order of reading. */
  from: number;
  to: number;
}

/** The spread that a page lies in; null for one that is shown alone: text that flows, a page in the middle. */
export function spreadOf({ documents, direction }: ReadingOrder, path: string): Spread | null {
  const listed = documents.filter((d) => d.linear);
  const hands = handsOf(listed, direction);
  const at = listed.findIndex((d) => d.path === path);
  const hand = hands[at];
  if (hand === undefined || hand === 'centre' || !listed[at]?.fixed) return null;
  const opens = (hand === 'right') === (direction === 'rtl');
  const other = opens ? at + 1 : at - 1;
  const facing = listed[other];
  const faces = facing?.fixed === true && hands[other] !== 'centre' && hands[other] !== hand;
  const pair = faces ? facing.path : null;
  return {
    left: hand === 'left' ? path : pair,
    right: hand === 'right' ? path : pair,
    from: faces ? Math.min(at, other) : at,
    to: faces ? Math.max(at, other) : at,
  };
}
