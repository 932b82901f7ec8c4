/**
 * Ebooks that something has happened to: bytes, the structure of the zip, XML. Whatever it was, the checks answer, within
 * five seconds, and a file that is still the same has no finding more.
 */
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { checkEpub } from '../../src/check';
import { foreignEpub } from '../fixtures/foreign';
import { add, MINIMAL, OLDER, page, readAloud, withNcx, zipped, type Parts } from './minimal';

const RUNS = 500;
const BASES: Uint8Array[] = [
  zipped(MINIMAL),
  zipped(OLDER),
  zipped(readAloud(withNcx(MINIMAL))),
  foreignEpub(),
];

/** Seconds that a check took; the answer is a list of findings or a refusal in words. */
function answered(bytes: Uint8Array): void {
  const started = process.cpuUsage();
  const r = checkEpub(bytes);
  if (r.ok) for (const f of r.value) expect(f.message).toMatch(/\S/);
  else expect(r.refusal.message).toMatch(/\.$/);
  // Of the processor’s own time, so that a busy machine changes nothing.
  expect(process.cpuUsage(started).user / 1_000).toBeLessThan(5_000);
}

it('bytes changed, cut out and put in, anywhere in the file', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...BASES),
      fc.array(
        fc.tuple(fc.double({ min: 0, max: 1, noNaN: true }), fc.nat(3), fc.uint8Array({ maxLength: 4 })),
        { minLength: 1, maxLength: 6 },
      ),
      (base, changes) => {
        let bytes = base;
        for (const [share, cut, put] of changes) {
          const at = Math.floor(share * bytes.length);
          bytes = new Uint8Array([
            ...bytes.subarray(0, at),
            ...put,
            ...bytes.subarray(Math.min(bytes.length, at + cut)),
          ]);
        }
        answered(bytes);
      },
    ),
    { numRuns: RUNS },
  );
});
it('files cut short at any place', () => {
  fc.assert(
    fc.property(fc.constantFrom(...BASES), fc.double({ min: 0, max: 1, noNaN: true }), (base, share) =>
      answered(base.subarray(0, Math.floor(share * base.length))),
    ),
    { numRuns: RUNS },
  );
});
it('the directory of the zip with anything in its fields', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...BASES),
      fc.array(fc.tuple(fc.nat(400), fc.integer({ min: 0, max: 255 })), { minLength: 1, maxLength: 4 }),
      (base, changes) => {
        const bytes = base.slice();
        for (const [back, value] of changes) bytes[bytes.length - 1 - back] = value;
        answered(bytes);
      },
    ),
    { numRuns: RUNS },
  );
});
const PIECES = ['<', '>', '&', '"', '</p>', '<p>', '<a href="', ' id="two"', 'xmlns=""', '<!--', ']]>', '<![CDATA[', '\u0000', '<?xml?>', '&x;', '#', '%', '../', '{', '}', '/*', 'url(', '\\', '<svg xmlns="http://www.w3.org/2000/svg">', '<dl>', '<table>', 'epub:type="toc"', '{}'.repeat(2_000), '<b>'.repeat(300)]; // prettier-ignore
it('text changed in any part', () => {
  const parts = withNcx(readAloud(MINIMAL));
  const names = Object.keys(parts).filter((n) => typeof parts[n] === 'string');
  fc.assert(
    fc.property(
      fc.array(
        fc.tuple(
          fc.constantFrom(...names),
          fc.double({ min: 0, max: 1, noNaN: true }),
          fc.nat(30),
          fc.constantFrom(...PIECES, ''),
        ),
        { minLength: 1, maxLength: 5 },
      ),
      (changes) => {
        let now: Parts = parts;
        for (const [name, share, cut, put] of changes) {
          const text = String(now[name]);
          const at = Math.floor(share * text.length);
          now = add({ [name]: text.slice(0, at) + put + text.slice(at + cut) })(now);
        }
        answered(zipped(now));
      },
    ),
    { numRuns: RUNS },
  );
});
it('is not made to hang by what is written to do so', () => {
  const hostile: Parts[] = [
    { ...MINIMAL, 'style.css': '{'.repeat(200_000) },
    { ...MINIMAL, 'style.css': '/*'.repeat(200_000) },
    { ...MINIMAL, 'style.css': `a${':not(a'.repeat(5_000)}` },
    { ...MINIMAL, 'a.xhtml': page('<i>x</i>'.repeat(300_000)) },
    { ...MINIMAL, 'a.xhtml': page('x ]] & y <br/>'.repeat(100_000)) },
    { ...MINIMAL, 'a.xhtml': '<'.repeat(300_000) },
    { ...MINIMAL, 'a.xhtml': `<a ${'b '.repeat(100_000)}` },
    { ...MINIMAL, 'a.xhtml': `<html>${'<b>'.repeat(200_000)}` },
    { ...MINIMAL, 'a.xhtml': `<html>${'</b>'.repeat(200_000)}</html>` },
    { ...MINIMAL, 'a.xhtml': `<html><p title="${'&'.repeat(200_000)}"/></html>` },
    {
      ...MINIMAL,
      'a.xhtml': `<!DOCTYPE html [${'<!ENTITY a "b">'.repeat(50_000)}]><html>${'&a;'.repeat(100_000)}</html>`,
    },
    {
      ...MINIMAL,
      'a.xhtml': String(MINIMAL['a.xhtml']).replace('<p>', `${'<p id="x">y</p>'.repeat(20_000)}<p>`),
    },
    {
      ...MINIMAL,
      'book.opf': String(MINIMAL['book.opf']).replace(
        '</manifest>',
        `${'<item id="z" href="z.xhtml" media-type="application/xhtml+xml"/>'.repeat(10_000)}</manifest>`,
      ),
    },
  ];
  for (const parts of hostile) answered(zipped(parts));
}, 60_000);
