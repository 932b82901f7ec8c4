/** Tells all listeners which titles have changed. One question to the database serves them all, and none is asked without them. */
import { pulsesSince } from '@pagina/data';
import { store } from './store';

export interface Pulse {
  /** The latest number; whoever comes back asks for what came after it. */
  at: number;
  titles: string[];
}
type Listener = (p: Pulse) => void;

const EVERY = 300;
const kept = globalThis as { paginaListeners?: Set<Listener> };
const listeners = (kept.paginaListeners ??= new Set());

export async function pulseAfter(since: number): Promise<Pulse> {
  const rows = await pulsesSince(await store(), since);
  return { at: rows.at(-1)?.at ?? since, titles: rows.map((r) => r.title) };
}

/** Answers how to stop listening. */
export function listen(hear: Listener): () => void {
  listeners.add(hear);
  if (listeners.size === 1) void watch();
  return () => listeners.delete(hear);
}

async function watch(): Promise<void> {
  let { at } = await pulseAfter(0);
  while (listeners.size > 0) {
    await new Promise((r) => setTimeout(r, EVERY));
    const pulse = await pulseAfter(at).catch(() => null);
    if (!pulse || pulse.titles.length === 0) continue;
    at = pulse.at;
    for (const hear of listeners) hear(pulse);
  }
}
