/** What outlets ask further: each rule by the least that breaks it, who refuses it, and nothing where nobody is asked. */
import { describe, expect, it } from 'vitest';
import { checkEpub, OUTLET_RULES } from '../../src/check';
import { EBOOK_OUTLETS, type EbookOutlet } from '../../src/trade';
import { LENIENT, OUTLET_TABLE } from './cases-outlet';
import { MINIMAL, zipped, type Parts } from './minimal';

const sandbar = (ebook: Partial<EbookOutlet['ebook']>): EbookOutlet => ({
  id: 'sandbar',
  name: 'Sandbar',
  hosts: ['sandbar.example'],
  fileName: 'title',
  ebook: { ...LENIENT, ...ebook },
});
const refusals = (parts: Parts, outlets: EbookOutlet[]) => {
  const r = checkEpub(zipped(parts), outlets);
  if (!r.ok) throw new Error(r.refusal.message);
  return r.value.filter((f) => f.outlet !== undefined);
};

describe.each(OUTLET_TABLE.map((c) => [c.rule, c] as const))(
  '%s',
  (rule, { demands, bad, good, message, at }) => {
    it('refuses what breaks it, and says who and where', () => {
      const found = refusals(bad, [sandbar(demands)]).filter((f) => f.rule === rule);
      expect(found.map((f) => [f.outlet, f.severity])).toEqual([['sandbar', 'caution']]);
      expect(found[0]?.message).toMatch(message);
      if (at)
        expect([found[0]?.file, found[0]?.line, found[0]?.column].filter(Boolean).join(':')).toMatch(
          new RegExp(`^${at}`),
        );
    });
    it('takes what is next to it, and what a lenient outlet takes', () => {
      expect(refusals(good ?? MINIMAL, [sandbar(demands)]).filter((f) => f.rule === rule)).toEqual([]);
      const other = rule === 'outlet/other-shop' || rule === 'outlet/picture-kind';
      if (!other) expect(refusals(bad, [sandbar({})]).filter((f) => f.rule === rule)).toEqual([]);
      expect(refusals(bad, [])).toEqual([]);
    });
  },
);

it('every rule has its case; invented outlets have names and hosts of their own', () => {
  const known = new Set(OUTLET_TABLE.map((c) => c.rule));
  expect(OUTLET_RULES.map((r) => r.name).filter((n) => !known.has(n))).toEqual([]);
  expect(new Set(EBOOK_OUTLETS.map((o) => o.id)).size).toBe(EBOOK_OUTLETS.length);
  // RFC 2606: names under .example belong to nobody.
  for (const o of EBOOK_OUTLETS) for (const h of o.hosts) expect(h).toMatch(/\.example$/);
});

it('a link to the outlet’s own shop is none to another', () => {
  const own = {
    ...MINIMAL,
    'a.xhtml': (MINIMAL['a.xhtml'] as string).replace(
      'Water',
      '<a href="https://plover.example/isbn/1">Water</a>',
    ),
  };
  const plover = EBOOK_OUTLETS.find((o) => o.id === 'plover')!;
  const by = (o: EbookOutlet) => refusals(own, [o]).some((f) => f.rule === 'outlet/other-shop');
  expect([by(plover), by(EBOOK_OUTLETS[0]!)]).toEqual([false, true]);
});
