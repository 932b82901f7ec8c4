/**
 * What a newer manuscript changes of a book. It is compared with the manuscript that was read before, not with the book:
 * what the file left alone is never offered, whatever was done to it here. Where it changed something, the same place is
 * looked for in the book; where that was changed here too, it is contested, and the author decides.
 */
import { diffArrays } from 'diff';
import type { Node } from 'prosemirror-model';
import type { Book, Section } from '../book';
import { takesPart } from './adding';
import { blocksOf, keysIn } from './blockwords';
import { pairSections } from './pairing';
import { likeness, sketch } from './sketch';

/** One place where the newer manuscript differs from the one before. */
export interface Piece {
  /** The book's section, and which of its blocks (notes not counted) the new ones would replace. */
  section: string;
  from: number;
  to: number;
  blocks: readonly Node[];
  /** The section of the newer manuscript that they stand in. */
  fresh: string;
  /** The book was changed at this place too. */
  contested: boolean;
}
export interface NewerRow {
  how: 'changed' | 'new' | 'gone';
  /** Id in the book; null for a section that is new. */
  old: string | null;
  /** Id in the newer manuscript; null for a section that it lacks. */
  fresh: string | null;
  pieces: readonly Piece[];
  /** Whether the manuscript has another title, and whether the book’s own was changed too. */
  title: 'same' | 'new' | 'contested';
  /** Whether following it could lose what was done here: such rows are not chosen beforehand. */
  risky: boolean;
}
export interface Newer {
  rows: readonly NewerRow[];
  /** Sections of the newer manuscript that change nothing. */
  same: number;
  /** Blocks of the newer manuscript that the book has already, by id. */
  known: ReadonlyMap<string, string>;
  /** Sections of the newer manuscript that the book has already. */
  sections: ReadonlyMap<string, string>;
}

interface Place {
  section: string;
  index: number;
}
const MOST_EDITS = 4_000;
/** Letters from which a block is known wherever it stands now. */
const TELLING = 24;
const ALIKE = 0.5;
/** Share of words in common from which a block counts as changed rather than replaced. */
const KIN = 0.35;

/** `before` is the manuscript as it was read the last time; null where that is not known, and the book stands for it. */
export function compareNewer(book: Book, fresh: Book, before: Book | null): Newer {
  return new Comparing(book, fresh, before).newer();
}

class Comparing {
  private readonly ours: readonly Section[];
  private readonly base: readonly Section[];
  private readonly news: readonly Section[];
  private readonly keys: {
    ours: Map<string, string[]>;
    base: Map<string, string[]>;
    news: Map<string, string[]>;
  };
  /** For every section read before, where each of its blocks stands in the book now. */
  private readonly places: Map<string, (Place | null)[]>;
  private readonly known = new Map<string, string>();

  constructor(
    private readonly book: Book,
    fresh: Book,
    private readonly before: Book | null,
  ) {
    this.ours = book.sections.filter((s) => takesPart(s, book));
    this.base = before ? before.sections.filter((s) => takesPart(s, before)) : this.ours;
    this.news = fresh.sections.filter((s) => takesPart(s, fresh));
    const of = (b: Book, sections: readonly Section[]): Map<string, string[]> => {
      const read = keysIn(b);
      return new Map(sections.map((s) => [s.id, read(s.content)]));
    };
    this.keys = {
      ours: of(book, this.ours),
      base: of(before ?? book, this.base),
      news: of(fresh, this.news),
    };
    this.places = this.placesOfBase();
  }

  newer(): Newer {
    const pairs = new Map(pairSections(this.base, this.news).map((p) => [p.fresh, p.old]));
    const rows: NewerRow[] = [];
    const sections = new Map<string, string>();
    let same = 0;
    for (const n of this.news) {
      const b = this.base.find((s) => s.id === pairs.get(n.id));
      const own = b ? this.standsFor(b) : null;
      if (b && own === null && !this.hasChanged(b, n)) continue;
      if (!b || own === null) {
        const already = this.alreadyThere(n);
        if (already) sections.set(n.id, already);
        else
          rows.push({
            how: 'new',
            old: null,
            fresh: n.id,
            pieces: [],
            title: 'same',
            risky: b !== undefined,
          });
        continue;
      }
      sections.set(n.id, own);
      const pieces = this.pieces(b, n, own);
      const title = this.title(b, n, own);
      if (pieces.length === 0 && title === 'same') same++;
      else this.addChanged(rows, own, n.id, pieces, title);
    }
    for (const b of this.base) {
      const own = [...pairs.values()].includes(b.id) ? null : this.standsFor(b);
      if (own !== null && !rows.some((r) => r.old === own))
        rows.push({ how: 'gone', old: own, fresh: null, pieces: [], title: 'same', risky: true });
    }
    return { rows: this.inOrder(rows, sections), same, known: this.known, sections };
  }

