/** Marram takes details first, and territories and prices in a second step that opens after the first; both are JSON. */
import * as z from 'zod';
import { foundSchema, newsSchema, type News } from '@pagina/core/outlets';
import { amountFrom } from '@pagina/core/base';
import type { ListedAs } from '@pagina/core/trade';
import { boxesOf, boxOf, type OutletAdapter, type Parcel, type Receipt } from './adapter';
import { jsonOf, type Reply } from './line';
import { unreadable } from './notsent';
import { announced, bringAll } from './pieces';

const receiptSchema = z.object({
  reference: z.string().min(1).max(200),
  next: z.string(),
  files: z.record(z.string(), z.string()).default({}),
});
function receiptOf(reply: Reply): Receipt & { next: string } {
  const parsed = receiptSchema.safeParse(jsonOf(reply));
  if (!parsed.success) throw unreadable();
  const { reference, next, files } = parsed.data;
  return { reference, next, sha256s: Object.values(files) };
}

/** Names in two boxes: the family name, then the rest. */
function inTwos(boxes: readonly string[]): { family: string; given: string }[] {
  const names: { family: string; given: string }[] = [];
  for (let i = 0; i < boxes.length; i += 2) names.push({ family: boxes[i] ?? '', given: boxes[i + 1] ?? '' });
  return names;
}

function detailsOf(parcel: Parcel): Record<string, unknown> {
  return {
    name: boxOf(parcel, 'title'),
    furtherTitle: boxOf(parcel, 'subtitle'),
    series: boxOf(parcel, 'series'),
    part: boxOf(parcel, 'volume'),
    author: inTwos(boxesOf(parcel, 'authors')),
    others: boxOf(parcel, 'contributors'),
    publisher: boxOf(parcel, 'imprint'),
    language: boxOf(parcel, 'language'),
    firstDay: boxOf(parcel, 'published'),
    description: boxOf(parcel, 'description'),
    shelf: boxesOf(parcel, 'subjects'),
    searchWords: boxesOf(parcel, 'keywords'),
    readers: boxOf(parcel, 'audience'),
    isbn: boxOf(parcel, 'isbn'),
    pages: boxOf(parcel, 'pages'),
    protection: boxOf(parcel, 'protection'),
    shown: boxOf(parcel, 'preview'),
    rights: boxOf(parcel, 'rights') === 'Yes',
  };
}
const pricesOf = (parcel: Parcel): Record<string, unknown> => ({
  territories: boxesOf(parcel, 'territories'),
  prices: parcel.prices,
  bundle: boxOf(parcel, 'bundlePrice'),
});

const toldSchema = z
  .object({
    name: z.string(),
    furtherTitle: z.string(),
    author: z.array(z.object({ family: z.string(), given: z.string() })),
    isbn: z.string(),
    description: z.string(),
    searchWords: z.array(z.string()),
    language: z.string(),
    prices: z.array(z.object({ currency: z.string(), amount: z.string() })).min(1),
  })
  .transform((t): ListedAs => ({
    title: t.name,
    subtitle: t.furtherTitle,
    authors: t.author.map((a) => `${a.given} ${a.family}`.trim()),
    isbn: t.isbn,
    keywords: t.searchWords,
    language: t.language,
    price: amountFrom(t.prices[0]?.amount ?? '', t.prices[0]?.currency ?? ''),
  }));
const standingSchema = z.object({
  events: newsSchema.shape.events,
  address: newsSchema.shape.link,
  told: z.unknown(),
  shelf: foundSchema.shape.subjects,
  territories: foundSchema.shape.territories,
  reasons: foundSchema.shape.reasons,
  files: foundSchema.shape.files,
  contents: foundSchema.shape.contents,
  doubts: foundSchema.shape.doubts,
  barriers: foundSchema.shape.barriers,
  assigned: foundSchema.shape.assigned,
});

const headers = { 'Content-Type': 'application/json' };
const at = (reference: string): string => `/books/${encodeURIComponent(reference)}`;

export const marram: OutletAdapter = {
  async ask({ key }, line) {
    const reply = await line.call(`/books?key=${encodeURIComponent(key)}`);
    if (reply.status === 404) return null;
    const { next, ...receipt } = receiptOf(reply);
    // What has come so far isn't in until its prices are.
    return next === '' ? receipt : null;
  },
  async send(parcel, line, share = () => undefined) {
    await bringAll(line, parcel, share);
    const { key, replaces, provisional } = parcel;
    const body = JSON.stringify({
      key,
      replaces,
      provisional,
      details: detailsOf(parcel),
      files: announced(parcel),
    });
    const first = receiptOf(await line.call('/books', { method: 'POST', headers, body }));
    const prices = JSON.stringify({ key, ...pricesOf(parcel) });
    const path = `${at(first.reference)}/prices`;
    const { reference, sha256s } = receiptOf(await line.call(path, { method: 'PUT', headers, body: prices }));
    return { reference, sha256s };
  },
  async revise(reference, parcel, line) {
    const put = async (what: string, body: object): Promise<void> =>
      void jsonOf(
        await line.call(`${at(reference)}/${what}`, { method: 'PUT', headers, body: JSON.stringify(body) }),
      );
    await put('details', detailsOf(parcel));
    await put('prices', pricesOf(parcel));
  },
  async withdraw(reference, _, line) {
    jsonOf(await line.call(at(reference), { method: 'DELETE' }));
  },
  async poll(reference, line): Promise<News | null> {
    const reply = await line.call(at(reference));
    if (reply.status !== 200) return null;
    const { events, address, told, shelf, ...found } = standingSchema.parse(jsonOf(reply));
    const listed = toldSchema.safeParse(told);
    return {
      events,
      link: address,
      listed: listed.success ? listed.data : null,
      found: foundSchema.parse({ ...found, subjects: shelf }),
    };
  },
};
