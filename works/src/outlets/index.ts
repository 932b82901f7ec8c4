import { type OutletAdapter } from './adapter';
import { NotSent } from './notsent';
import { lanternquay } from './lanternquay';
import { lineTo, type Line } from './line';
import { marram } from './marram';
import { packstone } from './packstone';
import { pocketfell } from './pocketfell';
import { quayhead } from './quayhead';
import { shelfmoor } from './shelfmoor';

export * from './adapter';
export type { Asking, Line, Reply } from './line';
export { NotSent, unreachable } from './notsent';
export type { RemoteFiles } from './remote';

const ADAPTERS: Readonly<Record<string, OutletAdapter>> = {
  lanternquay,
  marram,
  packstone,
  pocketfell,
  quayhead,
  shelfmoor,
};

/** Throws `NotSent` for an outlet that has none. */
export function adapterOf(outlet: string): OutletAdapter {
  const adapter = Object.hasOwn(ADAPTERS, outlet) ? ADAPTERS[outlet] : undefined;
  if (!adapter) throw new NotSent('Pagina no longer knows this outlet.', false);
  return adapter;
}

/**
 * Milliseconds between one try to send and the next: a cut line is whole again in a moment, and an outlet that is closed
 * opens again after an hour (common practice). Whoever doesn't want to wait stops it.
 */
export const AGAIN: readonly number[] = [
  500,
  2_000,
  8_000,
  30_000,
  120_000,
  ...Array.from({ length: 12 }, () => 600_000),
];

const HOST = '127.0.0.1';
const USER = 'imprint';

/**
 * A line to an outlet's stand-in with the key of the account there. That of Shelfmoor is a password and the fingerprint of
 * the host, with an @ between.
 */
export function lineAt(outlet: string, key: string, stop?: AbortSignal): Line {
  const street = process.env.OUTLET_ADDRESS ?? `http://${HOST}:${process.env.OUTLET_PORT ?? 4180}`;
  const address = `${street}/${outlet}`;
  const authorization =
    outlet === 'quayhead' ? `Basic ${Buffer.from(`${USER}:${key}`).toString('base64')}` : `Bearer ${key}`;
  const [password = '', fingerprint = ''] = key.split('@');
  const port = Number(process.env.OUTLET_SFTP_PORT ?? 4181);
  const sftp = { host: HOST, port, user: USER, password, fingerprint };
  return lineTo({ address, headers: { Authorization: authorization }, sftp, stop });
}