  /** One row for a section of the book, though two of the manuscript may change it. */
  private addChanged(
    rows: NewerRow[],
    own: string,
    fresh: string,
    pieces: readonly Piece[],
    title: NewerRow['title'],
  ): void {
    const by = new Map<string, Piece[]>();
    for (const p of pieces) by.set(p.section, [...(by.get(p.section) ?? []), p]);
    if (!by.has(own) && title !== 'same') by.set(own, []);
    for (const [section, part] of by) {
      const at = rows.findIndex((r) => r.old === section);
      const known = rows[at];
      const row: NewerRow = {
        how: 'changed',
        old: section,
        fresh: known?.fresh ?? fresh,
        pieces: [...(known?.pieces ?? []), ...part].sort((a, b) => a.from - b.from),
        title: section === own && title !== 'same' ? title : (known?.title ?? 'same'),
        risky: this.before === null,
      };
      if (known) rows[at] = row;
      else rows.push(row);
    }
  }

  /** In the order of the book; a new section stands after what it follows in the manuscript. */
  private inOrder(rows: readonly NewerRow[], sections: ReadonlyMap<string, string>): NewerRow[] {
    const rank = new Map(this.book.sections.map((s, i) => [s.id, i]));
    const placed = rows.map((row, i) => {
      if (row.old !== null) return { row, at: rank.get(row.old) ?? 0, then: -1 };
      const k = this.news.findIndex((n) => n.id === row.fresh);
      const above = this.news.slice(0, k).findLast((n) => sections.has(n.id));
      return { row, at: above ? (rank.get(sections.get(above.id) as string) ?? -1) : -1, then: i };
    });
    return placed.sort((a, b) => a.at - b.at || a.then - b.then).map((p) => p.row);
  }

  private hasChanged(b: Section, n: Section): boolean {
    const [x, y] = [this.keys.base.get(b.id) ?? [], this.keys.news.get(n.id) ?? []];
    return x.length !== y.length || x.some((k, i) => k !== y[i]);
  }

  /** A section that the author put in meanwhile, or that reads like one of the book. */
  private alreadyThere(n: Section): string | null {
    const text = sketch(n.content);
    const found = this.ours.find((s) => likeness(sketch(s.content), text) >= ALIKE);
    return found?.id ?? null;
  }

  private placesOfBase(): Map<string, (Place | null)[]> {
    const used = new Set<string>();
    const places = new Map<string, (Place | null)[]>();
    const left: { section: string; index: number; key: string }[] = [];
    const mates = this.before
      ? new Map(pairSections(this.base, this.ours).map((p) => [p.old, p.fresh]))
      : new Map(this.base.map((s) => [s.id, s.id]));
    for (const b of this.base) {
      const own = this.keys.base.get(b.id) ?? [];
      const found: (Place | null)[] = own.map(() => null);
      const mate = mates.get(b.id);
      if (mate !== undefined)
        for (const [i, k] of common(own, this.keys.ours.get(mate) ?? [])) {
          found[i] = { section: mate, index: k };
          used.add(`${mate} ${k}`);
        }
      own.forEach((key, index) => {
        if (!found[index]) left.push({ section: b.id, index, key });
      });
      places.set(b.id, found);
    }
    // What stands in another section now, after a split, a join or a move.
    const elsewhere = new Map<string, Place[]>();
    for (const s of this.ours)
      (this.keys.ours.get(s.id) ?? []).forEach((key, index) => {
        if (used.has(`${s.id} ${index}`) || key.length < TELLING) return;
        elsewhere.set(key, [...(elsewhere.get(key) ?? []), { section: s.id, index }]);
      });
    for (const { section, index, key } of left) {
      const place = elsewhere.get(key)?.shift();
      if (place) (places.get(section) as (Place | null)[])[index] = place;
    }
    return places;
  }

  /** The book's section in which most of a section stands that was read before. */
  private standsFor(b: Section): string | null {
    const counts = new Map<string, number>();
    for (const p of this.places.get(b.id) ?? [])
      if (p) counts.set(p.section, (counts.get(p.section) ?? 0) + 1);
    const most = [...counts].sort((x, y) => y[1] - x[1])[0];
    if (most) return most[0];
    return this.ours.find((s) => s.id === b.id)?.id ?? null;
  }

  private title(b: Section, n: Section, own: string): NewerRow['title'] {
    const o = this.ours.find((s) => s.id === own) as Section;
    const same = (x: Section, y: Section): boolean => x.title === y.title && x.subtitle === y.subtitle;
    if (same(b, n) || same(o, n) || n.title === '') return 'same';
    return same(o, b) ? 'new' : 'contested';
  }

