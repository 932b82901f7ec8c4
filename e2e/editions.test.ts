/** Editions: added, copied, named, removed and brought back; all made and fetched in one archive, read by fflate. */
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { strFromU8, unzipSync } from 'fflate';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Browser, Locator, Page } from 'playwright-core';
import { AxeBuilder, bringIn, choose as pick, openBrowser, saved, serverBook, station } from './browser';

let browser: Browser;
let page: Page;
let errors: string[];
let id: string;
const TEXT = `---\ntitle: Boats and Nets\n---\n\n# Chapter 1: The Boats\n\n${'The boats were kept dry over the winter. '.repeat(120)}\n\n# Chapter 2: The Nets\n\n${'The nets hung in the loft. '.repeat(160)}\n`;

beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
  id = await bringIn(page, 'Boats.md', new TextEncoder().encode(TEXT));
  await station(page, id, 'editions');
});
afterAll(async () => {
  await browser.close();
});
const names = (): Promise<string[]> =>
  page.$$eval('tr[data-edition]:not([data-edition*="/"]):not([data-edition="manuscript"])', (rows) =>
    rows.map((r) => r.querySelector('th span, td span')?.textContent ?? ''),
  );
const choose = async (menu: Locator, item: string): Promise<void> => {
  await menu.click();
  await page.getByRole('menuitem', { name: item, exact: true }).click();
};
const more = (of: string): Locator => page.getByRole('button', { name: `More for the ${of}` });

