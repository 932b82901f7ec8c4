'use client';
import type { Severity } from '@pagina/core/base';

/** A word with its shape: a filled square for a blocker, a triangle for a caution, a ring for a note. */
export function SeverityMark({ severity }: { severity: Severity }) {
  const looks: Record<Severity, [string, string, string]> = {
    blocker: ['■', 'text-rubric', 'blocker'],
    caution: ['▲', 'text-ochre', 'caution'],
    note: ['○', 'text-ink-soft', 'note'],
  };
  const [shape, colour, word] = looks[severity];
  return (
    <span className={`inline-flex items-baseline gap-1 text-[12px] ${colour}`}>
      <span aria-hidden>{shape}</span>
      {word}
    </span>
  );
}
