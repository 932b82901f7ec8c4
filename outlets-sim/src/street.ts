/**
 * All shops behind one address: `/SHOP/…` is a shop's own. `GET /desk` tells the day, the weather and the accounts, and
 * `GET /SHOP/sales?month=YYYY-MM` is a shop's report of a month, `POST /desk` moves the day (`days`) or changes the weather at a shop (`shop`, `weather`); `/` shows the same to a person.
 */
import { createHmac } from 'node:crypto';
import { createServer, type IncomingMessage, type Server } from 'node:http';
import { WEATHERS, type House, type Weather } from './house';
import { isShop, SHOPS, type ShopId } from './names';
import { answer, jsonOf, refuse, type Call, type Reply } from './http';
import { pageOf, type SftpDoor } from './page';
import { reportOf } from './sales';
import type { Shop } from './shop';
import { SHOPS_OPEN } from './shops';

const MOST_BYTES = 300_000_000;
const SLOW = 4_000;
/** A busy shop asks for this many seconds. */
const RETRY_AFTER = 1;

/** What comes of a call in this weather: an answer, none at all, or an answer that is lost. */
export type Outcome = { reply: Reply } | 'silence' | 'lost';

const turns = new WeakMap<House, number>();

/** A call to a shop, key and weather first. */
export async function callAt(house: House, id: ShopId, call: Call): Promise<Outcome> {
  const weather = house.weatherAt(id);
  if (weather === 'silent') return 'silence';
  if (weather === 'closed') return { reply: refuse(503, 'We are closed for an hour.') };
  if (weather === 'slow') await new Promise((r) => setTimeout(r, SLOW));
  const turn = (turns.get(house) ?? 0) + 1;
  turns.set(house, turn);
  if (weather === 'busy' && turn % 2 === 1) {
    const { headers, ...busy } = refuse(429, 'You call too often.');
    return { reply: { ...busy, headers: { ...headers, 'Retry-After': String(RETRY_AFTER) } } };
  }
  const shop = SHOPS_OPEN[id];
  if (!shop.allows(call, house.accounts[id])) return { reply: refuse(401, 'We don’t know that key.') };
  const month = call.method === 'GET' && call.path === '/sales' ? (call.query.get('month') ?? '') : null;
  const reply = month === null ? await shop.handle(call, house) : salesReply(house, shop, month);
  return weather === 'cut' && call.method !== 'GET' && call.method !== 'HEAD' ? 'lost' : { reply };
}

/** What a shop sold in a month, for whoever asks with the key, and for a person at the desk. */
function salesReply(house: House, shop: Shop, month: string): Reply {
  const report = reportOf(house, shop, month);
  if (!report) return refuse(404, 'That month hasn’t ended, or is before our time.');
  const headers = {
    'Content-Type': `${report.type}; charset=utf-8`,
    'Content-Disposition': `attachment; filename="${report.name}"`,
  };
  return { status: 200, headers, body: report.text };
}

/** The desk at which a person moves the day and changes the weather. */
async function atDesk(house: House, call: Call, sftp: () => SftpDoor): Promise<Reply> {
  if (call.method === 'POST') {
    const { days, shop, weather } = jsonOf(call) ?? {};
    if (days !== undefined) {
      if (typeof days !== 'number' || !(days > 0 && days <= 365))
        return refuse(400, 'Say by how many days, 0 to 365.');
      house.kept.day += days;
    }
    if (weather !== undefined) {
      if (typeof shop !== 'string' || !isShop(shop) || !(WEATHERS as readonly unknown[]).includes(weather))
        return refuse(400, 'Name a shop and a weather.');
      house.kept.weather[shop] = weather as Weather;
    }
    house.keep();
    if (days !== undefined) await tellNews(house);
  }
  const { port, fingerprint } = sftp();
  const accounts = { ...house.accounts, shelfmoor: `${house.accounts.shelfmoor}@${fingerprint}` };
  const { day, kept } = house;
  return answer(200, { day, date: house.dateOf(day), weather: kept.weather, accounts, sftp: port });
}

/** Tells those who asked for it that a day has passed, signed with the account's key (HMAC, RFC 2104). */
async function tellNews(house: House): Promise<void> {
  for (const shop of SHOPS) {
    const address = house.kept.hooks[shop];
    if (!address || house.weatherAt(shop) !== 'fair') continue;
    const body = JSON.stringify({
      outlet: shop,
      books: house.booksAt(shop).map((b) => b.reference),
      day: house.day,
    });
    const signature = createHmac('sha256', house.accounts[shop]).update(body).digest('hex');
    const headers = { 'Content-Type': 'application/json', 'Outlet-Signature': `sha256=${signature}` };
    await fetch(address, { method: 'POST', headers, body, signal: AbortSignal.timeout(2_000) }).catch(
      () => null,
    );
  }
}

async function bodyOf(request: IncomingMessage): Promise<Buffer | null> {
  const chunks: Buffer[] = [];
  let size = 0;
  for await (const c of request as AsyncIterable<Buffer>) {
    size += c.length;
    if (size > MOST_BYTES) return null;
    chunks.push(c);
  }
  return Buffer.concat(chunks);
}

async function outcomeOf(house: House, q: IncomingMessage, sftp: () => SftpDoor): Promise<Outcome> {
  const url = new URL(q.url ?? '/', 'http://street');
  const [, first = ''] = url.pathname.split('/');
  const body = await bodyOf(q);
  if (!body) return { reply: refuse(413, 'That is too large.') };
  const call: Call = {
    method: q.method ?? 'GET',
    path: isShop(first) ? url.pathname.slice(first.length + 1) : url.pathname,
    query: url.searchParams,
    headers: q.headers as Record<string, string | undefined>,
    body,
  };
  if (isShop(first)) return callAt(house, first, call);
  if (url.pathname === '/desk') return { reply: await atDesk(house, call, sftp) };
  const [, , shop = '', month = ''] = url.pathname.split('/');
  if (first === 'sales' && isShop(shop)) return { reply: salesReply(house, SHOPS_OPEN[shop], month) };
  if (url.pathname === '/') return { reply: pageOf(house, sftp()) };
  return { reply: refuse(404, 'There is nothing here.') };
}

export function streetServer(house: House, sftp: () => SftpDoor): Server {
  return createServer((q, r) => {
    outcomeOf(house, q, sftp)
      .then((outcome) => {
        if (outcome === 'silence') return;
        if (outcome === 'lost') return void q.socket.destroy();
        const { status, headers, body } = outcome.reply;
        r.writeHead(status, headers).end(body);
      })
      .catch(() => q.socket.destroyed || r.writeHead(500).end('{"message":"The shop could not take that."}'));
  });
}
