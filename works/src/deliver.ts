/**
 * Brings an outlet up to date with a listing: sends the very files that were made and checked where it has others or none, and
 * what has changed of the record where it has the files.
 *
 * Parcels are counted, and an outlet knows each by its number. It is asked for the next one before anything is sent: if it has
 * that already, an answer was lost, or a process was killed, or another one sent it. So however a sending is cut off and begun
 * anew, no parcel arrives twice and none is forgotten. The checksums that come back must be the files'.
 */
import { inSentence } from '@pagina/core/base';
import { changesAt, OUTLET_FIELDS, type ChangesAt } from '@pagina/core/outlets';
import type { Delivered, Listing, Revised } from '@pagina/data';
import { NotSent, type Line, type OutletAdapter, type Receipt } from './outlets';
import type { Packed } from './outlets/parcel';

/** What is known of a listing and what is to go; noted when an outlet has it. */
export interface Ledger {
  parcel(): Promise<{
    listing: Pick<Listing, 'delivered' | 'beside' | 'deliveries' | 'reference' | 'state' | 'listed' | 'told'>;
    packed: Packed;
  }>;
  delivered(d: Delivered): Promise<void>;
  /** Notes that from now on nobody knows what the outlet was told, until it has answered. */
  telling(): Promise<void>;
  revised(r: Revised): Promise<void>;
}

/** What went beside a file in a parcel of which no more is known. */
const UNKNOWN = 'unknown';

/** Answers whether files went, or details, or nothing had to. Throws `NotSent`. */
export async function deliver(
  ledger: Ledger,
  adapter: OutletAdapter,
  line: Line,
  share?: (done: number) => void,
): Promise<'sent' | 'told' | 'nothing'> {
  const { listing, packed } = await ledger.parcel();
  const { parcel, outlet, facts, product, made, beside } = packed;
  const { listed, told } = parcel;
  const { sha256 } = product;
  const there = await adapter.ask(parcel, line);
  const current = listing.delivered === sha256 && listing.beside === beside && listing.state !== 'withdrawn';
  // Another parcel may have arrived whose answer was lost, before this one was chosen again.
  if (current && !there) {
    const changes = changesAt(outlet, facts, listing, sha256);
    if (changes.details.length === 0) return 'nothing';
    await ledger.telling();
    await adapter.revise(listing.reference, parcel, line);
    await ledger.revised({ words: sentAgain(changes), listed, told, again: changes.reviewed });
    return 'told';
  }
  const bytes = parcel.files.reduce((n, f) => n + f.size, 0);
  const wholeIn = ({ sha256s }: Receipt): boolean => parcel.files.every((f) => sha256s.includes(f.sha256));
  const note = (receipt: Receipt, number: number, taken: { id: string; sha256: string; size: number }) => {
    const whole = wholeIn(receipt);
    return ledger.delivered({
      number,
      reference: receipt.reference,
      product: taken.id,
      sha256: taken.sha256,
      // What came with it is known where it is what would go now.
      beside: whole || beside === '' ? beside : UNKNOWN,
      words: `Received as ${receipt.reference}, ${whole ? bytes : taken.size} bytes.`,
      // What it was told then, nobody knows any more: it is told again.
      listed: whole ? listed : {},
      told: whole ? told : {},
    });
  };
  // The files may be the very ones that came with the parcel of which no more is known.
  if (!there && listing.delivered === sha256 && listing.beside === UNKNOWN && listing.state !== 'withdrawn') {
    const last = await adapter.ask({ ...parcel, key: parcel.previous }, line);
    if (last && wholeIn(last)) {
      await adapter.revise(last.reference, parcel, line);
      await note(last, listing.deliveries - 1, product);
      return 'told';
    }
  }
  const receipt = there ?? (await adapter.send(parcel, line, share));
  const has = (sha: string): boolean => receipt.sha256s.includes(sha);
  const whole = wholeIn(receipt);
  const earlier = there && !has(sha256) ? made.find((p) => has(p.sha256)) : undefined;
  if (there ? !has(sha256) && !earlier : !whole)
    throw new NotSent('The outlet received a different file from the one sent: the checksums differ.', true);
  // It may have come with what the record said then.
  if (there && whole) await adapter.revise(there.reference, parcel, line);
  await note(receipt, listing.deliveries, earlier ?? product);
  // A parcel whose answer was lost had arrived after all, and newer files were chosen since.
  if (!whole) await deliver(ledger, adapter, line, share);
  return 'sent';
}

const sentAgain = ({ details, unsure }: ChangesAt): string =>
  unsure
    ? 'Sent again: everything, since the last reply was lost.'
    : `Sent again: ${details.map((f) => inSentence(OUTLET_FIELDS[f])).join(', ')}.`;
