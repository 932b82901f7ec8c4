'use client';
import { useEffect, useId, useRef, useState } from 'react';
import { input, lineOf } from './Field';

/** A text field that keeps its words when it is left or Enter is pressed. */
export function Text({
  value,
  onCommit,
  area,
  wrong,
  suggestions = [],
  ...rest
}: {
  value: string;
  onCommit: (v: string) => void;
  area?: boolean | number;
  wrong?: boolean;
  /** What may be meant, offered while one types. */
  suggestions?: readonly string[];
  placeholder?: string;
  'aria-label'?: string;
  maxLength?: number;
  autoFocus?: boolean;
  /** A day is chosen by the browser’s own field. */
  type?: 'date';
}) {
  const [now, setNow] = useState(value);
  const typing = useRef(false);
  const list = useId();
  useEffect(() => {
    if (!typing.current) setNow(value);
  }, [value]);
  const keep = (): void => {
    typing.current = false;
    if (now !== value) onCommit(now.trim());
  };
  const common = {
    value: now,
    onChange: (e: { target: { value: string } }) => {
      typing.current = true;
      setNow(e.target.value);
    },
    onBlur: keep,
    'aria-invalid': wrong || undefined,
    ...rest,
  };
  if (area)
    return <textarea {...common} rows={area === true ? 5 : area} className={lineOf('h-auto py-1.5')} />;
  return (
    <>
      <input
        {...common}
        list={suggestions.length > 0 ? list : undefined}
        className={input}
        onKeyDown={(e) => e.key === 'Enter' && keep()}
      />
      {suggestions.length > 0 ? (
        <datalist id={list}>
          {suggestions.map((s) => (
            <option key={s} value={s} />
          ))}
        </datalist>
      ) : null}
    </>
  );
}
