'use client';
import { useEffect, useId, useState } from 'react';
import { lineOf } from './Field';

/**
 * A whole number within limits. The browser's own field is used: it knows the steps of arrow keys and the keys of a
 * telephone, and the primitives of the house have none of its kind. What is typed stays as it is until it is put right;
 * only a number within the limits is set.
 */
export function NumberField({
  label,
  value,
  onSet,
  least,
  most,
  step,
  className = '',
}: {
  label: string;
  value: number;
  onSet: (value: number) => void;
  least?: number;
  most?: number;
  step?: number;
  className?: string;
}) {
  const [typed, setTyped] = useState(String(value));
  const told = useId();
  useEffect(() => setTyped((t) => (Number(t) === value && t !== '' ? t : String(value))), [value]);
  const fits = (n: number): boolean =>
    Number.isInteger(n) && (least === undefined || n >= least) && (most === undefined || n <= most);
  const right = typed !== '' && fits(Number(typed));
  return (
    <span className="inline-block align-top">
      <input
        type="number"
        aria-label={label}
        aria-invalid={!right}
        aria-describedby={right ? undefined : told}
        className={`${lineOf(className)} ${right ? '' : 'border-rubric'}`}
        min={least}
        max={most}
        step={step}
        value={typed}
        onChange={(e) => {
          setTyped(e.target.value);
          const n = Number(e.target.value);
          if (e.target.value !== '' && fits(n) && n !== value) onSet(n);
        }}
      />
      {right ? null : (
        <span id={told} role="status" className="block max-w-40 text-[12px] text-rubric">
          {limits(least, most)}
        </span>
      )}
    </span>
  );
}

function limits(least?: number, most?: number): string {
  if (least !== undefined && most !== undefined) return `A whole number from ${least} to ${most}.`;
  if (least !== undefined) return `A whole number, ${least} or more.`;
  return most === undefined ? 'A whole number.' : `A whole number, ${most} or less.`;
}
