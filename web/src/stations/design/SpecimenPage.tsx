'use client';
/** A composed page of the specimen: its parts are pointed at, and light up together. */
import { useMemo, useState } from 'react';
import { PageCanvas } from '@/strip/PageCanvas';
import type { TextLine } from '@pagina/core/compose';
import type { Composed, Which } from '@/workers/messages';
import { nameOf, targetOf } from './target';

interface Stretch {
  target: string;
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Lines under one another that belong together, as one place to point at. */
function stretchesOf(lines: readonly TextLine[], targets: ReadonlyMap<string, string>): Stretch[] {
  const list: Stretch[] = [];
  for (const l of lines) {
    const target = targetOf(l, targets);
    if (!target) continue;
    const top = l.y - l.size * 0.85;
    const bottom = l.y + l.size * 0.3;
    const last = list.at(-1);
    if (last && last.target === target && top - (last.y + last.height) < l.size * 1.2 && top >= last.y) {
      const right = Math.max(last.x + last.width, l.x + l.width);
      last.x = Math.min(last.x, l.x);
      last.width = right - last.x;
      last.height = bottom - last.y;
    } else list.push({ target, x: l.x, y: top, width: l.width, height: bottom - top });
  }
  return list;
}

export function SpecimenPage({
  of,
  page,
  names,
  composed,
  width,
  targets,
  target,
  onTarget,
}: {
  of: Which;
  page: number;
  names: readonly string[];
  composed: Composed;
  width: number;
  targets: ReadonlyMap<string, string>;
  /** The part that is set just now. */
  target: string;
  onTarget: (target: string) => void;
}) {
  const [lines, setLines] = useState<TextLine[]>([]);
  const stretches = useMemo(() => stretchesOf(lines, targets), [lines, targets]);
  const scale = width / composed.width;
  const info = composed.pages[page];
  return (
    <figure data-specimen={page}>
      <div className="relative border border-rule" style={{ width: width + 2 }}>
        <PageCanvas page={page} width={width} of={of} onLines={setLines} />
        {/* For the pointer: by keyboard and for screen readers the same parts are listed beside the pages. */}
        {stretches.map((s, i) => (
          <span
            key={i}
            aria-hidden
            data-target={s.target}
            title={nameOf(s.target)}
            onClick={() => onTarget(s.target)}
            className={`absolute cursor-pointer border hover:border-spruce ${s.target === target ? 'border-spruce bg-spruce/10' : 'border-transparent'}`}
            style={{
              left: s.x * scale - 3,
              top: s.y * scale - 1,
              width: s.width * scale + 6,
              height: Math.max(10, s.height * scale + 2),
            }}
          />
        ))}
      </div>
      <figcaption className="pt-1 text-[13px] text-ink-soft">
        {names.join(', ')}
        {info?.label ? ` · ${info.label}` : ''}
      </figcaption>
    </figure>
  );
}
