/**
 * The compound file that an old document lies in ([MS-CFB], "Compound File Binary File Format"). The library that reads
 * it follows chains of sectors without an end where a damaged table leads in a circle, and makes room for as many tables
 * as a damaged header claims: both are looked at before.
 */
const HEADER = 512;
/** Where the header counts the sectors of its tables (FAT, mini FAT, DIFAT), and the shift of a mini sector, §2.2. */
const COUNTS = [0x2c, 0x40, 0x48];
const MINI_SHIFT = 0x20;
/** DIFAT entries in the header, §2.2. */
const IN_HEADER = 109;
/** Entries from here up are no sectors: free, end of chain, or the tables' own, §2.1. */
const LAST_SECTOR = 0xfffffffa;

/** Whether no table is said to be larger than the file, and no chain of sectors, of either size, leads back into itself. */
export function isSound(bytes: Uint8Array): boolean {
  if (bytes.length < HEADER) return false;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const shift = view.getUint16(0x1e, true);
  if ((shift !== 9 && shift !== 12) || view.getUint16(MINI_SHIFT, true) !== 6) return false;
  const size = 1 << shift;
  const sectors = Math.ceil((bytes.length - size) / size);
  if (COUNTS.some((at) => view.getUint32(at, true) > sectors)) return false;
  /** A sector's entries; a sector outside the file has none. */
  const entries = (sector: number): number[] => {
    const at = (sector + 1) * size;
    if (sector >= sectors || at + size > bytes.length) return [];
    return Array.from({ length: size / 4 }, (_, i) => view.getUint32(at + i * 4, true));
  };
  const listed = Array.from({ length: IN_HEADER }, (_, i) => view.getUint32(0x4c + i * 4, true));
  for (let next = view.getUint32(0x44, true), seen = 0; next < LAST_SECTOR; seen++) {
    if (seen > sectors) return false;
    const more = entries(next);
    if (more.length === 0) return false;
    listed.push(...more.slice(0, -1));
    next = more.at(-1) as number;
  }
  const table = listed.filter((s) => s < LAST_SECTOR).flatMap(entries);
  if (!endsEverywhere(table)) return false;
  const small: number[] = [];
  for (let next = view.getUint32(0x3c, true); next < LAST_SECTOR; next = table[next] ?? LAST_SECTOR)
    small.push(...entries(next));
  return endsEverywhere(small);
}

/** Whether every chain through a table of next sectors comes to an end. */
function endsEverywhere(next: readonly number[]): boolean {
  /** 0 not seen, 1 on the chain followed now, 2 known to end. */
  const state = new Uint8Array(next.length);
  for (let start = 0; start < next.length; start++) {
    const chain: number[] = [];
    let at = start;
    while (at < next.length && state[at] === 0) {
      state[at] = 1;
      chain.push(at);
      at = next[at] as number;
    }
    if (at < next.length && state[at] === 1) return false;
    for (const s of chain) state[s] = 2;
  }
  return true;
}
