'use client';
import { RadioGroup as Primitive } from 'radix-ui';
import type { Choice } from './Select';

/** One of a few choices, all in sight, each with a remark if it needs one. */
export function RadioGroup<V extends string>({
  label,
  value,
  choices,
  onChoose,
  row = false,
}: {
  label: string;
  value: V | null;
  choices: readonly (Choice<V> & { hint?: string })[];
  onChoose: (value: V) => void;
  /** Side by side. */
  row?: boolean;
}) {
  return (
    <Primitive.Root
      aria-label={label}
      value={value ?? ''}
      onValueChange={(v) => onChoose(v as V)}
      orientation={row ? 'horizontal' : 'vertical'}
      className={row ? 'flex items-center gap-4' : 'space-y-1'}
    >
      {choices.map((c) => (
        <label key={c.value} className="flex items-start gap-2 whitespace-nowrap">
          <Primitive.Item
            value={c.value}
            className="mt-[3px] flex h-3.5 w-3.5 shrink-0 items-center justify-center rounded-full border border-edge bg-sheet hover:border-ink data-[state=checked]:border-spruce"
          >
            <Primitive.Indicator className="h-1.5 w-1.5 rounded-full bg-spruce" />
          </Primitive.Item>
          <span className="whitespace-normal">
            {c.name}
            {c.hint ? <span className="block text-[12px] text-ink-soft">{c.hint}</span> : null}
          </span>
        </label>
      ))}
    </Primitive.Root>
  );
}
