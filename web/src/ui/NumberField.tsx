'use client';
import { lineOf } from './Field';

/**
 * A whole number. The browser's own field is used: it knows the steps of arrow keys and the keys of a telephone, and the
 * primitives of the house have none of its kind.
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
  return (
    <input
      type="number"
      aria-label={label}
      className={lineOf(className)}
      min={least}
      max={most}
      step={step}
      value={value}
      onChange={(e) => e.target.value !== '' && onSet(Number(e.target.value))}
    />
  );
}
