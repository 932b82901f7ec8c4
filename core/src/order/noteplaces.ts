/** Where the notes of each kind stand in an edition, as its design asks and its sections allow. */
import { noteKinds, type NoteKind, type Section } from '../book';

/** At the feet of pages, after the text that calls them, or in another section. */
export type NotePlace = 'foot' | 'after' | 'elsewhere';

export interface NotePlaces extends Record<NoteKind, NotePlace> {
  /** The section that gathers notes of others; null where none does. */
  gatherer: Section | null;
  /** Footnotes bear signs, since numbered endnotes stand elsewhere. */
  signs: boolean;
}

/** `at` and `ends` are the design's. `sections` are those that the edition carries. */
export function notePlaces(
  sections: readonly Section[],
  { at, ends }: { at: 'foot' | 'section' | 'book'; ends: 'together' | 'section' | 'book' },
): NotePlaces {
  const gatherer = sections.find((s) => s.kind === 'notes') ?? null;
  const place = (asked: 'foot' | 'section' | 'book'): NotePlace =>
    asked === 'foot' ? 'foot' : asked === 'book' && gatherer ? 'elsewhere' : 'after';
  const foot = place(at);
  const end = ends === 'together' ? foot : place(ends);
  const gathers = foot === 'elsewhere' || end === 'elsewhere';
  return { foot, end, gatherer: gathers ? gatherer : null, signs: foot !== end && hasBoth(sections) };
}

function hasBoth(sections: readonly Section[]): boolean {
  const kinds = new Set<NoteKind>();
  for (const s of sections) {
    for (const kind of noteKinds(s.content).values()) kinds.add(kind);
    if (kinds.size === 2) return true;
  }
  return false;
}
