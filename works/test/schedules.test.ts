/**
 * A model test of sending: random schedules of faults over all adapters, against the stand-ins' own books. A schedule sends
 * a few parcels; any call may be cut before or after it arrives, a process may die before it notes what arrived, two may
 * send at once, the author may choose other files or prices in between. Then the line is whole again. Whatever happened, the
 * outlet has one book, took no parcel twice, and has in the end the files and the price that were meant, by checksums that
 * the test works out itself.
 */
import { expect, it } from 'vitest';
import { createHash } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { coverOf, editionOf, type Book } from '@pagina/core/book';
import {
  besideDigest,
  editionAt,
  factsOf,
  filesTo,
  outletNamed,
  toldFields,
  type KnownFile,
} from '@pagina/core/outlets';
import { writeOnix } from '@pagina/core/onix';
import { listedAs } from '@pagina/core/trade';
import { House } from '../../outlets-sim/src/house';
import { deliver, type Ledger } from '../src/deliver';
import { adapterOf, NotSent, type Parcel } from '../src/outlets';
import { inProcess, type Fault } from './inprocess';
import { OUTLETS_REACHED, placedBook } from './placed';

const SCHEDULES = 10_000;
/** Schedules after which the outlets begin with empty books. */
const BATCH = 40;

let random = 20_261_130;
const below = (n: number): number => (random = (random * 48_271) % 2_147_483_647) % n;
const sha256 = (text: string): string => createHash('sha256').update(text).digest('hex');

class Died extends Error {}

interface State {
  /** Which of three contents each file has, and the price. */
  version: number;
  minor: number;
}
const BOOK = placedBook();

/** A listing kept in memory as the database keeps it, and what would be packed of it now. */
class Model implements Ledger {
  readonly listing: Awaited<ReturnType<Ledger['parcel']>>['listing'] & { id: string } = {
    id: '',
    delivered: '',
    beside: '',
    deliveries: 0,
    reference: '',
    state: 'waiting',
    listed: null,
    told: null,
  };
  meant: State = { version: 0, minor: 499 };
  revision = 0;
  /** The next note is lost, and the process with it. */
  dies = false;

  constructor(
    id: string,
    readonly outlet: (typeof OUTLETS_REACHED)[number],
  ) {
    this.listing.id = id;
  }

  /** A file by what it is made of: its content says which version. */
  file(product: string, version = this.meant.version): { text: string; sha256: string } {
    const text = `${product} ${version} of ${this.listing.id}`;
    return { text, sha256: sha256(text) };
  }
  private book(): Book {
    const price = { minor: this.meant.minor, currency: 'GBP' };
    return {
      ...BOOK,
      id: this.listing.id,
      record: { ...BOOK.record, price, libraryPrice: price },
      editions: BOOK.editions.map((e) => (e.form === 'print' ? { ...e, price } : e)),
    };
  }

  parcel(): ReturnType<Ledger['parcel']> {
    const outlet = outletNamed(this.outlet)!;
    const book = this.book();
    const edition = editionOf(book, editionAt(outlet, book)!.id)!;
    const files = [edition.id, coverOf(edition.id)].map((product): KnownFile => ({
      edition: product,
      sha256: this.file(product).sha256,
      upTo: 0,
      madeAt: 0,
      findings: [],
      pages: 32,
      size: 9,
      signedOffAt: 1,
    }));
    const facts = factsOf({ outlet, book, edition, revision: 0, files });
    const to = filesTo(outlet, facts);
    const versions = [0, 1, 2].map((v) => {
      const { sha256 } = this.file(to[0]!.product, v);
      return { id: `v${v}`, sha256, size: 9 };
    });
    const parcel: Parcel = {
      key: `${this.listing.id}-${this.listing.deliveries}`,
      previous: this.listing.deliveries === 0 ? '' : `${this.listing.id}-${this.listing.deliveries - 1}`,
      replaces: this.listing.reference,
      told: toldFields(outlet, facts),
      listed: listedAs(book, edition, outlet),
      prices: [{ currency: 'GBP', amount: (this.meant.minor / 100).toFixed(2) }],
      files: to.map(({ part, product, name }) => {
        const { text, sha256 } = this.file(product || 'cover');
        const whole = new TextEncoder().encode(text);
        return {
          part,
          name: name!,
          sha256,
          size: whole.length,
          async *bytes(from = 0) {
            // In two pieces.
            const half = from + Math.ceil((whole.length - from) / 2);
            yield whole.slice(from, half);
            if (half < whole.length) yield whole.slice(half);
          },
        };
      }),
      provisional: false,
      onSale: '',
      news: '',
      revision: this.revision,
      onix: (notification) =>
        writeOnix(book, { sent: `2026-11-30T12:00:00Z`, only: { edition: edition.id, notification } }),
    };
    const product = versions[this.meant.version]!;
    const beside = besideDigest(outlet, facts);
    return Promise.resolve({
      listing: { ...this.listing },
      packed: { parcel, outlet, facts, product, made: versions, beside },
    });
  }
  async delivered(d: Parameters<Ledger['delivered']>[0]): Promise<void> {
    this.die();
    const { sha256: delivered, beside, reference, listed, told } = d;
    Object.assign(this.listing, { delivered, beside, reference, listed, told, state: 'received' });
    this.listing.deliveries = d.number + 1;
  }
  async telling(): Promise<void> {
    this.listing.told = {};
  }
  async revised({ listed, told }: Parameters<Ledger['revised']>[0]): Promise<void> {
    this.die();
    Object.assign(this.listing, { listed, told });
  }
  private die(): void {
    const now = this.dies;
    this.dies = false;
    if (now) throw new Died();
  }
}

