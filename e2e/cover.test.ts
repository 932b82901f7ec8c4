import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import { unzipSync } from 'fflate';
import { PDFDocument } from 'pdf-lib';
import sharp from 'sharp';
import { address, AxeBuilder, bringIn, choose, openBrowser, saved, station } from './browser';
import { png, styledManuscript } from '../core/test/fixtures/manuscript';

let browser: Browser;
let page: Page;
let errors: string[];
let id: string;
beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
  id = await bringIn(page, 'Covered.docx', await styledManuscript());
});
afterAll(async () => {
  await browser.close();
});
const sheet = () => page.getByRole('figure', { name: /^Cover of/ });
const part = (name: string) => sheet().getByRole('button', { name, exact: true });
const shown = () => sheet().locator('svg').first().innerHTML();
/** Waits until the sheet is drawn otherwise than it was. */
async function redrawn(act: () => Promise<unknown>): Promise<void> {
  const before = await shown();
  await act();
  await expect.poll(shown, { timeout: 10_000 }).not.toBe(before);
}
const bytesOf = async (name: RegExp): Promise<Uint8Array> => {
  const link = page.getByRole('link', { name }).first();
  await link.waitFor({ timeout: 60_000 });
  return new Uint8Array(await (await page.request.get(address() + (await link.getAttribute('href')))).body());
};

it('shows the sheet of back, spine and front, and says what is wrong with it', async () => {
  await station(page, id, 'design');
  await page.getByRole('tab', { name: 'Cover' }).click();
  await sheet().waitFor({ timeout: 30_000 });
  await page.getByText('too narrow for words').waitFor();
  await page.getByText(/has no ISBN, so the barcode area is left white/).waitFor();
  await expect.poll(() => page.locator('[data-guides]').count()).toBe(1);
  await page.getByLabel('Guides').uncheck();
  await expect.poll(() => page.locator('[data-guides]').count()).toBe(0);
  await page.getByLabel('Guides').check();
  expect(await new AxeBuilder(page).violations()).toEqual([]);
});
it('sets what is pointed at, and takes it back', async () => {
  await part('Title').click();
  await redrawn(async () => {
    await page.getByLabel('A line above the title').fill('A novel');
    await page.keyboard.press('Enter');
  });
  await redrawn(() => choose(page.getByLabel('Case of the title'), 'capitals'));
  await page.getByLabel('Size of the title').fill('2 in');
  await page.keyboard.press('Enter');
  await saved(page);
  await page.getByLabel('Size of the title').fill('5 in');
  await page.keyboard.press('Enter');
  await page.getByText('That is outside the range for this setting.').waitFor();
  await page.keyboard.press('Escape');
  await redrawn(() => page.getByRole('button', { name: 'Undo' }).click());
  await part('Back text').click();
  await redrawn(async () => {
    await page.getByLabel('Back cover text').fill('What was there the day before.');
    await page.getByLabel('Part of the cover').focus();
  });
  await redrawn(() => page.getByRole('button', { name: 'Use the record’s description' }).click());
  await part('Spine').click();
  await page.getByLabel('Author and title on the spine').click();
  await page.getByText('too narrow for words').waitFor({ state: 'detached' });
  await saved(page);
});
it('takes a picture, which carries its own words until others are wanted', async () => {
  await choose(page.getByLabel('Part of the cover'), 'Front');
  await redrawn(() =>
    page.setInputFiles('input[aria-label="File for: Front picture"]', {
      name: 'front.png',
      mimeType: 'image/png',
      buffer: Buffer.from(png(1600, 2560)),
    }),
  );
  expect(await page.getByLabel('The picture alone').isChecked()).toBe(true);
  await expect.poll(() => part('Title').count()).toBe(0);
  await redrawn(() => page.getByLabel('Words below the picture').click());
  await part('Title').waitFor();
  await redrawn(async () => {
    await page.getByRole('button', { name: /^Ground/ }).click();
    await page.getByLabel('Ground, as six hexadecimal digits').fill('#4a2430');
    await page.keyboard.press('Enter');
  });
  await page.keyboard.press('Escape');
  // Once it has closed, its button has the focus; not before.
  await expect
    .poll(() => page.getByRole('button', { name: /^Ground/ }).evaluate((b) => b === document.activeElement))
    .toBe(true);
  await redrawn(() => page.getByRole('slider', { name: 'Keep, head to foot' }).press('Home'));
  await saved(page);
  expect(await new AxeBuilder(page).violations()).toEqual([]);
});
it('is kept, and made with the very width of the spine that is shown', async () => {
  await page.reload();
  await sheet().waitFor({ timeout: 30_000 });
  await part('Title').waitFor();
  await page.getByRole('button', { name: 'Ground: #4a2430' }).waitFor();
  const spine = Number(await page.locator('[data-spine]').getAttribute('data-spine'));
  await page.getByRole('button', { name: 'Make the cover' }).click();
  const cover = await PDFDocument.load(await bytesOf(/paperback-cover\.pdf/));
  const trim = cover.getPage(0).getTrimBox();
  expect(trim.width).toBeCloseTo(2 * 396 + spine / 1000, 2);
  expect(trim.height).toBe(612);
  await page.getByRole('button', { name: 'Make an empty sheet' }).click();
  const empty = await PDFDocument.load(await bytesOf(/paperback-template\.pdf/));
  expect(empty.getPage(0).getTrimBox().width).toBeCloseTo(trim.width, 2);
});
it('gives the ebook its front as a picture, and the files stand in Editions', async () => {
  await station(page, id, 'editions');
  await page.locator('tr[data-edition="paperback/cover"]').getByRole('link').waitFor();
  await page.getByRole('button', { name: 'Make the ebook' }).click();
  const files = unzipSync(await bytesOf(/ebook\.epub/));
  const front = await sharp(Buffer.from(files['EPUB/pictures/cover-front.jpg'] as Uint8Array)).metadata();
  expect([front.format, front.width, front.height]).toEqual(['jpeg', 1600, 2560]);
  expect(errors).toEqual([]);
});
