/** What surrounds the work: panes and the strip at any size, the ledger's own menu, the list of titles, versions by their day. */
import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { address, bringIn, openBrowser, station } from './browser';

let browser: Browser;
let page: Page;
let errors: string[];
let id: string;
const manuscript = ['Ebb', 'Flow', 'Slack']
  .map((name) => `# ${name}\n\n${`The tide came in over the flats at ${name.toLowerCase()}. `.repeat(60)}\n`)
  .join('\n');
beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
  id = await bringIn(page, 'surroundings.md', Buffer.from(manuscript));
});
afterAll(async () => {
  expect(errors).toEqual([]);
  await browser.close();
});
const widthOf = async (name: string): Promise<number> =>
  (await page.locator(`#${name}`).boundingBox())?.width ?? 0;
const heightOf = async (name: string): Promise<number> =>
  (await page.locator(`#${name}`).boundingBox())?.height ?? 0;

describe('a pane beside the work', () => {
  it('is widened by arrow keys, and as wide again after a reload', async () => {
    await station(page, id, 'order');
    const before = await widthOf('beside-particulars');
    await page.getByRole('separator', { name: 'Width of the pane' }).focus();
    await page.keyboard.press('ArrowLeft');
    await expect.poll(() => widthOf('beside-particulars')).toBeGreaterThan(before + 20);
    const wide = await widthOf('beside-particulars');
    await page.reload();
    await expect.poll(async () => Math.abs((await widthOf('beside-particulars')) - wide)).toBeLessThan(3);
  });
});

describe('the strip', () => {
  it('is folded, stays so over a reload, and is unfolded', async () => {
    await station(page, id, 'order');
    await page.getByRole('button', { name: 'Fold', exact: true }).click();
    await expect.poll(() => heightOf('shelf')).toBeLessThan(40);
    await page.reload();
    await page.getByRole('button', { name: 'Unfold the strip' }).waitFor();
    await expect.poll(() => heightOf('shelf')).toBeLessThan(40);
    await page.getByRole('button', { name: 'Unfold the strip' }).click();
    await expect.poll(() => heightOf('shelf')).toBeGreaterThan(100);
  });
  it('is made taller, with larger pages', async () => {
    const width = async (): Promise<number> =>
      (await page.getByRole('button', { name: /^Page 1\b/ }).boundingBox())?.width ?? 0;
    const before = await width();
    await page.getByRole('button', { name: 'Taller' }).click();
    await expect.poll(width).toBeGreaterThan(before * 1.5);
    await page.getByRole('button', { name: 'Lower' }).click();
    await expect.poll(width).toBe(before);
  });
});

describe('the right button in the ledger', () => {
  const row = (name: string) => page.locator('tr[data-section]', { hasText: name });
  it('offers what can be done with the row under it, and does it', async () => {
    await station(page, id, 'order');
    await row('Flow').locator('td').nth(3).click({ button: 'right' });
    await page.getByRole('menuitem', { name: /^Move up/ }).click();
    const order = async (): Promise<boolean> => {
      const titles = await page.locator('tr[data-kind="chapter"]').allTextContents();
      return titles.findIndex((t) => t.includes('Flow')) < titles.findIndex((t) => t.includes('Ebb'));
    };
    await expect.poll(order).toBe(true);
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await expect.poll(order).toBe(false);
  });
  it('keeps the rows that are selected', async () => {
    await row('Ebb').locator('td').nth(3).click();
    await row('Flow')
      .locator('td')
      .nth(3)
      .click({ modifiers: ['Shift'] });
    await row('Flow').locator('td').nth(3).click({ button: 'right' });
    await page.getByRole('menuitem', { name: /^Rename/ }).waitFor();
    expect(await page.getByRole('menuitem', { name: /^Rename/ }).getAttribute('aria-disabled')).toBe('true');
    await page.keyboard.press('Escape');
    await page.getByRole('heading', { name: '2 sections selected' }).waitFor();
  });
  it('leaves the browser’s own menu where a title is typed', async () => {
    await row('Slack').locator('td').nth(3).click();
    await page.keyboard.press('F2');
    const field = page.getByRole('textbox', { name: 'Title', exact: true }).first();
    await field.click({ button: 'right' });
    await expect.poll(() => page.getByRole('menu').count()).toBe(0);
    await field.press('Escape');
  });
});

it('pages turn by PageDown also after a tool was used', async () => {
  await station(page, id, 'proof');
  const shown = (): Promise<string | null> =>
    page.getByLabel('Folio', { exact: true }).getAttribute('placeholder');
  await page.getByRole('button', { name: 'Next', exact: true }).click();
  const first = await shown();
  await page.keyboard.press('PageDown');
  await expect.poll(shown).not.toBe(first);
  await page.keyboard.press('PageUp');
  await expect.poll(shown).toBe(first);
});

it('versions are shown by their day', async () => {
  await station(page, id, 'manuscript');
  await page.getByRole('button', { name: 'Versions' }).click();
  const sittings = page.locator('[data-sitting]');
  await sittings.first().waitFor();
  const all = await sittings.count();
  await page.getByRole('button', { name: /^Day to show/ }).click();
  const days = page.getByRole('gridcell').getByRole('button');
  await expect.poll(() => days.and(page.locator(':enabled')).count()).toBe(1);
  await days.and(page.locator(':enabled')).click();
  await page.getByRole('button', { name: 'All days' }).waitFor();
  await expect.poll(() => sittings.count()).toBe(all);
});

describe('the list of titles', () => {
  it('is searched by title and author, and sorted by its heads', async () => {
    await bringIn(page, 'another.md', Buffer.from('# A Quite Other Book\n\nIt rained.\n'));
    await page.goto(`${address()}/titles`);
    const rows = page.getByRole('table', { name: 'Titles' }).locator('tbody tr');
    await rows.first().waitFor();
    const all = await rows.count();
    await page.getByRole('button', { name: 'Words' }).click();
    const words = (await rows.locator('td:nth-of-type(3)').allTextContents()).map((t) =>
      Number(t.replace(/,/g, '')),
    );
    expect(words).toEqual([...words].sort((a, b) => a - b));
    await page.getByRole('searchbox', { name: 'Find a title' }).fill('no such words');
    await page.getByText('No title or author has “no such words”.').waitFor();
    await page.getByRole('searchbox', { name: 'Find a title' }).fill('');
    await expect.poll(() => rows.count()).toBe(all);
  });
});
