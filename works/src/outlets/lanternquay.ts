/** Lanternquay takes files in pieces, then a slip of JSON that names them. It tells of news by itself. */
import * as z from 'zod';
import { foundSchema, newsSchema, type News } from '@pagina/core/outlets';
import { listedAsSchema, type ListedAs } from '@pagina/core/trade';
import { boxOf, type OutletAdapter, type Parcel, type Receipt } from './adapter';
import { jsonOf, type Reply } from './line';
import { unreadable } from './notsent';
import { announced, bringAll } from './pieces';

const receiptSchema = z.object({ reference: z.string().min(1).max(200), sha256: z.string().default('') });
function receiptOf(reply: Reply): Receipt {
  const parsed = receiptSchema.safeParse(jsonOf(reply));
  if (!parsed.success) throw unreadable();
  return { reference: parsed.data.reference, sha256s: [parsed.data.sha256] };
}

const standingSchema = z.object({
  events: newsSchema.shape.events,
  link: newsSchema.shape.link,
  slip: z.unknown(),
  reasons: foundSchema.shape.reasons,
  files: foundSchema.shape.files,
  contents: foundSchema.shape.contents,
  doubts: foundSchema.shape.doubts,
  barriers: foundSchema.shape.barriers,
});

/** What the shop calls a slip: a price is a number of minor units and a currency. */
function slipOf(parcel: Parcel): Record<string, unknown> {
  const { listed, told, onSale } = parcel;
  const { price, ...others } = listed;
  return {
    ...others,
    description: boxOf(parcel, 'description'),
    price: price?.minor ?? 0,
    currency: price?.currency ?? '',
    rate: told.plan?.[0] ?? '',
    adult: told.adult?.[0] === 'Yes',
    protection: told.protection?.[0] === 'Yes',
    lending: told.lending?.[0] === 'Yes',
    only: told.exclusive?.[0] ?? '',
    onSale,
  };
}
const shownSchema = listedAsSchema.omit({ price: true }).extend({ price: z.number(), currency: z.string() });
function listedFrom(slip: unknown): ListedAs | null {
  const parsed = shownSchema.safeParse(slip);
  if (!parsed.success) return null;
  const { price, currency, ...others } = parsed.data;
  return { ...others, price: currency ? { minor: price, currency } : null };
}

const json = { 'Content-Type': 'application/json' };
const at = (reference: string): string => `/parcels/${encodeURIComponent(reference)}`;

export const lanternquay: OutletAdapter = {
  async ask({ key }, line) {
    const reply = await line.call(`/parcels?key=${encodeURIComponent(key)}`);
    return reply.status === 404 ? null : receiptOf(reply);
  },
  async send(parcel, line, share = () => undefined) {
    await bringAll(line, parcel, share);
    const { key, replaces, provisional, news } = parcel;
    if (news) {
      const body = JSON.stringify({ address: news });
      jsonOf(await line.call('/hook', { method: 'PUT', headers: json, body }));
    }
    return receiptOf(
      await line.call('/parcels', {
        method: 'POST',
        headers: { ...json, 'Parcel-Key': key, ...(replaces ? { Replaces: replaces } : {}) },
        body: JSON.stringify({ slip: slipOf(parcel), files: announced(parcel), provisional }),
      }),
    );
  },
  async revise(reference, parcel, line) {
    const body = JSON.stringify(slipOf(parcel));
    jsonOf(await line.call(`${at(reference)}/slip`, { method: 'PUT', headers: json, body }));
  },
  async withdraw(reference, _, line) {
    jsonOf(await line.call(at(reference), { method: 'DELETE' }));
  },
  async poll(reference, line): Promise<News | null> {
    const reply = await line.call(at(reference));
    if (reply.status !== 200) return null;
    const { events, link, slip, ...found } = standingSchema.parse(jsonOf(reply));
    return { events, link, listed: listedFrom(slip), found: foundSchema.parse(found) };
  },
};
