/** Packstone takes a form with files (multipart/form-data, RFC 7578), and tells how a book stands in each of its shops. */
import * as z from 'zod';
import { foundSchema, newsSchema, type News } from '@pagina/core/outlets';
import { boxesOf, boxOf, type OutletAdapter, type Parcel, type ParcelFile, type Receipt } from './adapter';
import { jsonOf, type Reply } from './line';
import { unreadable } from './notsent';

/** A form with a book in it takes its time. */
const TIME = 300_000;

const receiptSchema = z.object({
  number: z.string().min(1).max(200),
  received: z.record(z.string(), z.string()).default({}),
});
function receiptOf(reply: Reply): Receipt {
  const parsed = receiptSchema.safeParse(jsonOf(reply));
  if (!parsed.success) throw unreadable();
  return { reference: parsed.data.number, sha256s: Object.values(parsed.data.received) };
}

const PARTS: Partial<Record<ParcelFile['part'], string>> = {
  ebook: 'epub',
  cover: 'cover',
  sample: 'sample',
};

async function wholeOf({ bytes }: ParcelFile): Promise<Blob> {
  const chunks: Uint8Array[] = [];
  for await (const chunk of bytes()) chunks.push(chunk);
  return new Blob(chunks as BlobPart[]);
}

/** The fields of the form; those that may be given several times are. */
function formOf(parcel: Parcel): FormData {
  const form = new FormData();
  const one = (name: string, value: string): void => form.set(name, value);
  one('isbn13', boxOf(parcel, 'isbn'));
  one('title', boxOf(parcel, 'title'));
  one('subtitle', boxOf(parcel, 'subtitle'));
  one('contributors', boxOf(parcel, 'authors'));
  one('seriesName', boxOf(parcel, 'series'));
  one('seriesNumber', boxOf(parcel, 'volume'));
  one('editionNumber', boxOf(parcel, 'edition'));
  one('publisher', boxOf(parcel, 'imprint'));
  one('publicationDate', boxOf(parcel, 'published'));
  one('languageCode', boxOf(parcel, 'language'));
  one('longDescription', boxOf(parcel, 'description'));
  one('shortDescription', boxOf(parcel, 'shortDescription'));
  one('keywords', boxOf(parcel, 'keywords'));
  one('audienceCode', boxOf(parcel, 'audience'));
  one('consumerPrice', boxOf(parcel, 'price'));
  one('currency', parcel.prices[0]?.currency ?? '');
  one('salesRights', boxesOf(parcel, 'territories').join(' '));
  one('copyLimit', boxOf(parcel, 'copies'));
  for (const code of boxesOf(parcel, 'subjects')) form.append('thema', code);
  for (const shop of boxesOf(parcel, 'shops')) form.append('passOnTo', shop);
  return form;
}

const standingSchema = z.object({
  events: newsSchema.shape.events,
  reasons: foundSchema.shape.reasons,
  files: foundSchema.shape.files,
  contents: foundSchema.shape.contents,
  doubts: foundSchema.shape.doubts,
  barriers: foundSchema.shape.barriers,
  told: z.record(z.string(), z.unknown()),
  shops: z.array(z.object({ shop: z.string(), state: z.string(), words: z.string(), link: z.string() })),
});

const at = (number: string): string => `/titles/${encodeURIComponent(number)}`;

export const packstone: OutletAdapter = {
  async ask({ key }, line) {
    const reply = await line.call(`/titles?key=${encodeURIComponent(key)}`);
    return reply.status === 404 ? null : receiptOf(reply);
  },
  async send(parcel, line, share = () => undefined) {
    const form = formOf(parcel);
    form.set('key', parcel.key);
    form.set('replaces', parcel.replaces);
    form.set('provisional', parcel.provisional ? 'yes' : 'no');
    for (const file of parcel.files) form.set(PARTS[file.part] ?? file.part, await wholeOf(file), file.name);
    const reply = await line.call('/titles', { method: 'POST', body: form, time: TIME });
    share(1);
    return receiptOf(reply);
  },
  async revise(number, parcel, line) {
    jsonOf(await line.call(at(number), { method: 'POST', body: formOf(parcel) }));
  },
  async withdraw(number, _, line) {
    jsonOf(await line.call(at(number), { method: 'DELETE' }));
  },
  async poll(number, line): Promise<News | null> {
    const reply = await line.call(at(number));
    if (reply.status !== 200) return null;
    const { events, shops, told, ...found } = standingSchema.parse(jsonOf(reply));
    const text = (name: string): string => (typeof told[name] === 'string' ? told[name] : '');
    return {
      events,
      link: shops.find((s) => s.link !== '')?.link ?? '',
      listed: {
        title: text('title'),
        subtitle: text('subtitle'),
        isbn: text('isbn13'),
        language: text('languageCode'),
      },
      found: foundSchema.parse({
        ...found,
        shops: shops.map(({ shop, ...s }) => ({ name: shop, ...s })),
      }),
    };
  },
};
