/** Quayhead takes files in pieces, then a job ticket in XML that names them. */
import { amountFrom, descendants, escapeXml, textOf } from '@pagina/core/base';
import type { News, ToldFields } from '@pagina/core/outlets';
import type { OutletAdapter, Parcel, Receipt } from './adapter';
import { refusal, type Reply } from './line';
import { unreadable } from './notsent';
import { bringAll } from './pieces';
import { attrOf, rootOf, standingIn } from './xml';

const el = (name: string, text: string, attrs = ''): string =>
  `<${name}${attrs}>${escapeXml(text)}</${name}>`;
const attr = (name: string, value: string | number): string => ` ${name}="${escapeXml(String(value))}"`;

/** What the ticket calls a field. */
const CALLED: Partial<Record<keyof ToldFields, string>> = {
  authors: 'author',
  volume: 'volume',
  published: 'date',
  shops: 'distribution',
};

function ticketOf(parcel: Parcel, withFiles: boolean): string {
  const fields = Object.entries(parcel.told) as [keyof ToldFields, readonly string[]][];
  const particulars = [...fields, ['currency', [parcel.prices[0]?.currency ?? '']] as const].map(
    ([field, values]) => {
      const name = CALLED[field as keyof ToldFields] ?? field;
      return `<particular${attr('name', name)}>${values.map((v) => el('value', v)).join('')}</particular>`;
    },
  );
  const files = (withFiles ? parcel.files : []).map(
    (f) =>
      `<file${attr('part', f.part)}${attr('name', f.name)}${attr('sha256', f.sha256)}${attr('bytes', f.size)}/>`,
  );
  const names = `${attr('key', parcel.key)}${attr('replaces', parcel.replaces)}`;
  return `<?xml version="1.0" encoding="UTF-8"?>\n<ticket${names}><particulars>${particulars.join('')}</particulars><files>${files.join('')}</files></ticket>\n`;
}

function read(reply: Reply): ReturnType<typeof rootOf> {
  if (reply.status >= 400) {
    const root = reply.text.startsWith('<') ? rootOf(reply.text) : null;
    throw refusal(reply, root ? textOf(root) : undefined);
  }
  return rootOf(reply.text);
}
function receiptOf(reply: Reply): Receipt {
  const root = read(reply);
  const reference = attrOf(root, 'number');
  if (!reference) throw unreadable();
  return { reference, sha256s: descendants(root, 'file').map((f) => attrOf(f, 'sha256')) };
}

const headers = { 'Content-Type': 'application/xml' };
const at = (number: string): string => `/tickets/${encodeURIComponent(number)}`;

export const quayhead: OutletAdapter = {
  async ask({ key }, line) {
    const reply = await line.call(`/tickets?key=${encodeURIComponent(key)}`);
    return reply.status === 404 ? null : receiptOf(reply);
  },
  async send(parcel, line, share = () => undefined) {
    await bringAll(line, parcel, share);
    return receiptOf(await line.call('/tickets', { method: 'POST', headers, body: ticketOf(parcel, true) }));
  },
  async revise(number, parcel, line) {
    read(await line.call(at(number), { method: 'PUT', headers, body: ticketOf(parcel, false) }));
  },
  async withdraw(number, _, line) {
    read(await line.call(at(number), { method: 'DELETE' }));
  },
  async poll(number, line): Promise<News | null> {
    const reply = await line.call(at(number));
    if (reply.status !== 200) return null;
    const root = rootOf(reply.text);
    const shown = Object.fromEntries(descendants(root, 'shown').map((s) => [attrOf(s, 'name'), textOf(s)]));
    return {
      ...standingIn(root),
      listed: {
        title: shown.title ?? '',
        subtitle: shown.subtitle ?? '',
        isbn: shown.isbn ?? '',
        price: amountFrom(shown.price ?? '', shown.currency ?? ''),
      },
    };
  },
};
