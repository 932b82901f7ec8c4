/** `npm start`: builds what is stale and starts everything on the database in `PAGINA_DATA` (var/). */
import { build, packages } from './setup.mjs';

packages();
build();
await import('./run.mjs');
