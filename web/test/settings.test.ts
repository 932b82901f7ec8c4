/** The settings that are shown of a design, against the design itself: none is missing, and each does what it says. */
import { beforeAll, describe, expect, it } from 'vitest';
import {
  designSchema,
  FAMILIES,
  INTERIOR_NAMES,
  INTERIORS,
  lineStyle,
  PARTS,
  settingAt,
  withSetting,
  type Design,
} from '@pagina/core/design';
import { Face } from '@pagina/core/type';
import type { TypeSource } from '@pagina/core/compose';
import { family, typeSource } from '@pagina/make';
import { CUTS, LETTERS, settingsAt, SETTINGS, SIGNS, type Setting } from '@/stations/design/settings';

const all = PARTS.flatMap((part) => SETTINGS[part].map((s) => ({ part, s })));
const designs = INTERIOR_NAMES.map((name) => [name, INTERIORS[name] as Design] as const);
/** Paths of everything that a design says. */
function leaves(value: unknown, path: string): string[] {
  return value !== null && typeof value === 'object'
    ? Object.entries(value).flatMap(([k, v]) => leaves(v, path ? `${path}.${k}` : k))
    : [path];
}
/** What is allowed at a path, read from the schema. */
function allowed(path: string): unknown[] | null {
  let at = designSchema as unknown as { shape?: Record<string, never>; options?: unknown[] };
  for (const key of path.split('.')) at = at.shape?.[key] as never;
  return at.options ?? null;
}
const values = (path: string): unknown[] => [...new Set(designs.map(([, d]) => settingAt(d, path)))];

describe('what is shown', () => {
  // How much spaces give belongs to the interior's colour: nobody is asked for it.
  const QUIET = ['text.wordSpace', 'text.stretch', 'text.shrink'];
  it('is all that a design says but for the spaces, and only that', () => {
    const covers = (path: string): boolean =>
      QUIET.includes(path) ||
      all.some(({ s }) => s.path === path || (s.kind === 'line' && path.startsWith(`${s.path}.`)));
    for (const [name, design] of designs)
      expect(
        leaves(design, '').filter((p) => !covers(p)),
        name,
      ).toEqual([]);
    for (const { s } of all)
      for (const [name, design] of designs)
        expect(settingAt(design, s.path), `${s.path} in ${name}`).toBeDefined();
  });
  it('stands under its own part, once, with a name of its own', () => {
    for (const { part, s } of all) expect(s.path.split('.')[0]).toBe(part);
    expect(new Set(all.map(({ s }) => s.path)).size).toBe(all.length);
    for (const part of PARTS) {
      const labels = SETTINGS[part].map((s) => s.label);
      expect(new Set(labels).size, part).toBe(labels.length);
      expect(labels.every((l) => /^\p{Lu}/u.test(l) && !/["']/.test(l))).toBe(true);
    }
  });
});

const ofKind = <K extends Setting['kind']>(kind: K): Extract<Setting, { kind: K }>[] =>
  all.map(({ s }) => s).filter((s): s is Extract<Setting, { kind: K }> => s.kind === kind);

describe('a choice', () => {
  it.each(ofKind('choice'))('$path is among all that there is, each with words for it', ({ path, of }) => {
    expect(of.map(([value]) => value).sort()).toEqual([...(allowed(path) ?? [])].sort());
    expect(new Set(of.map(([, label]) => label)).size).toBe(of.length);
    for (const [value] of of)
      for (const [, design] of designs)
        expect(settingAt(withSetting(design, path, value)!, path)).toBe(value);
  });
  it('of a line has words for all that a line can be', () => {
    const of = (options: readonly (readonly [string, string])[]): string[] => options.map(([v]) => v).sort();
    expect(of(CUTS)).toEqual([...lineStyle.shape.cut.options].sort());
    expect(of(LETTERS)).toEqual([...lineStyle.shape.letters.options].sort());
  });
});

describe('a number', () => {
  it.each(ofKind('count'))(
    '$path goes from its least to its most and no further',
    ({ path, least, most }) => {
      const [, design] = designs[0]!;
      expect(withSetting(design, path, least)).not.toBeNull();
      expect(withSetting(design, path, most)).not.toBeNull();
      expect(withSetting(design, path, least - 1)).toBeNull();
      expect(withSetting(design, path, most + 1)).toBeNull();
      for (const value of values(path)) if (value !== null) expect(value).toBeGreaterThanOrEqual(least);
    },
  );
  it.each(ofKind('length'))('$path may be left open only where the trim says it', ({ path, open }) => {
    const [, design] = designs[0]!;
    expect(withSetting(design, path, null) !== null).toBe(Boolean(open));
    expect(withSetting(design, path, 24_000)).not.toBeNull();
    expect(withSetting(design, path, -1)).toBeNull();
    expect(withSetting(design, path, 1e9)).toBeNull();
  });
});

describe('a sign', () => {
  let source: TypeSource;
  beforeAll(async () => {
    source = await typeSource();
  });
  it('of every interior can be chosen again', () => {
    for (const { path } of ofKind('sign'))
      for (const value of values(path)) expect(['', ...SIGNS]).toContain(value);
  });
  it('is drawn by a face that every family can ask', () => {
    for (const { name } of FAMILIES) {
      const files = family(name);
      const faces = [files.regular, ...files.fallback].map((f) => new Face(f.name, f.bytes, source.harfbuzz));
      for (const sign of SIGNS)
        for (const c of sign.replaceAll(' ', ''))
          expect(
            faces.some((f) => f.has(c.codePointAt(0)!)),
            `${c} in ${name}`,
          ).toBe(true);
    }
  });
});

describe('what is pointed at', () => {
  it('comes first, with what belongs to it, and the rest of its part after it', () => {
    for (const { part, s } of all) {
      const { first, more } = settingsAt(s.path);
      expect(first.map((f) => f.path)).toContain(s.path);
      expect([...first, ...more].map((f) => f.path).sort()).toEqual(SETTINGS[part].map((f) => f.path).sort());
    }
  });
  it('is the whole part where no one line is meant', () => {
    for (const part of PARTS) expect(settingsAt(part)).toMatchObject({ part, more: [] });
    expect(settingsAt('text.nowhere').first).toHaveLength(SETTINGS.text.length);
  });
});
