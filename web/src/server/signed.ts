/**
 * Whether a file is what was signed off: the very file, or one for an outlet that differs from it in its shop addresses and
 * in nothing else, which is proved part by part.
 */
import { productKeyOf } from '@pagina/core/book';
import { isAddressAt, outletNamed } from '@pagina/core/outlets';
import { differenceOfFiles, type AddressChange } from '@pagina/core/proof';
import { readStored, type Product, type Store } from '@pagina/data';

export interface SignedAs {
  /** When the file it stands for was signed off, in milliseconds since 1970; null for a file that isn’t signed off. */
  at: number | null;
  /** What is other than in the signed file; empty for the very file. */
  addresses: AddressChange[];
  /** Parts that differ in more than addresses from the file that was signed off last. */
  other: string[];
}

/** By the checksums of the two files: neither ever changes. */
const known = new Map<string, Promise<{ addresses: AddressChange[]; other: string[] }>>();
const MOST = 200;

async function differenceBetween(s: Store, before: string, now: string): Promise<Omit<SignedAs, 'at'>> {
  const key = `${before} ${now}`;
  let found = known.get(key);
  if (!found) {
    found = (async () => {
      const d = differenceOfFiles(await readStored(s, before), await readStored(s, now));
      return d.ok ? d.value : { addresses: [], other: ['the file as a whole'] };
    })();
    known.set(key, found);
    found.catch(() => known.delete(key));
    for (const old of [...known.keys()].slice(0, -MOST)) known.delete(old);
  }
  return found;
}

/** Only addresses of that outlet may have come: a link of the author’s own that is different counts as any other change. */
function inShop(d: Omit<SignedAs, 'at'>, outlet: string | null): Omit<SignedAs, 'at'> {
  const shop = outletNamed(outlet);
  const own = (address: string | null): boolean =>
    address === null || (shop !== null && isAddressAt(shop, address));
  const foreign = d.addresses.filter((a) => !own(a.now) || a.before !== null);
  return { ...d, other: [...new Set([...d.other, ...foreign.map((a) => a.file)])] };
}

/** `products` are the title’s files, newest first. */
export async function signedAs(s: Store, products: readonly Product[], file: Product): Promise<SignedAs> {
  if (file.signedOffAt !== null) return { at: file.signedOffAt, addresses: [], other: [] };
  const key = productKeyOf(file.edition);
  const signed = products.filter((p) => p.edition === key.edition && p.signedOffAt !== null);
  if (key.form !== 'outlet' || signed.length === 0) return { at: null, addresses: [], other: [] };
  let first: Omit<SignedAs, 'at'> | null = null;
  for (const p of signed) {
    const d = inShop(await differenceBetween(s, p.sha256, file.sha256), key.outlet);
    if (d.other.length === 0) return { at: p.signedOffAt, ...d };
    first ??= d;
  }
  return { at: null, addresses: [], other: first?.other ?? [] };
}

/** The newest file of a kind, and the newest that is what was signed off, each with that. Null for none. */
export async function filesToSend(
  s: Store,
  products: readonly Product[],
  kind: string,
): Promise<{
  newest: { product: Product; signed: SignedAs };
  signed: { product: Product; signed: SignedAs } | null;
} | null> {
  const files = products.filter((p) => p.edition === kind);
  if (!files[0]) return null;
  const newest = { product: files[0], signed: await signedAs(s, products, files[0]) };
  for (const product of files) {
    const signed = product === newest.product ? newest.signed : await signedAs(s, products, product);
    if (signed.at !== null) return { newest, signed: { product, signed } };
  }
  return { newest, signed: null };
}
