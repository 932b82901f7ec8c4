/** The one store of the web process. */
import { resolve } from 'node:path';
import { openStore, type Store } from '@pagina/data';

const kept = globalThis as unknown as { paginaStore?: Promise<Store> };

export function store(): Promise<Store> {
  const root = process.env.PAGINA_ROOT ?? resolve(process.cwd(), '..');
  kept.paginaStore ??= openStore(
    process.env.PAGINA_DATA ?? resolve(root, 'var'),
    resolve(root, 'data/drizzle'),
  );
  return kept.paginaStore;
}
