/** Pages of a fixed layout: beside the pages of the PDF as poppler draws them (pdftoppm), and in Proof. */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import type { Node } from 'prosemirror-model';
import { apply, schema, type Book } from '@pagina/core/book';
import { editionAdded } from '@pagina/core/design';
import { makeFixed, makePrint } from '@pagina/make';
import { pictureInfo } from '@pagina/core/base';
import { scene } from '../demo/src/scenes';
import { pictureBook, picturesShown } from '../demo/src/tamsin';
import { threeChapters } from '../core/test/fixtures/books';
import { address, AxeBuilder, bringIn, choose, openBrowser, saved } from './browser';

let browser: Browser;
let page: Page;
let errors: string[];
beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
});
afterAll(async () => {
  await browser.close();
});

/** Points across and down a page. */
type Size = readonly [width: number, height: number];
const TALL: Size = [396, 612];
const SQUARE: Size = [612, 612];

/**
 * How far two pictures of a page are apart: on average, and the share of points that are as good as opposite. Two programs may
 * begin their points half a point apart, a quarter of a pixel of the page: the best fit is taken.
 */
async function apart(
  a: Buffer,
  b: Buffer,
  [width, height]: Size = TALL,
): Promise<{ mean: number; far: number }> {
  const plane = async (x: Buffer) => {
    const { data, info } = await sharp(x).greyscale().raw().toBuffer({ resolveWithObject: true });
    return { data, raw: { width: info.width, height: info.height, channels: info.channels } };
  };
  type Plane = Awaited<ReturnType<typeof plane>>;
  const grey = ({ data, raw }: Plane, left: number, top: number): Promise<Buffer> =>
    sharp(data, { raw })
      .extract({ left: 1 + left, top: 1 + top, width: width * 4 - 2, height: height * 4 - 2 })
      .resize(width * 2 - 1, height * 2 - 1, { fit: 'fill' })
      .blur(1.2)
      .raw()
      .toBuffer();
  const [shot, printed] = [await plane(a), await plane(b)];
  const p = await grey(shot, 0, 0);
  let best = { mean: Infinity, far: Infinity };
  for (const top of [-1, 0, 1])
    for (const left of [-1, 0, 1]) {
      const q = await grey(printed, left, top);
      let sum = 0;
      let far = 0;
      for (let i = 0; i < p.length; i++) {
        const d = Math.abs((p[i] as number) - (q[i] as number));
        sum += d;
        if (d > 90) far++;
      }
      if (sum / p.length < best.mean) best = { mean: sum / p.length, far: far / p.length };
    }
  return best;
}

/** Every paragraph with a call in its middle, raised among words that are not. */
const withNotes = (b: Book): Book => ({
  ...b,
  sections: b.sections.map((s) => {
    const blocks: Node[] = [];
    const notes: Node[] = [];
    s.content.forEach((p) => {
      const words = p.textContent;
      const id = `note-${String(p.attrs.id)}`;
      if (p.type.name !== 'paragraph' || words.length < 200) return void blocks.push(p);
      const half = words.indexOf(' ', words.length / 2);
      const inline = [
        schema.text(words.slice(0, half)),
        schema.node('note', { ref: id }),
        schema.text(words.slice(half)),
      ];
      blocks.push(schema.node('paragraph', p.attrs, inline));
      notes.push(
        schema.node('noteBody', { id }, [
          schema.node('paragraph', { id: `${id}-p` }, [schema.text('A note.')]),
        ]),
      );
    });
    return { ...s, content: schema.node('doc', null, [...blocks, ...notes]) };
  }),
});

