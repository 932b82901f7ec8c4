/** Pocketfell takes files in pieces and a sheet of comma-separated values that names them, and answers in sheets too. */
import Papa from 'papaparse';
import { amountFrom } from '@pagina/core/base';
import { foundSchema, listingStateSchema, type News } from '@pagina/core/outlets';
import { boxesOf, boxOf, type OutletAdapter, type Parcel, type Receipt } from './adapter';
import { refusal, type Reply } from './line';
import { unreadable } from './notsent';
import { bringAll } from './pieces';

/** Rows of a sheet by the names in its first; throws `NotSent` on a refusal, or on what is no sheet. */
function rowsOf(reply: Reply): Record<string, string>[] {
  const { data } = Papa.parse<Record<string, string>>(reply.text, { header: true, skipEmptyLines: true });
  if (reply.status >= 400) throw refusal(reply, data[0]?.message);
  return data;
}
function receiptOf(reply: Reply): Receipt {
  const [row] = rowsOf(reply);
  if (!row?.number) throw unreadable();
  return { reference: row.number, sha256s: [row.sha256 ?? ''] };
}

function cellsOf(parcel: Parcel): Record<string, string> {
  return {
    Title: boxOf(parcel, 'title'),
    Author: boxOf(parcel, 'authors'),
    Seller: boxOf(parcel, 'imprint'),
    Language: boxOf(parcel, 'language'),
    Description: boxOf(parcel, 'description'),
    Subjects: boxesOf(parcel, 'subjects').join('; '),
    Ages: boxOf(parcel, 'ages'),
    'Contains adult content': boxOf(parcel, 'adult'),
    'In the public domain': boxOf(parcel, 'publicDomain'),
    ISBN: boxOf(parcel, 'isbn'),
    Price: boxOf(parcel, 'price'),
    Currency: parcel.prices[0]?.currency ?? '',
    'Readable before buying': boxOf(parcel, 'preview'),
    'Text that may be copied': boxOf(parcel, 'copies'),
    Encrypted: boxOf(parcel, 'protection'),
    'Declaration of rights': boxOf(parcel, 'rights'),
  };
}
/** A row of names and one of values. Nothing is kept from being a formula: it's no spreadsheet that reads it. */
const sheetOf = (cells: Record<string, string>): string => Papa.unparse([cells]);

const headers = { 'Content-Type': 'text/csv; charset=utf-8' };
const at = (number: string): string => `/books/${encodeURIComponent(number)}`;

export const pocketfell: OutletAdapter = {
  async ask({ key }, line) {
    const reply = await line.call(`/sheets/${encodeURIComponent(key)}`);
    return reply.status === 404 ? null : receiptOf(reply);
  },
  async send(parcel, line, share = () => undefined) {
    await bringAll(line, parcel, share);
    const [book] = parcel.files;
    const body = sheetOf({
      ...cellsOf(parcel),
      Book: book?.name ?? '',
      'Book SHA-256': book?.sha256 ?? '',
      'Book bytes': String(book?.size ?? 0),
      'Replaces number': parcel.replaces,
    });
    const path = `/sheets/${encodeURIComponent(parcel.key)}`;
    return receiptOf(await line.call(path, { method: 'PUT', headers, body }));
  },
  async revise(number, parcel, line) {
    const body = sheetOf({ ...cellsOf(parcel), 'Replaces number': number });
    // A sheet without a book has a name of its own.
    const path = `/sheets/${encodeURIComponent(`${parcel.key}-change`)}`;
    rowsOf(await line.call(path, { method: 'PUT', headers, body }));
  },
  async withdraw(number, _, line) {
    rowsOf(await line.call(at(number), { method: 'DELETE' }));
  },
  async poll(number, line): Promise<News | null> {
    const reply = await line.call(at(number));
    if (reply.status !== 200) return null;
    const rows = rowsOf(reply);
    const of = (kind: string): { name: string; words: string }[] =>
      rows.filter((r) => r.kind === kind).map((r) => ({ name: r.name ?? '', words: r.words ?? '' }));
    const words = (kind: string): string[] => of(kind).map((r) => r.words);
    const shown = Object.fromEntries(of('shown').map((r) => [r.name, r.words]));
    return {
      events: of('event').flatMap((e) => {
        const state = listingStateSchema.safeParse(e.name);
        return state.success ? [{ state: state.data, words: e.words }] : [];
      }),
      link: words('link')[0] ?? '',
      listed: {
        title: shown.Title ?? '',
        isbn: shown.ISBN ?? '',
        language: shown.Language ?? '',
        price: amountFrom(shown.Price ?? '', shown.Currency ?? ''),
      },
      found: foundSchema.parse({
        reasons: of('reason').map((r) => ({ about: r.name, words: r.words })),
        files: of('file').map((f) => ({ part: f.name, state: f.words })),
        contents: words('contents'),
        doubts: words('doubt'),
        barriers: words('barrier'),
        subjects: words('subject'),
        calls: words('needs action'),
      }),
    };
  },
};
