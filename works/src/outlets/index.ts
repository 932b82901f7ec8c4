import { NotSent, type OutletAdapter } from './adapter';
import { lanternquay } from './lanternquay';

export * from './adapter';

const ADAPTERS: Readonly<Record<string, OutletAdapter>> = { lanternquay };

/** Throws `NotSent` for an outlet that has none. */
export function adapterOf(outlet: string): OutletAdapter {
  const adapter = Object.hasOwn(ADAPTERS, outlet) ? ADAPTERS[outlet] : undefined;
  if (!adapter) throw new NotSent('Pagina no longer knows this outlet.', false);
  return adapter;
}