/** A book as fixed pages and as a PDF for the screen: a screenshot of a page, and the same page as poppler draws it. */
async function bothWays(
  book: Book,
  [width, height]: Size,
  pictures: (id: string) => Uint8Array | null,
  edition = 'fixed',
): Promise<{ open: (n: number) => Promise<Buffer | null>; drawn: (n: number) => Buffer }> {
  const [fixed, print] = [
    await makeFixed(book, edition, { pictures }),
    await makePrint(book, 'paperback', { pictures, screen: true }),
  ];
  if (!fixed.ok || !print.ok) throw new Error('not made');
  const files = unzipSync(fixed.value.bytes);
  const path = join(mkdtempSync(join(tmpdir(), 'fixed-')), 'a.pdf');
  writeFileSync(path, print.value.bytes);
  const screen = await browser.newPage({ viewport: { width, height }, deviceScaleFactor: 4 });
  const TYPES: Record<string, string> = {
    css: 'text/css',
    ttf: 'font/ttf',
    jpg: 'image/jpeg',
    png: 'image/png',
  };
  await screen.route('http://book.invalid/**', (route) => {
    const name = new URL(route.request().url()).pathname.slice(1);
    const contentType = TYPES[name.split('.').at(-1) ?? ''] ?? 'application/xhtml+xml';
    return files[name]
      ? route.fulfill({ body: Buffer.from(files[name]), contentType })
      : route.fulfill({ status: 404, body: '' });
  });
  return {
    async open(n) {
      const name = `EPUB/text/p${String(n).padStart(4, '0')}.xhtml`;
      if (!files[name]) return null;
      await screen.goto(`http://book.invalid/${name}`);
      await screen.evaluate(async () => {
        await document.fonts.ready;
      });
      return screen.screenshot();
    },
    drawn: (n) =>
      spawnSync('pdftoppm', ['-r', '288', '-f', String(n), '-l', String(n), '-singlefile', '-png', path], {
        maxBuffer: 50_000_000,
      }).stdout,
  };
}

it.each(['Harrow', 'Marram', 'Lanthorn'])('pages look as the PDF’s do (%s)', async (interior) => {
  const plain = withNotes(threeChapters());
  const added = editionAdded(
    { ...plain, editions: plain.editions.map((e) => ({ ...e, interior })) },
    'fixed',
    'fixed',
  );
  const applied = added.ok
    ? apply({ ...plain, editions: plain.editions.map((e) => ({ ...e, interior })) }, added.value)
    : null;
  if (!applied?.ok) throw new Error('not added');
  const { book } = applied.value;
  const { open, drawn } = await bothWays(book, TALL, () => null);
  let compared = 0;
  let before: Buffer | null = null;
  for (const n of [1, 5, 7, 8, 9, 10]) {
    const shot = await open(n);
    if (!shot) continue;
    const printed = drawn(n);
    const { mean, far } = await apart(shot, printed);
    expect(mean, `page ${n}`).toBeLessThan(2.5);
    expect(far, `page ${n}`).toBeLessThan(0.0005);
    // Two pages full of words, one as good as another to the eye, are much further apart.
    if (before && n === 9) expect((await apart(shot, before)).mean).toBeGreaterThan(6);
    before = printed;
    compared++;
  }
  expect(compared).toBeGreaterThan(3);
});

it('pages of a picture book look as the PDF’s do, pictures, panels and words', async () => {
  const files = new Map<string, Uint8Array>();
  for (const name of picturesShown) files.set(name, await scene(name));
  const plain = pictureBook();
  const book: Book = {
    ...plain,
    pictures: [...files.keys()].map((id) => ({
      id,
      name: id,
      type: 'image/jpeg',
      ...(pictureInfo(files.get(id)!) as { width: number; height: number }),
    })),
  };
  const { open, drawn } = await bothWays(book, SQUARE, (id) => files.get(id) ?? null, 'pages');
  for (const n of [1, 3, 4, 5, 11, 13, 16, 22]) {
    const [shot, printed] = [(await open(n))!, drawn(n)];
    const { mean, far } = await apart(shot, printed, SQUARE);
    expect(mean, `page ${n}`).toBeLessThan(2.5);
    expect(far, `page ${n}`).toBeLessThan(0.0005);
  }
});