/** What a shop shows as its price, in the amount's own figures. */
const PRICE: Record<(typeof OUTLETS_REACHED)[number], (told: Readonly<Record<string, unknown>>) => unknown> =
  {
    lanternquay: (t) => ((t.price as number) / 100).toFixed(2),
    marram: (t) => (t.prices as { amount: string }[])[0]?.amount,
    packstone: (t) => t.consumerPrice,
    pocketfell: (t) => t.Price,
    shelfmoor: (t) => t.price,
    quayhead: (t) => t.price,
  };

it('under 10,000 random schedules of faults no parcel arrives twice, and none is lost', async () => {
  let house!: House;
  let [parcels, cuts, deaths] = [0, 0, 0];
  for (let n = 0; n < SCHEDULES; n++) {
    if (n % BATCH === 0) {
      if (n > 0) rmSync(house.folder, { recursive: true, force: true });
      house = House.open(mkdtempSync(join(tmpdir(), 'schedules-')), { keeps: false });
    }
    const outlet = OUTLETS_REACHED[n % OUTLETS_REACHED.length]!;
    const model = new Model(`listing-${n}`, outlet);
    const adapter = adapterOf(outlet);
    /** How many calls in a hundred are cut. */
    const share = [0, 10, 30, 60][below(4)]!;
    const faulty = (): Fault =>
      below(100) < share ? (['before', 'after', 'busy'] as const)[below(3)]! : null;
    const send = async (next: () => Fault): Promise<void> => {
      try {
        await deliver(model, adapter, inProcess(house, outlet, next));
      } catch (e) {
        if (e instanceof Died) deaths++;
        else if (e instanceof NotSent && e.again) cuts++;
        else throw e;
      }
    };
    const steps = 1 + below(3);
    for (let step = 0; step < steps; step++) {
      if (below(2) === 0) model.meant = { ...model.meant, version: below(3) };
      if (below(2) === 0) model.meant = { ...model.meant, minor: 499 + below(4) * 100 };
      model.revision++;
      model.dies = below(5) === 0;
      // A runner whose lease has run out, and the one that took the job over.
      if (below(8) === 0) await Promise.all([send(faulty), send(faulty)]);
      else await send(faulty);
    }
    model.dies = false;
    await send(() => null);
    const books = house
      .booksAt(outlet)
      .filter((b) => b.keys.some((k) => k.key.startsWith(`${model.listing.id}-`)));
    const said = `schedule ${n} at ${outlet}`;
    expect(books, said).toHaveLength(1);
    const [{ keys, files, told }] = books as [(typeof books)[number]];
    expect(new Set(keys.map((k) => k.key)).size, said).toBe(keys.length);
    expect(
      keys.filter((k, i) => k.sum === keys[i - 1]?.sum),
      said,
    ).toEqual([]);
    const { packed } = await model.parcel();
    expect(
      files.map((f) => f.sha256),
      said,
    ).toEqual(packed.parcel.files.map((f) => f.sha256));
    expect(PRICE[outlet](told), said).toBe((model.meant.minor / 100).toFixed(2));
    expect(model.listing.reference, said).toBe(books[0]!.reference);
    parcels += keys.length;
  }
  expect(parcels).toBeGreaterThan(SCHEDULES);
  expect(cuts).toBeGreaterThan(SCHEDULES / 4);
  expect(deaths).toBeGreaterThan(SCHEDULES / 20);
}, 600_000);
