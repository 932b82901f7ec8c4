'use client';
/** A page at reading size, as it prints, with what is laid over it, and its words for selecting and reading aloud. */
import { useMemo, useState } from 'react';
import { useRouter } from 'next/navigation';
import { useTitle } from '@/title/context';
import { viewOf } from '@/title/stations';
import { PageCanvas } from '@/strip/PageCanvas';
import type { TextLine } from '@pagina/core/compose';
import type { Composed } from '@/workers/messages';

import type { CommentedLine } from './commented';

export type Overlay = 'grid' | 'margins' | 'safe' | 'loose';
/** What a trimming knife may take of a page's edge, in points: a quarter of an inch (common practice). */
const SAFE = 18;

export function ProofPage({
  page,
  side,
  label,
  composed,
  scale,
  overlays,
  marked,
  differs,
  comments,
  onPoint,
}: {
  page: number;
  side: 'recto' | 'verso';
  label: string;
  composed: Composed;
  scale: number;
  overlays: ReadonlySet<Overlay>;
  /** Lines that hold what was sought. */
  marked: readonly number[];
  /** Lines that an earlier file has not; heads and folios are counted too. */
  differs: readonly number[];
  comments: readonly CommentedLine[];
  /** A line was pointed at, to be commented on. */
  onPoint?: (line: TextLine) => void;
}) {
  const [lines, setLines] = useState<TextLine[]>([]);
  // Heads and folios come first in what is drawn; lines are counted through the body.
  const body = useMemo(() => lines.filter((l) => !l.part.startsWith('heads.')), [lines]);
  const { goTo, session } = useTitle();
  const router = useRouter();
  const g = composed.geometry;
  const left = side === 'recto' ? g.inside : g.outside;
  const right = side === 'recto' ? g.outside : g.inside;
  const section = composed.pages[page]?.section ?? '';
  return (
    <figure
      aria-label={`Page ${label || page + 1}`}
      className={`relative border border-rule ${side === 'verso' ? 'border-r-edge' : ''}`}
      style={{ width: composed.width * scale + 2, height: composed.height * scale + 2 }}
      data-page={page}
    >
      <PageCanvas page={page} width={composed.width * scale} onLines={setLines} />
      {overlays.has('grid') ? (
        <span
          aria-hidden
          data-overlay="grid"
          className="pointer-events-none absolute inset-x-0"
          style={{
            top: (g.top + g.leading * 0.76 - g.leading) * scale,
            height: composed.rows * g.leading * scale,
            backgroundImage: `repeating-linear-gradient(to bottom, transparent 0 ${g.leading * scale - 1}px, color-mix(in srgb, #1c5a52 45%, transparent) ${g.leading * scale - 1}px ${g.leading * scale}px)`,
          }}
        />
      ) : null}
      {overlays.has('margins') ? (
        <span
          aria-hidden
          data-overlay="margins"
          className="pointer-events-none absolute border border-[#a52f1c]"
          style={{
            left: left * scale,
            right: right * scale,
            top: g.top * scale,
            height: composed.rows * g.leading * scale,
          }}
        />
      ) : null}
      {overlays.has('safe') ? (
        <span
          aria-hidden
          data-overlay="safe"
          className="pointer-events-none absolute border border-dashed border-[#8a5a0b]"
          style={{ inset: SAFE * scale }}
        />
      ) : null}
      {body.map((l, i) => {
        const loose = overlays.has('loose') && l.loose;
        if (!loose && !marked.includes(i)) return null;
        return (
          <span
            key={`mark${i}`}
            aria-hidden
            data-overlay={loose ? 'loose' : 'found'}
            className={`pointer-events-none absolute ${loose ? 'border-b-2 border-[#8a5a0b]' : 'bg-[#1c5a52]/20'}`}
            style={boxOf(l, scale)}
          />
        );
      })}
      {differs.map((i) => {
        const l = lines[i];
        return l ? (
          <span
            key={`new${i}`}
            aria-hidden
            data-overlay="came"
            className="pointer-events-none absolute bg-[#1c5a52]/15"
            style={boxOf(l, scale)}
          />
        ) : null;
      })}
      {comments.map((c, i) => {
        const l = lineOf(c, lines);
        return (
          <span
            key={`comment${i}`}
            aria-hidden
            data-overlay="comment"
            className="pointer-events-none absolute border-l-4 border-[#a52f1c]"
            style={
              l
                ? { ...boxOf(l, scale), left: l.x * scale - 10, width: 4 }
                : { left: 4, top: 4, width: 4, height: 20 }
            }
          />
        );
      })}
      {/* The page's words, unseen, where they stand: for selecting, finding and reading aloud. */}
      <span className="absolute inset-0 overflow-hidden" data-text>
        {lines.map((l, i) => (
          <span
            key={i}
            className={`absolute whitespace-pre text-transparent ${onPoint ? 'cursor-pointer hover:bg-[#1c5a52]/10' : ''}`}
            style={{
              left: l.x * scale,
              top: (l.y - l.size * 0.8) * scale,
              fontSize: l.size * scale,
              lineHeight: 1,
              width: l.width * scale,
              textAlignLast: 'justify',
              fontFamily: 'serif',
            }}
            onClick={onPoint ? () => onPoint(l) : undefined}
            onDoubleClick={() => {
              goTo({ section, block: l.block || undefined });
              router.push(viewOf(session.get().book, section));
            }}
          >
            {l.text}
          </span>
        ))}
      </span>
    </figure>
  );
}

const boxOf = (l: TextLine, scale: number) => ({
  left: l.x * scale - 2,
  top: (l.y - l.size * 0.8) * scale,
  width: l.width * scale + 4,
  height: l.size * 1.1 * scale,
});

/** The line of the paragraph on which a comment's words begin. */
const lineOf = (c: CommentedLine, lines: readonly TextLine[]): TextLine | undefined =>
  lines.findLast((l) => l.block !== '' && l.block === c.block && l.offset <= c.offset) ??
  lines.find((l) => l.block !== '' && l.block === c.block);
