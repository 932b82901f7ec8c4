/** Lanternquay takes a parcel as one body: a line of JSON, then the file. It answers in JSON. */
import { Readable } from 'node:stream';
import * as z from 'zod';
import { listedAsSchema, type ListedAs } from '@pagina/core/trade';
import { NotSent, type News, type OutletAdapter, type Parcel, type Receipt } from './adapter';
import { callOutlet, mayPass, type CallLimits, type OutletAnswer } from './call';

/** A parcel may be large and the line slow. */
const PARCEL: CallLimits = { time: 300_000, most: 1_000_000 };
const NEWS: CallLimits = { time: 10_000, most: 1_000_000 };

const receiptSchema = z.object({
  reference: z.string().min(1).max(200).optional(),
  sha256: z.string().optional(),
  message: z.string().max(2_000).optional(),
});
const newsSchema = z.object({
  events: z.array(
    z.object({
      state: z.enum(['received', 'with the shop', 'held', 'on sale']),
      words: z.string().max(4_000),
    }),
  ),
  link: z.string().max(2_000).default(''),
  slip: z.unknown(),
});

export const lanternquay: OutletAdapter = {
  again: [500, 2_000, 8_000],
  async ask({ key }, stop) {
    const path = `/parcels?key=${encodeURIComponent(key)}`;
    const answer = await callOutlet(path, {}, { stop, limits: NEWS });
    return answer.status === 404 ? null : receiptOf(answer);
  },
  async send(parcel, stop) {
    return receiptOf(
      await callOutlet(
        '/parcels',
        {
          method: 'POST',
          headers: { 'Parcel-Key': parcel.key, ...(parcel.replaces ? { Replaces: parcel.replaces } : {}) },
          body: Readable.toWeb(Readable.from(packed(parcel))) as ReadableStream<Uint8Array>,
          duplex: 'half',
        },
        { stop, limits: PARCEL },
      ),
    );
  },
  async revise(reference, listed, stop) {
    const path = `/parcels/${encodeURIComponent(reference)}/slip`;
    const body = JSON.stringify(detailsOf(listed));
    const answer = await callOutlet(path, { method: 'PUT', body }, { stop, limits: NEWS });
    if (answer.status >= 400) receiptOf(answer);
  },
  async poll(reference): Promise<News | null> {
    const answer = await callOutlet(`/parcels/${encodeURIComponent(reference)}`, {}, { limits: NEWS });
    if (answer.status !== 200) return null;
    const { slip, ...news } = newsSchema.parse(answer.json);
    return { ...news, listed: listedFrom(slip) };
  },
};

async function* packed(parcel: Parcel): AsyncGenerator<Uint8Array> {
  yield new TextEncoder().encode(`${slipOf(parcel)}\n`);
  yield* parcel.bytes();
}

const slipOf = ({ listed, name, sha256, size }: Parcel): string =>
  JSON.stringify({ ...detailsOf(listed), name, sha256, size });

/** What the shop calls details: a price is a number of minor units and a currency. */
const detailsOf = ({ price, ...others }: ListedAs): Record<string, unknown> => ({
  ...others,
  price: price?.minor ?? 0,
  currency: price?.currency ?? '',
});
const shownSchema = listedAsSchema.omit({ price: true }).extend({ price: z.number(), currency: z.string() });
function listedFrom(slip: unknown): ListedAs | null {
  const parsed = shownSchema.safeParse(slip);
  if (!parsed.success) return null;
  const { price, currency, ...others } = parsed.data;
  return { ...others, price: currency ? { minor: price, currency } : null };
}

function receiptOf({ status, json }: OutletAnswer): Receipt {
  const parsed = receiptSchema.safeParse(json);
  const receipt = parsed.success ? parsed.data : {};
  if (status >= 400 || !receipt.reference)
    throw new NotSent(receipt.message ?? 'The outlet did not take the parcel.', mayPass(status));
  return { reference: receipt.reference, sha256: receipt.sha256 ?? '' };
}
