/**
 * The manuscript's own numbers against those that the order gives. A gap or a repetition is kept and told; nothing is
 * numbered otherwise than its author did.
 */
import type { Finding } from '../../base';
import type { Numbering } from '../../book';
import type { HeadingGuess } from '../raw';

export class OwnNumbers {
  /** Chapters begin at 1 again in every part. */
  readonly count: Numbering['count'];
  readonly findings: Finding[] = [];
  private readonly last = new Map<string, number>();

  constructor(headings: readonly HeadingGuess[]) {
    this.count = beginAgain(headings) ? 'by-part' : 'continuous';
  }

  /** The number to give to a section, or null where it is the next one anyway. */
  own(h: HeadingGuess, part: string | null): number | null {
    const isPart = h.kind === 'part';
    const key = isPart ? 'part' : this.count === 'by-part' ? `in ${part ?? ''}` : 'chapter';
    const before = this.last.get(key) ?? 0;
    const number = h.number ?? before + 1;
    this.last.set(key, number);
    if (number === before + 1) return null;
    if (before > 0 || isPart) this.tell(isPart ? 'Part' : 'Chapter', before, number);
    return number;
  }

  private tell(what: string, before: number, number: number): void {
    const word = what.toLowerCase();
    const [rule, message] =
      number === before
        ? ['intake/number-twice', `${what} ${number} appears twice.`]
        : number > before
          ? [
              'intake/number-missing',
              `${what} ${number} ${before === 0 ? 'comes first' : `follows ${word} ${before}`}: ${missing(word, before, number)}.`,
            ]
          : ['intake/number-back', `${what} ${number} follows ${word} ${before}.`];
    this.findings.push({
      rule: rule as string,
      severity: 'caution',
      message: message as string,
      remedy: 'The numbers are kept as they are in the file. They can be changed in the running order.',
    });
  }
}

function missing(word: string, before: number, number: number): string {
  const [from, to] = [before + 1, number - 1];
  if (from === to) return `${word} ${from} may be missing`;
  return `${word}s ${from} ${to === from + 1 ? 'and' : 'to'} ${to} may be missing`;
}

/** Whether the first numbered chapter of every part but the first bears the number 1. */
function beginAgain(headings: readonly HeadingGuess[]): boolean {
  const firsts: number[] = [];
  let awaited = false;
  for (const h of headings) {
    if (h.kind === 'part') awaited = true;
    else if (h.kind === 'chapter' && h.subhead === 0 && h.number !== null && awaited) {
      firsts.push(h.number);
      awaited = false;
    }
  }
  return firsts.length >= 2 && firsts.every((n) => n === 1);
}
