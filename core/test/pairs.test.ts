/**
 * Words put together from pairs of letters against the shaping engine (HarfBuzz), glyph for glyph, in every face that
 * ships: words of seven languages (the dictionaries of the `dictionary-*` packages), and letters in every order.
 */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { FACE_FILES, facePath, typeSource } from '@pagina/make';
import { Face, Pairs, type HarfBuzz } from '../src/type';

let harfbuzz: HarfBuzz;
beforeAll(async () => {
  ({ harfbuzz } = await typeSource());
});
const faces = new Map<string, Face>();
const face = (name: string): Face => {
  const opened = faces.get(name) ?? new Face(name, readFileSync(facePath(name)), harfbuzz);
  faces.set(name, opened);
  return opened;
};

/** Every so many words of a dictionary. */
function dictionary(language: string, step: number): string[] {
  const index = createRequire(import.meta.url).resolve(`dictionary-${language}`);
  return readFileSync(join(dirname(index), 'index.dic'), 'utf8')
    .split('\n')
    .slice(1)
    .filter((_, i) => i % step === 0)
    .map((line) => line.split(/[/\t ]/)[0] as string)
    .filter((w) => w !== '');
}
const WORDS = ['en', 'fr', 'de', 'es', 'it', 'pt', 'nl'].flatMap((l) => dictionary(l, 997));
const SIGNED = WORDS.filter((_, i) => i % 5 === 0).flatMap((w) => [
  `${w},\u201d`,
  `\u201c${w}.`,
  `${w}\u2014`,
  `\u2018${w}!\u2019`,
  `(${w})`,
  `${w}-`,
]);

/** How many of the words joined; fails where one did and is not what the engine makes of it. */
function joined(name: string, features: string, words: readonly string[], tracking = 0): number {
  const opened = face(name);
  const scale = (units: number): number => Math.round((units * 11_000) / opened.upem) + tracking;
  const pairs = new Pairs(opened, features, 'en', scale);
  const data = new Int32Array(512);
  let count = 0;
  for (const word of words) {
    const width = pairs.write(word, data, 0);
    if (width < 0) continue;
    count++;
    const g = opened.shape(word, features, 'en');
    let wanted = 0;
    let same = g.count === word.length;
    for (let i = 0; i < g.count && same; i++) {
      const advance = scale(g.advances[i] as number);
      wanted += advance;
      same =
        data[i * 2] === ((g.ids[i] as number) | ((g.chars[i] as number) << 16)) &&
        data[i * 2 + 1] === advance &&
        g.dx[i] === 0 &&
        g.dy[i] === 0;
    }
    if (!same || width !== wanted) expect.fail(`${name}, ${features}: ${word}`);
  }
  return count;
}

describe('words of pairs', () => {
  it.each(Object.keys(FACE_FILES))('are what the engine makes of them in %s', (name) => {
    for (const features of ['onum', 'lnum', 'smcp,onum'])
      expect(joined(name, features, WORDS) / WORDS.length).toBeGreaterThan(0.85);
    expect(joined(name, 'onum', SIGNED) / SIGNED.length).toBeGreaterThan(0.85);
  });
  it('are so in every order of letters and signs', () => {
    const letters = 'abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ';
    const all = [
      ...`${letters}áàâäãåçéèêëíìîïñóòôöõøúùûüýÿæÁÀÇÉÈÑÖØÜÆ.,:;!?-'"()/&\u2013\u2014\u2018\u2019\u201c\u201d\u2026`,
    ];
    const names = Object.keys(FACE_FILES);
    fc.assert(
      fc.property(
        fc.constantFrom(...names),
        fc.array(fc.array(fc.constantFrom(...all), { minLength: 3, maxLength: 7 }), {
          minLength: 50,
          maxLength: 50,
        }),
        (name, words) =>
          void joined(
            name,
            'onum',
            words.map((w) => w.join('')),
          ),
      ),
      { numRuns: 300 },
    );
  });
  it('are letterspaced as they are', () => {
    expect(joined('EB Garamond', 'smcp,onum', WORDS, 330)).toBeGreaterThan(0);
  });
  it('are none where letters do more than kern, or are no letters', () => {
    for (const word of [
      'fi',
      'office',
      'Stra\u00dfe',
      '1884',
      'b\u0301',
      '\u0440\u0435\u043a\u0430',
      'a\u00a0b',
      '',
    ])
      expect([word, joined('EB Garamond', 'onum', [word])]).toEqual([word, 0]);
  });
});
