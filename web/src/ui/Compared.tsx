'use client';
/** Two texts beside one another in one: words that came stand underlined, words that went are struck out. */
import type { Comparison, ComparedParagraph } from '@pagina/core/book';

/** Unchanged paragraphs shown before and after a change. */
const AROUND = 1;

/** What differs, in words. */
export function differenceOf(c: Comparison): string {
  if (c.paragraphs.length === 0) return 'the same';
  if (c.restyled) return 'the same words, set differently';
  const told = (x: number, way: string): string[] =>
    x === 0 ? [] : [`${x.toLocaleString('en-GB')} ${x === 1 ? 'word' : 'words'} ${way}`];
  return [...told(c.wordsIn, 'in'), ...told(c.wordsOut, 'out')].join(', ') || 'signs changed';
}

export function Compared({ comparison }: { comparison: Comparison }) {
  const { paragraphs } = comparison;
  const near = paragraphs.map((_, i) =>
    paragraphs.slice(Math.max(0, i - AROUND), i + AROUND + 1).some((p) => p.how !== 'same'),
  );
  const shown: (ComparedParagraph | null)[] = [];
  paragraphs.forEach((p, i) => {
    if (near[i]) shown.push(p);
    else if (shown.at(-1) !== null) shown.push(null);
  });
  return (
    <div className="space-y-1.5 font-serif text-[15px] leading-6" data-compared>
      {shown.map((p, i) =>
        p === null ? (
          <p key={i} className="text-ink-soft" aria-label="unchanged text left out">
            …
          </p>
        ) : (
          <p key={i} className="whitespace-pre-wrap">
            {p.runs.map((r, k) =>
              r.how === 'same' ? (
                <span key={k}>{r.text}</span>
              ) : r.how === 'in' ? (
                <ins key={k} className="text-spruce decoration-2 underline-offset-2">
                  {r.text}
                </ins>
              ) : (
                <del key={k} className="text-rubric">
                  {r.text}
                </del>
              ),
            )}
          </p>
        ),
      )}
    </div>
  );
}
