'use client';
/** Things that were chosen, in their order: each can be put first and taken away. */
import { Button } from '@/ui/Button';

export function Chosen({
  of: chosen,
  onKeep,
}: {
  of: readonly { key: string; name: string; more?: string }[];
  onKeep: (keys: string[]) => void;
}) {
  const keys = chosen.map((c) => c.key);
  if (chosen.length === 0) return null;
  return (
    <ul className="mb-2 border-t border-rule">
      {chosen.map(({ key, name, more }, i) => (
        <li key={key} className="flex min-h-8 items-center gap-2 border-b border-rule text-[13px]">
          <span className={more ? 'w-14 shrink-0 font-semibold' : 'min-w-0 flex-1'}>{name}</span>
          {more ? <span className="min-w-0 flex-1">{more}</span> : null}
          {i > 0 ? (
            <Button
              kind="quiet"
              className="h-7 px-2"
              aria-label={`Put ${name} first`}
              onClick={() => onKeep([key, ...keys.filter((k) => k !== key)])}
            >
              First
            </Button>
          ) : null}
          <Button
            kind="quiet"
            className="h-7 px-2"
            aria-label={`Remove ${name}`}
            onClick={() => onKeep(keys.filter((k) => k !== key))}
          >
            Remove
          </Button>
        </li>
      ))}
    </ul>
  );
}
