/**
 * The shop's protocol. A parcel is `POST /parcels` with a `Parcel-Key` header; its body is one line of JSON (the slip), a
 * line feed, and the ebook's bytes; a `Replaces` header names the book whose file it is. `GET /parcels?key=KEY`
 * tells whether it has arrived; `GET /parcels/REFERENCE` tells what has happened and what the shop shows; `PUT
 * /parcels/REFERENCE/slip` changes that; `GET` and `POST /clock` tell and move the shop's day.
 */
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { readFileSync, renameSync, writeFileSync } from 'node:fs';
import {
  eventsOf,
  linkOf,
  parcelOf,
  receiptOf,
  receive,
  revise,
  type Details,
  type Parcel,
  type ShopState,
  type Slip,
} from './shop';

const MOST_BYTES = 300_000_000;

function load(path: string): ShopState {
  try {
    const { day, parcels } = JSON.parse(readFileSync(path, 'utf8')) as ShopState;
    return { day, parcels: parcels.map(upgraded) };
  } catch {
    return { day: 0, parcels: [] };
  }
}

/** A parcel as earlier versions kept it: one key, and one arrival. */
interface EarlierParcel {
  key: string;
  sha256: string;
  arrived: number;
  reasons: string[];
}
function upgraded(p: Parcel & Partial<EarlierParcel>): Parcel {
  if (p.arrivals) return p;
  const { reference, slip, key = '', sha256 = '', arrived = 0, reasons = [] } = p;
  const words = `Received as ${reference}, ${slip.size} bytes.`;
  const details = { ...slip, subtitle: '', editionStatement: '', keywords: [] };
  const { title, authors } = slip;
  const facts = { title, authors, identifier: `urn:isbn:${slip.isbn}`, cover: true, pages: 1, fault: '' };
  return {
    reference,
    slip: details,
    facts,
    keys: [{ key, sha256 }],
    arrivals: [{ day: arrived, words, reasons }],
  };
}

async function bodyOf(request: IncomingMessage): Promise<Buffer> {
  const chunks: Buffer[] = [];
  let size = 0;
  for await (const c of request as AsyncIterable<Buffer>) {
    size += c.length;
    if (size > MOST_BYTES) throw new Error('too large');
    chunks.push(c);
  }
  return Buffer.concat(chunks);
}

/** `path` keeps the shop's books between starts. */
export function shopServer(path: string): Server {
  const shop = load(path);
  const keep = (): void => {
    writeFileSync(`${path}.part`, JSON.stringify(shop));
    renameSync(`${path}.part`, path);
  };
  const say = (r: ServerResponse, status: number, value: unknown): void => {
    r.writeHead(status, { 'Content-Type': 'application/json' });
    r.end(JSON.stringify(value));
  };
  const handle = async (q: IncomingMessage, r: ServerResponse): Promise<void> => {
    const url = new URL(q.url ?? '/', 'http://shop');
    if (url.pathname === '/clock') {
      if (q.method === 'POST') {
        const { days } = JSON.parse((await bodyOf(q)).toString() || '{}') as { days?: number };
        if (typeof days !== 'number' || !(days > 0 && days <= 365))
          return say(r, 400, { message: 'Say by how many days, 0 to 365.' });
        shop.day += days;
        keep();
      }
      return say(r, 200, { day: shop.day });
    }
    if (url.pathname === '/parcels' && q.method === 'POST') {
      const body = await bodyOf(q);
      const end = body.indexOf(10);
      let slip: Slip;
      try {
        slip = JSON.parse(body.subarray(0, end).toString()) as Slip;
      } catch {
        return say(r, 400, { message: 'The slip cannot be read.' });
      }
      const receipt = receive(
        shop,
        String(q.headers['parcel-key'] ?? ''),
        slip,
        new Uint8Array(body.subarray(end + 1)),
        q.headers.replaces === undefined ? null : String(q.headers.replaces),
      );
      keep();
      return say(r, receipt.status, receipt);
    }
    if (url.pathname === '/parcels') {
      const there = parcelOf(shop, url.searchParams.get('key'));
      return there ? say(r, 200, receiptOf(there)) : say(r, 404, { message: 'No such parcel has arrived.' });
    }
    const parcel = shop.parcels.find((p) => url.pathname.startsWith(`/parcels/${p.reference}`));
    if (parcel && url.pathname === `/parcels/${parcel.reference}/slip` && q.method === 'PUT') {
      let details: Details;
      try {
        details = JSON.parse((await bodyOf(q)).toString()) as Details;
      } catch {
        return say(r, 400, { message: 'The slip cannot be read.' });
      }
      const answer = revise(shop, parcel, details);
      keep();
      return say(r, answer.status, answer);
    }
    if (!parcel || url.pathname !== `/parcels/${parcel.reference}`)
      return say(r, 404, { message: 'That parcel is unknown.' });
    const events = eventsOf(shop, parcel);
    const state = events.at(-1)?.state;
    say(r, 200, {
      reference: parcel.reference,
      state,
      events,
      link: linkOf(shop, parcel),
      slip: parcel.slip,
      count: shop.parcels.filter((p) => p.slip.isbn && p.slip.isbn === parcel.slip.isbn).length,
    });
  };
  return createServer((q, r) => {
    handle(q, r).catch(() => say(r, 500, { message: 'The shop could not take that.' }));
  });
}
