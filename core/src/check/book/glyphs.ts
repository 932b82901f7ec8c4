/** Characters that no face of the interior has: a finding for each block that holds some, with all of them. */
import type { Place } from '../../base';
import type { Breach } from '../rules';

const MOST = 12;

export function missingGlyphs(missing: readonly { char: string; place: Place }[]): Breach[] {
  const byBlock = new Map<string, { chars: Map<string, number>; place: Place }>();
  for (const { char, place } of missing) {
    const key = `${place.section}#${place.block ?? ''}`;
    const known = byBlock.get(key) ?? { chars: new Map<string, number>(), place };
    known.chars.set(char, (known.chars.get(char) ?? 0) + 1);
    byBlock.set(key, known);
  }
  return [...byBlock.values()].map(({ chars, place }) => {
    const shown = [...chars.keys()].slice(0, MOST).join(' ');
    const more = chars.size > MOST ? ` and ${chars.size - MOST} more` : '';
    const times = [...chars.values()].reduce((n, k) => n + k, 0);
    return {
      message: `${chars.size === 1 ? 'This character prints' : 'These characters print'} as ${times === 1 ? 'a box' : 'boxes'}, because no face has ${chars.size === 1 ? 'it' : 'them'}: ${shown}${more}.`,
      place,
    };
  });
}
