/**
 * A file made for one outlet against the one that was signed off: it may differ in the addresses of its links to books in
 * that shop, and in nothing else. Every part of the two containers is compared; where two differ, the links to the web are
 * taken out of both, and what is left has to be equal character by character.
 */
import { done, openZip, type Outcome, type Zip } from '../base';

export interface AddressChange {
  file: string;
  /** The words that lead there. */
  words: string;
  /** Null where the words lead nowhere. */
  before: string | null;
  now: string | null;
}
export interface FileDifference {
  addresses: AddressChange[];
  /** Parts in which anything else differs, or that only one of the files has. */
  other: string[];
}

/** Errors: those of `openZip`. */
export function differenceOfFiles(before: Uint8Array, now: Uint8Array): Outcome<FileDifference> {
  const [a, b] = [openZip(before), openZip(now)];
  if (!a.ok) return a;
  if (!b.ok) return b;
  const found: FileDifference = { addresses: [], other: [] };
  const [was, is] = [a.value, b.value].map((z) => new Set(z.entries.map((e) => e.name))) as [
    Set<string>,
    Set<string>,
  ];
  const inBoth = [...was].filter((n) => is.has(n));
  found.other.push(...[...was].filter((n) => !is.has(n)), ...[...is].filter((n) => !was.has(n)));
  for (const file of inBoth) {
    const [x, y] = [bytesOf(a.value, file), bytesOf(b.value, file)];
    if (x && y && x.length === y.length && x.every((byte, i) => byte === y[i])) continue;
    const changes = x && y && /\.(xhtml|html|htm)$/i.test(file) ? addressesIn(file, x, y) : null;
    if (changes) found.addresses.push(...changes);
    else found.other.push(file);
  }
  return done(found);
}

function bytesOf(zip: Zip, name: string): Uint8Array | null {
  try {
    return zip.read(name);
  } catch {
    return null;
  }
}

interface Link {
  /** Where its words begin in the text without links. */
  at: number;
  address: string;
  words: string;
}

/** The differing addresses of a document; null where anything else differs. */
function addressesIn(file: string, before: Uint8Array, now: Uint8Array): AddressChange[] | null {
  const [a, b] = [withoutLinks(before), withoutLinks(now)];
  if (!a || !b || a.rest !== b.rest) return null;
  const places = [...new Set([...a.links, ...b.links].map((l) => l.at))].sort((x, y) => x - y);
  return places.flatMap((at): AddressChange[] => {
    const [x, y] = [a.links.find((l) => l.at === at), b.links.find((l) => l.at === at)];
    if (x?.address === y?.address) return [];
    const words = (y ?? x)?.words ?? '';
    return [{ file, words, before: x?.address ?? null, now: y?.address ?? null }];
  });
}

/** Start and end tags of links to the web are taken out; links do not nest (HTML §4.5.1). Null for what is not UTF-8. */
function withoutLinks(bytes: Uint8Array): { rest: string; links: Link[] } | null {
  let text: string;
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return null;
  }
  const links: Link[] = [];
  let rest = '';
  let at = 0;
  let open: { at: number; address: string } | null = null;
  for (const tag of text.matchAll(/<a\s(?:"[^"]*"|'[^']*'|[^"'>])*>|<\/a\s*>/g)) {
    rest += text.slice(at, tag.index);
    at = tag.index + tag[0].length;
    const address = /\shref\s*=\s*(?:"(https?:[^"]*)"|'(https?:[^']*)')/i.exec(tag[0]);
    if (address) open = { at: rest.length, address: decoded(address[1] ?? address[2] ?? '') };
    else if (open && tag[0].startsWith('</')) {
      links.push({ ...open, words: rest.slice(open.at).replace(/<[^>]*>/g, '') });
      open = null;
    } else rest += tag[0];
  }
  return open ? null : { rest: rest + text.slice(at), links };
}

/** The predefined entities of XML 1.0 §4.6. */
const ENTITIES: Record<string, string> = {
  '&amp;': '&',
  '&lt;': '<',
  '&gt;': '>',
  '&quot;': '"',
  '&apos;': "'",
};
const decoded = (s: string): string => s.replace(/&(?:amp|lt|gt|quot|apos);/g, (e) => ENTITIES[e] ?? e);
