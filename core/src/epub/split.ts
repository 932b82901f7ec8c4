/** Long sections in several files: old readers take no more than 300 kB at once (common practice), new ones turn pages faster. */

/** A block of a section as it is written, and the notes that are called in it. */
export interface Piece {
  html: string;
  notes: string;
  /** Belongs to the piece behind it, as a subhead does. */
  leads: boolean;
}

/** Bytes of a file at most, unless a single block has more. */
const MOST_BYTES = 260_000;
/** What stands around the pieces of a file. */
const AROUND = 2_000;

const bytesIn = (s: string): number => {
  let n = s.length;
  for (let i = 0; i < s.length; i++) {
    const unit = s.charCodeAt(i);
    // UTF-8 has two bytes from 80 on and three from 800 on; each half of a pair counts for two.
    if (unit >= 0x80) n += unit < 0x800 || (unit >= 0xd800 && unit < 0xe000) ? 1 : 2;
  }
  return n;
};

/** The pieces of each file, in their order; never fewer than one file. */
export function filesOf(pieces: readonly Piece[], most = MOST_BYTES): Piece[][] {
  const files: Piece[][] = [];
  let now: Piece[] = [];
  let bytes = AROUND;
  for (const piece of pieces) {
    const own = bytesIn(piece.html) + bytesIn(piece.notes) + 2;
    if (bytes + own > most && now.length > 0) {
      const led = now.length - (now.findLastIndex((p) => !p.leads) + 1);
      // What leads goes along, unless there is nothing else.
      const along = led < now.length ? now.splice(now.length - led) : [];
      files.push(now);
      now = along;
      bytes = AROUND + along.reduce((n, p) => n + bytesIn(p.html) + bytesIn(p.notes) + 2, 0);
    }
    now.push(piece);
    bytes += own;
  }
  files.push(now);
  return files;
}
