/** The stand-in shops' process: `OUTLET_PORT` on 127.0.0.1, its books beside the database. */
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { shopServer } from './server';

const folder = process.env.PAGINA_DATA ?? 'var';
mkdirSync(folder, { recursive: true });
const port = Number(process.env.OUTLET_PORT ?? 4180);
shopServer(join(folder, 'lanternquay.json')).listen(port, '127.0.0.1', () =>
  console.log(`Lanternquay is at http://127.0.0.1:${port}`),
);
