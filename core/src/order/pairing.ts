/** Sections of two readings of one manuscript, paired by their text first, then by their titles. */
import type { Section } from '../book';
import { likeness, sketch } from './sketch';
import { hasText } from './text';

export interface SectionPair {
  old: string;
  fresh: string;
  /** 0 to 1: how much of the text is the same. */
  likeness: number;
}

/** Of this share of like text up, it is the text that pairs two sections, whatever their titles say. */
const SAME_TEXT = 0.25;
const LITTLE = 0.08;

const plain = (s: string): string => s.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '');

export function pairSections(olds: readonly Section[], news: readonly Section[]): SectionPair[] {
  const sketches = new Map<Section, Uint32Array>([...olds, ...news].map((s) => [s, sketch(s.content)]));
  const pairs: (SectionPair & { score: number })[] = [];
  olds.forEach((old, i) => {
    news.forEach((n, k) => {
      const like = likeness(sketches.get(old) as Uint32Array, sketches.get(n) as Uint32Array);
      const titled = plain(old.title) !== '' && plain(old.title) === plain(n.title);
      const empty = !hasText(old.content) && !hasText(n.content);
      // The same place counts a little, so that untitled sections of like text keep their order.
      const place = 1 - Math.abs(i / Math.max(1, olds.length) - k / Math.max(1, news.length));
      const score =
        (like >= SAME_TEXT ? 1 + like : like) +
        (titled ? 0.5 : 0) +
        (old.kind === n.kind ? 0.1 : 0) +
        (empty ? 0.2 : 0) +
        place * 0.05;
      if (like >= LITTLE || titled || (old.kind === n.kind && old.kind !== 'chapter'))
        pairs.push({ old: old.id, fresh: n.id, likeness: like, score });
    });
  });
  pairs.sort((a, b) => b.score - a.score);
  const [byOld, byFresh] = [new Set<string>(), new Set<string>()];
  return pairs.filter((p) => {
    if (byOld.has(p.old) || byFresh.has(p.fresh)) return false;
    byOld.add(p.old);
    byFresh.add(p.fresh);
    return true;
  });
}
