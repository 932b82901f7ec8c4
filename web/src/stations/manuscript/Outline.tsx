'use client';
/** The book in outline: sections and subheads, with the one that is being read; a click goes there. */
import { useEffect, useMemo, useRef, useState, type RefObject } from 'react';
import { depthOf, onOneLine, type Section } from '@pagina/core/book';
import { headingsOf } from '@pagina/core/order';
import { useBook, useTitle } from '@/title/context';
import { Aside } from '@/ui/Aside';

interface Line {
  section: string;
  /** Null for the section itself. */
  block: string | null;
  words: string;
  depth: number;
}

/** Pixels below the head of the text at which one reads. */
const READING = 120;

export function Outline({
  shown,
  scroller,
  onClose,
}: {
  shown: readonly Section[];
  scroller: RefObject<HTMLDivElement | null>;
  onClose: () => void;
}) {
  const { goTo } = useTitle();
  const { book } = useBook();
  const lines = useMemo(() => {
    const headings = headingsOf(book.sections, book);
    return shown.flatMap((s): Line[] => {
      const depth = depthOf(book, s);
      const h = headings.get(s.id);
      const own = {
        section: s.id,
        block: null,
        words: [h?.number, h?.title].filter(Boolean).join(' · ') || (h?.label ?? ''),
        depth,
      };
      const subheads: Line[] = [];
      s.content.forEach((n) => {
        const words = n.type.name === 'subhead' ? onOneLine(n) : '';
        if (words)
          subheads.push({
            section: s.id,
            block: n.attrs.id as string,
            words,
            depth: depth + Number(n.attrs.level),
          });
      });
      return [own, ...subheads];
    });
  }, [book, shown]);
  const here = useReading(scroller, lines);
  const list = useRef<HTMLOListElement>(null);
  useEffect(() => {
    list.current?.querySelector('[aria-current]')?.scrollIntoView({ block: 'nearest' });
  }, [here]);
  return (
    <Aside title="Outline" onClose={onClose}>
      <ol ref={list} className="py-1">
        {lines.map((l, i) => (
          <li key={`${l.section} ${l.block ?? ''}`}>
            <button
              type="button"
              aria-current={i === here ? 'location' : undefined}
              className={`block w-full truncate py-1 pr-3 text-left hover:text-spruce ${l.block ? 'text-[13px] text-ink-soft' : 'font-serif text-[15px]'} ${i === here ? 'bg-table text-spruce' : ''}`}
              style={{ paddingLeft: 16 + l.depth * 16 }}
              onClick={() => goTo(l.block ? { section: l.section, block: l.block } : { section: l.section })}
            >
              {l.words}
            </button>
          </li>
        ))}
      </ol>
    </Aside>
  );
}

/** How far down the window the cursor is; null where it is out of sight. */
function cursorIn(scroller: HTMLElement): number | null {
  const selection = document.getSelection();
  const node = selection?.focusNode;
  const within = node instanceof Element ? node : node?.parentElement;
  if (!selection || !within?.closest('[contenteditable]') || !scroller.contains(within)) return null;
  const range = document.createRange();
  range.setStart(node as Node, selection.focusOffset);
  const line = range.getClientRects()[0] ?? within.getBoundingClientRect();
  const { top, bottom } = scroller.getBoundingClientRect();
  return line.bottom > top && line.top < bottom ? line.bottom : null;
}

/** Index of the line below which one writes, or reads where the cursor is out of sight. */
function useReading(scroller: RefObject<HTMLDivElement | null>, lines: readonly Line[]): number {
  const [here, setHere] = useState(0);
  useEffect(() => {
    const el = scroller.current;
    if (!el) return;
    let frame = 0;
    const look = (): void => {
      frame = 0;
      const top = cursorIn(el) ?? el.getBoundingClientRect().top + READING;
      const begun = (l: Line): boolean => {
        const row = el.querySelector(`[data-section="${CSS.escape(l.section)}"]`);
        const at = l.block ? row?.querySelector(`[data-id="${CSS.escape(l.block)}"]`) : row;
        // A section out of sight has no text drawn: its subheads are as far as itself.
        return (at ?? row ?? el).getBoundingClientRect().top <= top && (at !== null || l.block === null);
      };
      const sections = lines.flatMap((l, i) => (l.block === null ? [i] : []));
      const section = sections.findLast((i) => begun(lines[i] as Line)) ?? 0;
      let last = section;
      for (let i = section + 1; lines[i]?.block && begun(lines[i] as Line); i++) last = i;
      setHere(last);
    };
    const later = (): void => {
      frame ||= requestAnimationFrame(look);
    };
    look();
    el.addEventListener('scroll', later, { passive: true });
    document.addEventListener('selectionchange', later);
    return () => {
      cancelAnimationFrame(frame);
      el.removeEventListener('scroll', later);
      document.removeEventListener('selectionchange', later);
    };
  }, [scroller, lines]);
  return here;
}
