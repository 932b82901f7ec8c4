/** Ctrl+K goes anywhere, "?" lists the shortcuts, and the next thing to do is a link. */
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import { AxeBuilder, bringIn, openBrowser } from './browser';
import { styledManuscript } from '../core/test/fixtures/manuscript';

let browser: Browser;
let page: Page;
let errors: string[];
beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
  await bringIn(page, 'Palette.docx', await styledManuscript());
});
afterAll(async () => {
  await browser.close();
});

it('goes to a station and to a section by a part of its name', async () => {
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('A section, a station or an action').fill('desi');
  await page.keyboard.press('Enter');
  await page.waitForURL(/\/design$/);
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('A section, a station or an action').fill('carts');
  expect(await new AxeBuilder(page).violations()).toEqual([]);
  await page.keyboard.press('Enter');
  await page.waitForURL(/\/manuscript$/);
  await page.getByRole('textbox', { name: /The Carts/ }).waitFor();
});
it('says when nothing matches, and closes with Escape', async () => {
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('A section, a station or an action').fill('zzzz');
  await page.getByText('No matches.').waitFor();
  await page.keyboard.press('Escape');
  await page.getByText('No matches.').waitFor({ state: 'detached' });
});
it('lists the shortcuts, but not while somebody types', async () => {
  await page.getByRole('link', { name: 'Record' }).click();
  await page.getByLabel('Description').fill('');
  await page.getByLabel('Description').press('?');
  await expect.poll(() => page.getByRole('dialog').count()).toBe(0);
  await page.getByLabel('Description').blur();
  await page.keyboard.press('?');
  await page.getByRole('dialog', { name: 'Keyboard shortcuts' }).waitFor();
  expect(await new AxeBuilder(page).violations()).toEqual([]);
  await page.keyboard.press('Escape');
});
it('leads to the next thing to do', async () => {
  const next = page.locator('[aria-label="The book, page by page"] a').first();
  const words = await next.textContent();
  expect(words!.length).toBeGreaterThan(10);
  await next.click();
  await page.waitForURL(/\/(order|manuscript|design|record|proof)$/);
  expect(errors).toEqual([]);
});
