/** Lines to the stand-in outlets without sockets, on which a test decides what is cut, and where. */
import {
  existsSync,
  mkdirSync,
  openSync,
  closeSync,
  readFileSync,
  renameSync,
  statSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import { join } from 'node:path';
import { callAt } from '../../outlets-sim/src/street';
import type { House } from '../../outlets-sim/src/house';
import type { ShopId } from '../../outlets-sim/src/names';
import { collect, hatchOf, openHatch, outFile } from '../../outlets-sim/src/shops/shelfmoor';
import { NotSent, unreachable, type Asking, type Line, type RemoteFiles, type Reply } from '../src/outlets';
import { refusal } from '../src/outlets/line';

/** A call is cut before it arrives or after with its answer, or is answered that the shop is busy. */
export type Fault = 'before' | 'after' | 'busy' | null;

export function inProcess(house: House, shop: ShopId, next: () => Fault): Line {
  const headers = {
    authorization:
      shop === 'quayhead'
        ? `Basic ${Buffer.from(`imprint:${house.accounts.quayhead}`).toString('base64')}`
        : `Bearer ${house.accounts[shop]}`,
  };
  return {
    async call(path, asking = {}): Promise<Reply> {
      const fault = next();
      if (fault === 'before') throw unreachable();
      if (fault === 'busy') return { status: 429, text: '{"message":"Too often."}', header: () => null };
      const request = await requestOf(asking);
      const url = new URL(path, 'http://street');
      const outcome = await callAt(house, shop, {
        method: asking.method ?? 'GET',
        path: url.pathname,
        query: url.searchParams,
        headers: { ...headers, ...request.headers },
        body: request.body,
      });
      if (fault === 'after' || typeof outcome === 'string') throw unreachable();
      const { status, headers: given = {}, body } = outcome.reply;
      const lower = Object.fromEntries(Object.entries(given).map(([n, v]) => [n.toLowerCase(), v]));
      return { status, text: body, header: (name) => lower[name] ?? null };
    },
    // Whatever goes wrong at the other end is a session that failed.
    files: (work) =>
      work(hatchFiles(house, next)).catch((e: unknown) => {
        throw e instanceof NotSent ? e : unreachable();
      }),
  };
}

/** As `fetch` would put it on the line. */
async function requestOf({
  headers = {},
  body = '',
}: Asking): Promise<{ headers: Record<string, string>; body: Buffer }> {
  const lower = Object.fromEntries(Object.entries(headers).map(([n, v]) => [n.toLowerCase(), v]));
  if (!(body instanceof FormData)) return { headers: lower, body: Buffer.from(body) };
  const form = new Response(body);
  const type = { 'content-type': form.headers.get('content-type') ?? '' };
  return { headers: { ...lower, ...type }, body: Buffer.from(await form.arrayBuffer()) };
}

/** Shelfmoor's folder, as a session shows it; each of its commands may be cut. */
function hatchFiles(house: House, next: () => Fault): RemoteFiles {
  openHatch(house);
  const at = (path: string): string => join(hatchOf(house), path);
  const cut = async <T>(work: () => T | Promise<T>): Promise<T> => {
    const fault = next();
    if (fault === 'before') throw unreachable();
    if (fault === 'busy') throw refusal({ status: 429, text: '', header: () => null }, undefined);
    const done = await work();
    if (fault === 'after') throw unreachable();
    return done;
  };
  return {
    size: (path) => cut(() => (existsSync(at(path)) ? statSync(at(path)).size : null)),
    read: (path) =>
      cut(async () =>
        path.startsWith('/out/') ? outFile(house, path.slice(5)) : readFileSync(at(path), 'utf8'),
      ),
    put: (path, text) => cut(() => writeFileSync(at(path), text)),
    async write(path, from, chunks) {
      const fd = openSync(at(path), existsSync(at(path)) ? 'r+' : 'w');
      let position = from;
      try {
        for await (const chunk of chunks)
          await cut(() => {
            position += writeSync(fd, chunk, 0, chunk.length, position);
          });
      } finally {
        closeSync(fd);
      }
    },
    rename: (from, to) =>
      cut(async () => {
        renameSync(at(from), at(to));
        if (to.endsWith('record.xml')) await collect(house);
      }),
    folder: (path) => cut(() => void mkdirSync(at(path), { recursive: true })),
  };
}