describe('an ebook of a fixed layout in the application', () => {
  const TEXT = `# Chapter 1: Weirs\n\n${'The water stood at the weir and waited. '.repeat(90)}\n\n# Chapter 2: Locks\n\n${'A lock lets boats by. '.repeat(40)}The heron flew.\n`;
  it('is added, made, and read page by page', async () => {
    const id = await bringIn(page, 'Weirs.md', new TextEncoder().encode(TEXT));
    await page.goto(`${address()}/titles/${id}/record`);
    await page.getByLabel('Title', { exact: true }).fill('Weirs');
    await page.getByLabel('Title', { exact: true }).blur();
    await saved(page);
    await page.goto(`${address()}/titles/${id}/editions`);
    await page.getByRole('button', { name: 'Add an edition' }).click();
    await page.getByRole('menuitem', { name: 'Fixed-layout ebook' }).click();
    await page
      .getByRole('combobox', { name: 'Print edition whose pages the fixed-layout ebook shows' })
      .getByText('pages of the paperback')
      .waitFor();
    await saved(page);
    await page.goto(`${address()}/titles/${id}/proof`);
    await page.getByRole('button', { name: 'Make the fixed-layout ebook' }).click();
    await page.waitForSelector('[data-ready="true"]', { timeout: 60_000 });
    expect(await new AxeBuilder(page).violations()).toEqual([]);
    const reading = async (): Promise<string> => (await page.textContent('[data-reading]')) ?? '';
    await page.getByRole('button', { name: 'Contents', exact: true }).click();
    await page.getByRole('list', { name: 'Contents' }).getByRole('button', { name: /Locks/ }).click();
    await expect.poll(reading).toContain('Locks');
    await page.waitForSelector('[data-ready="true"]');
    // The whole page is in sight, in its own shape.
    const [frame, screen] = [
      (await page.locator('iframe').boundingBox())!,
      (await page.locator('[data-screen]').boundingBox())!,
    ];
    expect(frame.width / frame.height).toBeCloseTo(396 / 612, 2);
    expect(frame.width).toBeLessThanOrEqual(screen.width + 1);
    expect(frame.height).toBeLessThanOrEqual(screen.height + 1);
    // Nothing of a fixed page is the reader's: it stays as it is on paper, and what can't be set isn't offered.
    await expect.poll(() => page.getByRole('radio', { name: 'Night' }).count()).toBe(0);
    expect(await page.locator('iframe').evaluate((f) => getComputedStyle(f).backgroundColor)).toBe(
      'rgb(255, 253, 248)',
    );
    await page.getByRole('button', { name: 'Find', exact: true }).click();
    await page.getByLabel('Words to find').fill('heron');
    await page.getByText('1 match', { exact: true }).waitFor();
    await page.keyboard.press('Enter');
    await page.waitForSelector('[data-ready="true"]');
    const marked = async (): Promise<string> => {
      const handle = await page.locator('iframe').elementHandle();
      return (await handle!.contentFrame())!.evaluate(() =>
        [...(CSS.highlights.get('found') ?? [])].map(String).join(),
      );
    };
    await expect.poll(marked).toBe('heron');
    await page.getByRole('button', { name: 'Previous', exact: true }).click();
    await expect.poll(reading).toMatch(/folio \d/);
    // A wide screen shows the pages that face each other, which meet at its middle.
    await choose(page.getByRole('combobox', { name: 'Screen', exact: true }), 'Large tablet on its side');
    await page.locator('[data-reading]').click();
    await page.keyboard.press('Home');
    await page.waitForSelector('[data-ready="true"]');
    // The first page lies alone, on the right.
    await expect.poll(() => page.locator('iframe').count()).toBe(1);
    await page.getByRole('button', { name: 'Next', exact: true }).click();
    await expect.poll(() => page.locator('iframe').count()).toBe(2);
    const boxes = async () =>
      (await Promise.all((await page.locator('iframe').all()).map((f) => f.boundingBox())))
        .map((b) => b!)
        .sort((a, b) => a.x - b.x);
    await expect
      .poll(async () => {
        const [a, b] = await boxes();
        return Math.abs(a!.x + a!.width - b!.x);
      })
      .toBeLessThan(1.5);
    const [left] = await boxes();
    const tablet = (await page.locator('[data-screen]').boundingBox())!;
    expect(Math.abs(left!.x + left!.width - (tablet.x + tablet.width / 2))).toBeLessThan(2);
    const before = await reading();
    await page.getByRole('button', { name: 'Next', exact: true }).click();
    await expect.poll(reading).not.toBe(before);
    expect(await new AxeBuilder(page).violations()).toEqual([]);
    expect(errors).toEqual([]);
  });
});
