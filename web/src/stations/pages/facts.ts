/** What the table of picture pages says of each page. */
import type { Node } from 'prosemirror-model';
import { altOf, pageAttrs, type PageLayout } from '@pagina/core/book';
import { pageOffsets } from '@pagina/core/compose';
import { layoutIn } from '@pagina/core/order';
import type { Composed } from '@/workers/messages';

export const LAYOUT_NAMES: Record<PageLayout, string> = {
  picture: 'Picture alone',
  below: 'Words below',
  above: 'Words above',
  beside: 'Words beside',
  over: 'Words over the picture',
  words: 'Words alone',
};

export interface PageFacts {
  id: string;
  node: Node;
  /** Numbers of its pages in the composition, none before it is composed. */
  pages: number[];
  /** As it is called: "12" or "2–3", and on which hand it lies. */
  label: string;
  hand: 'left' | 'right' | 'both' | '';
  words: string;
  layout: PageLayout | null;
  /** What is not as it should be; '' for nothing. */
  state: string;
}

export function pageFacts(content: Node, section: string, composed: Composed | null): PageFacts[] {
  const start = composed?.pages.find((p) => p.section === section && !p.blank);
  const offsets = pageOffsets(content, start?.side ?? 'recto');
  const marks = new Map<string, string>();
  for (const { kind, place } of composed?.marks ?? [])
    if (place.section === section && place.block && (kind === 'overset' || kind === 'unsafe'))
      if (kind === 'overset' || !marks.has(place.block)) marks.set(place.block, kind);
  const facts: PageFacts[] = [];
  content.forEach((node, _o, i) => {
    const { from = 0, count = 1 } = offsets[i] ?? {};
    const pages = start ? Array.from({ length: count }, (_, k) => start.index + from + k) : [];
    const labels = pages.map((p) => composed?.pages[p]?.label || String(p + 1));
    const side = composed?.pages[pages[0] ?? -1]?.side;
    facts.push({
      id: node.attrs.id as string,
      node,
      pages,
      label: labels.join('–'),
      hand: count === 2 ? 'both' : side === 'recto' ? 'right' : side === 'verso' ? 'left' : '',
      words: node.textBetween(0, node.content.size, ' ').trim(),
      layout: layoutIn(node),
      state: stateOf(node, marks),
    });
  });
  return facts;
}

function stateOf(page: Node, marks: ReadonlyMap<string, string>): string {
  const { picture, decorative } = pageAttrs(page);
  const faults = new Set<string>();
  page.forEach((box) => {
    const fault = marks.get((box.firstChild?.attrs.id as string | undefined) ?? '');
    if (fault) faults.add(fault);
  });
  if (faults.has('overset')) return 'words don’t fit';
  if (faults.has('unsafe')) return 'words near an edge';
  if (picture !== '' && !decorative && altOf(page) === '') return 'no description';
  return picture === '' && page.textContent.trim() === '' ? 'empty' : '';
}
