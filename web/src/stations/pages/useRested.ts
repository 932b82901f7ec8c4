import { useCallback, useEffect, useRef, useState } from 'react';

/** How long keys rest before what they did is kept, in milliseconds. */
const REST = 500;

/**
 * A value that is tried before it is kept: `later` keeps it when no other follows for a while, or when what shows it goes
 * away; `now` at once.
 */
export function useRested<T>(value: T, keep: (value: T) => void) {
  const [shown, show] = useState(value);
  const waiting = useRef<{ value: T; timer: ReturnType<typeof setTimeout> } | null>(null);
  const latest = useRef({ value, keep });
  latest.current = { value, keep };
  useEffect(() => {
    if (!waiting.current) show(value);
  }, [value]);
  const now = useCallback((next: T): void => {
    if (waiting.current) clearTimeout(waiting.current.timer);
    waiting.current = null;
    show(next);
    if (JSON.stringify(next) !== JSON.stringify(latest.current.value)) latest.current.keep(next);
  }, []);
  const later = useCallback(
    (next: T): void => {
      show(next);
      if (waiting.current) clearTimeout(waiting.current.timer);
      waiting.current = { value: next, timer: setTimeout(() => now(next), REST) };
    },
    [now],
  );
  useEffect(
    () => () => {
      if (waiting.current) now(waiting.current.value);
    },
    [now],
  );
  return { shown, show, now, later };
}
