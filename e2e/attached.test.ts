/** PDFs that others made for an edition: attached, checked, outgrown by a change, replaced and taken away. */
import { unzipSync } from 'fflate';
import { PDFDocument } from 'pdf-lib';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import { address, AxeBuilder, bringIn, choose, openBrowser, saved, station } from './browser';

let browser: Browser;
let page: Page;
let errors: string[];
let id: string;
const TEXT = `# Chapter 1: Weirs\n\n${'The water stood at the weir and waited. '.repeat(900)}\n`;
beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
  id = await bringIn(page, 'Weirs.md', new TextEncoder().encode(TEXT));
  await page.goto(`${address()}/titles/${id}/record`);
  await page.getByLabel('Title', { exact: true }).fill('Weirs');
  await page.getByLabel('Title', { exact: true }).blur();
  await saved(page);
});
afterAll(async () => {
  await browser.close();
});
const row = (what: string) => page.locator(`tr[data-edition="paperback/${what}"]`);
const attach = (label: string, name: string, bytes: Uint8Array) =>
  page.setInputFiles(`tr[data-edition="paperback"] input[aria-label="${label}"]`, {
    name,
    mimeType: 'application/pdf',
    buffer: Buffer.from(bytes),
  });

it('checks a cover that Pagina itself could have made, and finds nothing wrong', async () => {
  await station(page, id, 'editions');
  await page.getByRole('button', { name: 'Make the cover' }).click();
  const made = page.locator('tr[data-edition="paperback/cover"]').getByRole('link');
  await made.waitFor({ timeout: 60_000 });
  const bytes = await (await page.request.get(address() + (await made.getAttribute('href')))).body();
  await page.locator('tr[data-edition="paperback"]').getByRole('button', { name: /^More/ }).click();
  await page.getByRole('menuitem', { name: 'Attach a designer’s cover' }).waitFor();
  await page.keyboard.press('Escape');
  await attach('Designer’s cover, a PDF', 'Jacket <final>.pdf', new Uint8Array(bytes));
  await row('attached-cover').getByText('✓ nothing found').waitFor({ timeout: 60_000 });
  expect(await row('attached-cover').getByRole('link').textContent()).toBe('Jacket <final>.pdf');
  expect(await new AxeBuilder(page).violations()).toEqual([]);
});

it('says when the edition has outgrown the cover, and checks it again', async () => {
  await choose(page.getByRole('combobox', { name: 'Paper of the paperback' }), 'White, 90 g/m²');
  await row('attached-cover')
    .getByText('Changed since this was checked: paper (now White, 90 g/m²). Check it again.')
    .waitFor();
  await row('attached-cover').getByRole('button', { name: 'Check the designer’s cover again' }).click();
  await row('attached-cover')
    .getByText('Changed since this was checked')
    .waitFor({ state: 'detached', timeout: 60_000 });
});

it('tells what is wrong with a supplied interior, takes them away, and puts them back', async () => {
  const doc = await PDFDocument.create();
  for (let n = 0; n < 10; n++)
    doc.addPage([432, 648]).drawRectangle({ x: 20, y: 60, width: 380, height: 500 });
  await attach('Supplied interior, a PDF', 'pages.pdf', await doc.save());
  const pages = row('attached-pages');
  await pages
    .getByText(/The pages are trimmed to 152.4 mm × 228.6 mm; the edition’s trim is 139.7 mm × 215.9 mm/)
    .waitFor({ timeout: 60_000 });
  await pages
    .getByText(/the ink is 7.[01] mm from the gutter; Quayhead requires 10.0 mm for 10 pages/)
    .waitFor();
  await pages.getByRole('button', { name: /^More/ }).click();
  await page.getByRole('menuitem', { name: 'Remove' }).click();
  await pages.waitFor({ state: 'detached' });
  await page
    .locator('[data-sonner-toast]', { hasText: 'pages.pdf was removed.' })
    .getByRole('button', { name: 'Undo' })
    .click();
  await pages.getByText(/The pages are trimmed to/).waitFor({ timeout: 60_000 });
});

it('keeps a file of a hostile name under a plain one, in the archive too', async () => {
  const doc = await PDFDocument.create();
  doc.addPage([432, 648]);
  const name = '../../evil/<b>.pdf';
  const body = Buffer.from(await doc.save());
  const answer = await page.request.post(
    `${address()}/api/titles/${id}/attached?of=paperback&what=attached-pages`,
    { headers: { 'X-File-Name': encodeURIComponent(name) }, data: body },
  );
  expect(answer.status()).toBe(202);
  await row('attached-pages').getByRole('link', { name: '<b>.pdf' }).waitFor({ timeout: 60_000 });
  const archive = await (await page.request.get(`${address()}/api/titles/${id}/archive`)).body();
  const names = Object.keys(unzipSync(new Uint8Array(archive)));
  expect(names.filter((n) => n.includes('b>.pdf') || n.includes('evil'))).toHaveLength(1);
  expect(names.filter((n) => /(^|\/)\.\.?(\/|$)|^\/|\\|evil/.test(n))).toEqual([]);
});

it('answers what is no PDF with a sentence', async () => {
  await attach('Supplied interior, a PDF', 'pages.pdf', new TextEncoder().encode('not a PDF'));
  await page.getByText('This is not a PDF.').waitFor({ timeout: 60_000 });
  expect(errors).toEqual([]);
});
