/** The stand-in shops' process: `OUTLET_PORT` and `OUTLET_SFTP_PORT` on 127.0.0.1, their books beside the database. */
import { mkdirSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { House } from './house';
import { fingerprintOf, sftpServer } from './sftp';
import { streetServer } from './street';

const folder = process.env.PAGINA_DATA ?? 'var';
mkdirSync(folder, { recursive: true });
const house = House.open(folder);
const port = Number(process.env.OUTLET_PORT ?? 4180);
const fingerprint = fingerprintOf(house);
const hatch = sftpServer(house);
hatch.listen(Number(process.env.OUTLET_SFTP_PORT ?? 4181), '127.0.0.1', () => {
  const door = { port: (hatch.address() as AddressInfo).port, fingerprint };
  streetServer(house, () => door).listen(port, '127.0.0.1', () =>
    console.log(`The simulated outlets are at http://127.0.0.1:${port}`),
  );
});