describe('editions', () => {
  it('are added, and the new one is shown', async () => {
    await choose(page.getByRole('button', { name: 'Add an edition' }), 'Large print');
    await expect.poll(names).toEqual(['Paperback', 'Ebook', 'Large print']);
    await expect
      .poll(() => page.getByRole('combobox', { name: 'Edition' }).innerText())
      .toContain('Large print');
    await page.getByText('The large print was added.').waitFor();
    expect(await new AxeBuilder(page).violations()).toEqual([]);
  });
  it('are named, by names of their own', async () => {
    await choose(more('large print'), 'Name and purpose');
    const sheet = page.getByRole('dialog');
    await sheet.getByLabel('Name', { exact: true }).fill('ebook');
    await sheet.getByText('Another edition is called “Ebook”.').waitFor();
    expect(await sheet.getByRole('button', { name: 'Rename' }).isDisabled()).toBe(true);
    await sheet.getByLabel('Name', { exact: true }).fill('Library edition');
    await sheet.getByRole('button', { name: 'Rename' }).click();
    await expect.poll(names).toEqual(['Paperback', 'Ebook', 'Library edition']);
    await sheet.getByLabel('What it is for').fill('For the readers of the county library.');
    await sheet.getByRole('button', { name: 'Change' }).click();
    await page.keyboard.press('Escape');
    await page.getByText('For the readers of the county library.').waitFor();
  });
  it('are copied, removed, and come back by Undo as they were', async () => {
    await choose(more('library edition'), 'Copy');
    await expect.poll(names).toEqual(['Paperback', 'Ebook', 'Library edition', 'Library edition, copy']);
    await saved(page);
    const before = (await serverBook(id)).book.editions;
    await choose(more('paperback'), 'Remove');
    await expect.poll(names).toEqual(['Ebook', 'Library edition', 'Library edition, copy']);
    await page.keyboard.press('Control+z');
    await expect.poll(names).toEqual(['Paperback', 'Ebook', 'Library edition', 'Library edition, copy']);
    await saved(page);
    expect((await serverBook(id)).book.editions).toEqual(before);
    await choose(more('library edition, copy'), 'Remove');
    await expect.poll(names).toEqual(['Paperback', 'Ebook', 'Library edition']);
  });
  it('are shown in every station when they are the only ones', async () => {
    for (const name of ['paperback', 'library edition']) await choose(more(name), 'Remove');
    await expect.poll(names).toEqual(['Ebook']);
    await more('ebook').click();
    expect(await page.getByRole('menuitem', { name: 'Remove' }).getAttribute('aria-disabled')).toBe('true');
    await page.keyboard.press('Escape');
    await saved(page);
    for (const name of ['order', 'manuscript', 'design', 'proof', 'record', 'outlets', 'editions']) {
      await page.goto(page.url().replace(/\/\w+$/, `/${name}`));
      await page.waitForTimeout(700);
      expect(await page.getByText('This page could not be shown').count(), name).toBe(0);
    }
    expect(errors).toEqual([]);
    for (let n = 0; n < 2; n++) {
      await page.keyboard.press('Control+z');
      await expect.poll(async () => (await names()).length).toBe(2 + n);
    }
  });
  it('are all made at once, and fetched in one archive that says what each is for', async () => {
    await station(page, id, 'editions');
    await page.getByRole('button', { name: 'Make all' }).click();
    const all = page.getByRole('link', { name: 'Download all 5 files in one archive' });
    await all.waitFor({ timeout: 90_000 });
    await expect.poll(() => page.getByRole('button', { name: 'Make all' }).isDisabled()).toBe(true);
    const [download] = await Promise.all([page.waitForEvent('download'), all.click()]);
    expect(download.suggestedFilename()).toBe('boats-and-nets-all-files.zip');
    const parts = unzipSync(new Uint8Array(readFileSync(await download.path())));
    const text = strFromU8(parts['What each file is for.txt']!);
    const files = Object.keys(parts).filter((n) => !n.endsWith('.txt'));
    expect(files.sort()).toEqual([
      'boats-and-nets-ebook.epub',
      'boats-and-nets-library-edition-cover.pdf',
      'boats-and-nets-library-edition.pdf',
      'boats-and-nets-paperback-cover.pdf',
      'boats-and-nets-paperback.pdf',
    ]);
    for (const name of files) {
      expect(text).toContain(createHash('sha256').update(parts[name]!).digest('hex'));
      expect(text).toContain(name);
    }
    expect(text).toContain('For the printer: the pages of the library edition, without the cover.');
    const pages = async (name: string): Promise<number> =>
      (await getDocument({ data: parts[name]!.slice(), verbosity: 0 }).promise).numPages;
    expect(await pages('boats-and-nets-library-edition.pdf')).toBeGreaterThan(
      await pages('boats-and-nets-paperback.pdf'),
    );
    expect(errors).toEqual([]);
  });
  it('keep the files made before, and say what has changed between them', async () => {
    const ebook = page.locator('tr[data-edition="ebook"]');
    const again = ebook.getByRole('button', { name: 'Make again: the ebook' });
    await again.click();
    await choose(more('ebook'), 'Earlier files');
    const sheet = page.getByRole('dialog', { name: 'Files made of the ebook' });
    await expect.poll(() => sheet.locator('tbody tr').allInnerTexts(), { timeout: 30_000 }).toHaveLength(2);
    expect(await sheet.locator('tbody tr').first().innerText()).toContain('the same file as before');
    await page.keyboard.press('Escape');
    await choose(more('ebook'), 'Name and purpose');
    await page.getByRole('dialog').getByLabel('What it is for').fill('For readers far away.');
    await page.getByRole('dialog').getByRole('button', { name: 'Change' }).click();
    await page.keyboard.press('Escape');
    await saved(page);
    await again.click();
    await choose(more('ebook'), 'Earlier files');
    await expect.poll(() => sheet.locator('tbody tr').allInnerTexts(), { timeout: 30_000 }).toHaveLength(3);
    expect(await new AxeBuilder(page).violations()).toEqual([]);
    expect(errors).toEqual([]);
  });
  it('of ebooks differ by version, typefaces and pictures; a sample is cut from one, and its lane ends with it', async () => {
    await station(page, id, 'editions');
    await pick(page.getByRole('combobox', { name: 'Version of the ebook' }), 'EPUB 2.0.1, for old readers');
    await pick(page.getByRole('combobox', { name: 'Typefaces of the ebook' }), 'the design’s typefaces');
    await pick(page.getByRole('combobox', { name: 'Pictures of the ebook' }), 'pictures for small screens');
    await choose(page.getByRole('button', { name: 'Add an edition' }), 'Sample');
    await expect.poll(names).toContain('Sample');
    await pick(page.getByRole('combobox', { name: 'Unit of the length of the sample' }), 'chapters');
    const length = page.getByLabel('Length of the sample', { exact: true });
    await length.fill('1');
    await length.press('Enter');
    await saved(page);
    const file = async (edition: string, made: string): Promise<Record<string, Uint8Array>> => {
      const row = page.locator(`tr[data-edition="${edition}"]`);
      const link = row.locator('a[href*="/api/files/"]').first();
      const before = (await link.count()) > 0 ? await link.getAttribute('href') : null;
      await page.getByRole('button', { name: made }).click();
      await link.waitFor({ timeout: 60_000 });
      await expect.poll(() => link.getAttribute('href'), { timeout: 60_000 }).not.toBe(before);
      const [download] = await Promise.all([page.waitForEvent('download'), link.click()]);
      return unzipSync(new Uint8Array(readFileSync(await download.path())));
    };
    const ebook = await file('ebook', 'Make again: the ebook');
    expect(strFromU8(ebook['EPUB/package.opf']!)).toContain('version="2.0"');
    expect(Object.keys(ebook).filter((n) => n.endsWith('.ttf')).length).toBeGreaterThanOrEqual(4);
    const own = (await serverBook(id)).book.editions.find((e) => e.form === 'sample')!;
    const sample = await file(own.id, 'Make the sample');
    const text = Object.entries(sample)
      .filter(([n]) => n.endsWith('.xhtml'))
      .map(([, b]) => strFromU8(b))
      .join('');
    expect(text).toContain('The boats were kept dry');
    expect(text).not.toContain('The nets hung in the loft');
    expect(text).toContain('This is the end of the sample.');
    await station(page, id, 'order');
    const lane = (n: number): Promise<string | null> =>
      page
        .getByRole('switch', { name: /^Sample carries/ })
        .nth(n)
        .getAttribute('aria-checked');
    const rows = await page.getByRole('switch', { name: /^Sample carries/ }).count();
    expect([await lane(rows - 2), await lane(rows - 1)]).toEqual(['true', 'false']);
    expect(
      await page
        .getByRole('switch', { name: /^Sample carries/ })
        .last()
        .isDisabled(),
    ).toBe(true);
    expect(await new AxeBuilder(page).violations()).toEqual([]);
    await station(page, id, 'editions');
    expect(await new AxeBuilder(page).violations()).toEqual([]);
    // As it was, for those that come after: the sample, its two settings, and three of the ebook.
    await choose(more('sample'), 'Remove');
    for (const [label, was] of [
      ['Version of the ebook', 'EPUB 3.3'],
      ['Typefaces of the ebook', 'the reader’s typeface'],
      ['Pictures of the ebook', 'original pictures'],
    ] as const)
      await pick(page.getByRole('combobox', { name: label }), was);
    await saved(page);
    expect(errors).toEqual([]);
  });
  it('have settings that are kept under a name and used in another title', async () => {
    await station(page, id, 'editions');
    await choose(more('library edition'), 'Keep its settings');
    const name = page.getByLabel('Kept as');
    await name.fill('Library, large');
    await page.getByRole('button', { name: 'Keep', exact: true }).click();
    await page.getByText('Kept as “Library, large”').waitFor();
    const kept = (await serverBook(id)).book.editions.find((e) => e.name === 'Library edition')!;
    const other = await bringIn(
      page,
      'Other.md',
      new TextEncoder().encode(TEXT.replace('Boats and Nets', 'Tides')),
    );
    await station(page, other, 'editions');
    await choose(page.getByRole('button', { name: 'Add an edition' }), 'Like “Library, large”');
    await expect.poll(names).toContain('Library, large');
    await saved(page);
    const { editions } = (await serverBook(other)).book;
    const made = editions.find((e) => e.name === 'Library, large')!;
    expect(made).toEqual({ ...kept, id: made.id, name: 'Library, large', isbn: '' });
    await choose(page.getByRole('button', { name: 'Add an edition' }), 'Kept settings');
    expect(await new AxeBuilder(page).violations()).toEqual([]);
    await page.getByRole('button', { name: 'Remove Library, large' }).click();
    await expect.poll(() => page.getByRole('button', { name: 'Remove Library, large' }).count()).toBe(0);
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Add an edition' }).click();
    await expect.poll(() => page.getByRole('menuitem', { name: 'Like “Library, large”' }).count()).toBe(0);
    await page.keyboard.press('Escape');
    expect(errors).toEqual([]);
  });
  it('in boards have a thicker spine, and a cover that is folded in around them', async () => {
    await station(page, id, 'editions');
    await choose(page.getByRole('button', { name: 'Add an edition' }), 'Hardback');
    await expect.poll(names).toContain('Hardback');
    const row = page.locator('tr[data-edition]', { hasText: 'For libraries, and for readers' });
    const spine = async (of: Locator): Promise<number> =>
      Number(/spine ([\d.]+) mm/.exec(await of.innerText())?.[1] ?? 0);
    await expect.poll(() => spine(row), { timeout: 20_000 }).toBeGreaterThan(6);
    const binding = row.getByRole('combobox', { name: 'Binding of the hardback' });
    expect(await binding.innerText()).toContain('Hardback');
    await pick(binding, 'Paperback');
    await expect.poll(() => spine(row)).toBeLessThan(6);
    await page.getByRole('banner').getByRole('button', { name: 'Undo' }).click();
    await expect.poll(() => spine(row)).toBeGreaterThan(6);
    await choose(more('hardback'), 'Remove');
    await expect.poll(names).not.toContain('Hardback');
  });
  it('are stopped together, and what is finished stays', async () => {
    // Long enough that nobody makes it before a hand has moved from one button to the next.
    const long = Array.from(
      { length: 40 },
      (_, i) => `# Chapter ${i + 1}\n\n${`The tide came in ${i} hours late that winter. `.repeat(500)}\n\n`,
    ).join('');
    const book = await bringIn(page, 'Long.md', new TextEncoder().encode(long));
    await station(page, book, 'editions');
    const files = page.locator('tr[data-edition] a[href*="/api/files/"]');
    await page.locator('tr[data-edition="manuscript"]').getByRole('button', { name: /^Make/ }).click();
    await expect.poll(() => files.count(), { timeout: 30_000 }).toBe(1);
    await page.getByRole('button', { name: 'Make all' }).click();
    const stop = page.getByRole('button', { name: /^Stop all \d/ });
    await stop.waitFor();
    await stop.click();
    await expect.poll(() => page.getByRole('progressbar').count(), { timeout: 30_000 }).toBe(0);
    await page.getByText('Stopped. Nothing was made.').first().waitFor();
    expect(await files.count()).toBeGreaterThan(0);
    expect(errors).toEqual([]);
    await station(page, id, 'editions');
  });
  it('are proofed in the inks that they are printed in', async () => {
    const red = await sharp({ create: { width: 600, height: 400, channels: 3, background: '#c00' } })
      .png()
      .toBuffer();
    const words = 'The nets hung in the loft. '.repeat(30);
    const html = `<h1>Chapter 1</h1><p>${words}</p><p><img alt="Red" src="data:image/png;base64,${red.toString('base64')}"></p><p>${words}</p>`;
    const painted = await bringIn(page, 'Red.html', Buffer.from(html));
    const reddest = async (): Promise<number> => {
      await station(page, painted, 'proof');
      await page.waitForTimeout(1500);
      const { data, info } = await sharp(await page.screenshot())
        .removeAlpha()
        .raw()
        .toBuffer({ resolveWithObject: true });
      let most = 0;
      for (let i = 0; i < data.length; i += info.channels)
        most = Math.max(most, (data[i] as number) - (data[i + 1] as number));
      return most;
    };
    const inks = async (name: string): Promise<void> => {
      await station(page, painted, 'editions');
      await page.getByLabel('Inks of the paperback').click();
      await page.getByRole('option', { name }).click();
      await saved(page);
    };
    // The rubric of the interface is a duller red.
    expect(await reddest()).toBeLessThan(150);
    await inks('Pages in colour');
    await expect.poll(reddest, { timeout: 20_000 }).toBeGreaterThan(180);
  });
});
