/** Folios of places, as a round of the composition finds them: where each begins, and where it ends. */
import type { Folios } from '../order';

export class Labels {
  private readonly pages = new Map<string, { first: string; last: string }>();

  /** Notes that a section, a block, or an entry of the index stands on a page; pages come in their order. */
  see(id: string, label: string): void {
    const known = this.pages.get(id);
    if (known) known.last = label;
    else this.pages.set(id, { first: label, last: label });
  }

  first(id: string): string | undefined {
    return this.pages.get(id)?.first;
  }

  /** Folios of places such as "section" and "section#block"; `linesOf` answers the blocks that a place goes through. */
  folios(linesOf: (target: string) => readonly string[]): Folios {
    const ends = (target: string): readonly string[] => {
      const lines = linesOf(target).filter((id) => this.pages.has(id));
      return lines.length > 0 ? lines : [target.split('#')[0] ?? ''];
    };
    return {
      first: (target) => this.pages.get(ends(target)[0] ?? '')?.first,
      last: (target) => this.pages.get(ends(target).at(-1) ?? '')?.last,
    };
  }

  equals(other: Labels): boolean {
    return JSON.stringify(this.all()) === JSON.stringify(other.all());
  }
  all(): unknown {
    return [...this.pages];
  }
}
