/** Where nothing can be shown there is a sentence, and a way on. */
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import { address, openBrowser } from './browser';

let browser: Browser;
let page: Page;
beforeAll(async () => {
  ({ browser, page } = await openBrowser());
});
afterAll(async () => {
  await browser.close();
});
const toTitles = async (): Promise<void> => {
  await page.getByRole('link', { name: 'All titles' }).click();
  await page.getByText('Drop a manuscript anywhere on this page.').waitFor();
};

it('leads from a title that is gone, and from an address that never was, to all titles', async () => {
  await page.goto(`${address()}/titles/00000000-0000-4000-8000-000000000000/order`);
  await page.getByText('This title no longer exists.').waitFor();
  await toTitles();
  await page.goto(`${address()}/nowhere`);
  await page.getByText('This page doesn’t exist.').waitFor();
  await toTitles();
});

it('keeps the title open around a station that fails, and shows it again', async () => {
  const created = await fetch(`${address()}/api/titles`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ title: 'Astray' }),
  });
  const { title } = (await created.json()) as { title: string };
  let broken = true;
  // A made-up fault: the outlets answer with what no station can show.
  await page.route('**/api/titles/*/outlets', (route) =>
    broken ? route.fulfill({ json: { accounts: null, day: 0 } }) : route.continue(),
  );
  await page.goto(`${address()}/titles/${title}/outlets`);
  await page.getByText(/can’t be shown because of an error in Pagina. Your work is safe/).waitFor();
  await page.getByRole('link', { name: 'Running order' }).waitFor();
  broken = false;
  await page.getByRole('button', { name: 'Show it again' }).click();
  await page.getByRole('button', { name: /Send the ebook/ }).waitFor();
  await page.getByRole('link', { name: /^Record/ }).click();
  await page.getByLabel('Description').waitFor();
  expect(new URL(page.url()).pathname).toBe(`/titles/${title}/record`);
});