  private pieces(b: Section, n: Section, own: string): Piece[] {
    const [was, now] = [this.keys.base.get(b.id) ?? [], this.keys.news.get(n.id) ?? []];
    const places = this.places.get(b.id) ?? [];
    const blocks = blocksOf(n.content);
    const pieces: Piece[] = [];
    let [i, k] = [0, 0];
    const hunk = (i2: number, k2: number): void => {
      const piece = this.piece(places, i, i2, own);
      const ours = (this.keys.ours.get(piece.section) ?? []).slice(piece.from, piece.to);
      const theirs = now.slice(k, k2);
      if (ours.length === theirs.length && ours.every((key, x) => key === theirs[x])) return;
      const last = pieces.at(-1);
      const meets =
        last?.contested && piece.contested && last.section === piece.section && piece.from < last.to;
      // One place here for two there: what stands between them in the manuscript comes too.
      if (meets)
        pieces[pieces.length - 1] = {
          ...last,
          to: Math.max(last.to, piece.to),
          blocks: blocks.slice(blocks.indexOf(last.blocks[0] ?? (blocks[k] as Node)), k2),
        };
      else pieces.push({ ...piece, blocks: blocks.slice(k, k2), fresh: n.id });
    };
    for (const [x, y] of [...common(was, now), [was.length, now.length] as const]) {
      // As many blocks for as many, each like its own: changed one by one.
      while (x - i === y - k && x - i > 1 && areKin(was.slice(i, x), now.slice(k, y))) {
        hunk(i + 1, k + 1);
        [i, k] = [i + 1, k + 1];
      }
      if (x > i || y > k) hunk(x, y);
      const place = places[x];
      const block = place && this.blockAt(place);
      if (block && y < blocks.length) this.known.set(blocks[y]?.attrs.id as string, block.attrs.id as string);
      [i, k] = [x + 1, y + 1];
    }
    return pieces;
  }

  /** Where in the book the blocks from `from` to `to` of a section stand that was read before. */
  private piece(
    places: readonly (Place | null)[],
    from: number,
    to: number,
    own: string,
  ): Pick<Piece, 'section' | 'from' | 'to' | 'contested'> {
    const within = places.slice(from, to);
    const [first] = within;
    const whole = within.every(
      (p, i) => p && p.section === first?.section && p.index === (first?.index ?? 0) + i,
    );
    if (first && whole)
      return { section: first.section, from: first.index, to: first.index + within.length, contested: false };
    const [above, below] = [places[from - 1], places[to]];
    if (within.length === 0 && above)
      return { section: above.section, from: above.index + 1, to: above.index + 1, contested: false };
    if (within.length === 0 && below)
      return { section: below.section, from: below.index, to: below.index, contested: false };
    // Something was changed here too: what stands between the nearest blocks that were not.
    const before = places.slice(0, from).findLast((p) => p !== null);
    const after = places.slice(to).find((p) => p !== null && (!before || p.section === before.section));
    const section = before?.section ?? after?.section ?? own;
    const length = this.keys.ours.get(section)?.length ?? 0;
    const start = before ? before.index + 1 : 0;
    const end = after ? Math.max(start, after.index) : before || within.length > 0 ? length : start;
    return { section, from: start, to: end, contested: true };
  }

  private blockAt({ section, index }: Place): Node | undefined {
    const s = this.ours.find((x) => x.id === section);
    return s && this.blocks(s)[index];
  }
  private readonly cut = new Map<Section, Node[]>();
  private blocks(s: Section): Node[] {
    let blocks = this.cut.get(s);
    if (!blocks) this.cut.set(s, (blocks = blocksOf(s.content)));
    return blocks;
  }
}

/** Whether every block shares enough words with the one at its place in the other list to be the same one, changed. */
function areKin(a: readonly string[], b: readonly string[]): boolean {
  const words = (t: string): Set<string> => new Set(t.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? []);
  return a.every((t, i) => {
    const [x, y] = [words(t), words(b[i] ?? '')];
    const both = [...x].filter((w) => y.has(w)).length;
    return both >= KIN * Math.max(x.size, y.size, 1);
  });
}

/** Pairs of indices at which two lists agree, by their longest common subsequence. */
function common(a: readonly string[], b: readonly string[]): [number, number][] {
  const parts = diffArrays([...a], [...b], { maxEditLength: MOST_EDITS });
  const pairs: [number, number][] = [];
  let [i, k] = [0, 0];
  for (const p of parts ?? []) {
    const n = p.value.length;
    if (p.removed) i += n;
    else if (p.added) k += n;
    else for (let x = 0; x < n; x++) pairs.push([i++, k++]);
  }
  return pairs;
}
