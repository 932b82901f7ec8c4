/** What a reader of the proof is told about the difference from an earlier file. */
import type { Impression, Match, Viewed } from '@pagina/core/proof';

/** Pages one after the other that differ in the same way, or one document of an ebook. */
export interface Stretch {
  how: Exclude<Match['how'], 'same'>;
  matches: Match[];
  /** "88", "89–101". */
  label: string;
}

const labelOf = (m: Match, before: Impression, now: Impression): string =>
  (m.now !== null ? now.views[m.now]?.label : m.before !== null ? before.views[m.before]?.label : '') || '–';

export function stretchesOf(matches: readonly Match[], before: Impression, now: Impression): Stretch[] {
  const out: Stretch[] = [];
  let last: Match | null = null;
  for (const m of matches) {
    const open = out.at(-1);
    if (m.how !== 'same') {
      if (open && last && last.how === m.how && now.width > 0) open.matches.push(m);
      else out.push({ how: m.how, matches: [m], label: '' });
    }
    last = m;
  }
  for (const s of out) {
    const [a, b] = [s.matches[0], s.matches.at(-1)] as [Match, Match];
    const [from, to] = [labelOf(a, before, now), labelOf(b, before, now)];
    s.label = s.matches.length === 1 ? from : `${from}–${to}`;
  }
  return out;
}

/** "14 pages changed, from page 88; 201 more only moved." */
export function summaryOf(
  matches: readonly Match[],
  before: Impression,
  now: Impression,
  what: Viewed,
): string {
  const differ = matches.filter((m) => m.how !== 'same' && m.how !== 'moved');
  const moved = matches.filter((m) => m.how === 'moved').length;
  const count = (n: number): string => `${n.toLocaleString('en-GB')} ${n === 1 ? what : `${what}s`}`;
  const elsewhere = what === 'page' ? 'only moved' : 'only restyled';
  const first = differ[0];
  if (!first) return moved === 0 ? 'Nothing has changed.' : `${count(moved)} ${elsewhere}.`;
  if (what === 'sheet') return 'The sheet has changed.';
  const from = what === 'page' ? `, from page ${labelOf(first, before, now)}` : '';
  return `${count(differ.length)} changed${from}${moved > 0 ? `; ${count(moved)} ${elsewhere}` : ''}.`;
}
