/** Lanternquay takes a parcel as one body: a line of JSON, then the file. It answers in JSON. */
import { Readable } from 'node:stream';
import * as z from 'zod';
import { bareIsbn } from '@pagina/core/record';
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
});

export const lanternquay: OutletAdapter = {
  again: [500, 2_000, 8_000],
  async ask({ key, sha256 }, stop) {
    const path = `/parcels?key=${encodeURIComponent(key)}&sha256=${sha256}`;
    const answer = await callOutlet(path, {}, { stop, limits: NEWS });
    return answer.status === 404 ? null : receiptOf(answer);
  },
  async send(parcel, stop) {
    return receiptOf(
      await callOutlet(
        '/parcels',
        {
          method: 'POST',
          headers: { 'Parcel-Key': parcel.key },
          body: Readable.toWeb(Readable.from(packed(parcel))) as ReadableStream<Uint8Array>,
          duplex: 'half',
        },
        { stop, limits: PARCEL },
      ),
    );
  },
  async poll(reference): Promise<News | null> {
    const answer = await callOutlet(`/parcels/${encodeURIComponent(reference)}`, {}, { limits: NEWS });
    return answer.status === 200 ? newsSchema.parse(answer.json) : null;
  },
};

async function* packed(parcel: Parcel): AsyncGenerator<Uint8Array> {
  yield new TextEncoder().encode(`${slipOf(parcel)}\n`);
  yield* parcel.bytes();
}

function slipOf({ book: { record }, edition, name, sha256, size }: Parcel): string {
  return JSON.stringify({
    title: record.title,
    authors: record.contributors.filter((c) => c.role === 'author').map((c) => c.name),
    isbn: bareIsbn(edition.isbn),
    description: record.description,
    language: record.language,
    price: record.price?.minor ?? 0,
    currency: record.price?.currency ?? '',
    name,
    sha256,
    size,
  });
}

function receiptOf({ status, json }: OutletAnswer): Receipt {
  const parsed = receiptSchema.safeParse(json);
  const receipt = parsed.success ? parsed.data : {};
  if (status >= 400 || !receipt.reference)
    throw new NotSent(receipt.message ?? 'The outlet did not take the parcel.', mayPass(status));
  return { reference: receipt.reference, sha256: receipt.sha256 ?? '' };
}
