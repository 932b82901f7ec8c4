import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import { AxeBuilder, bringIn, openBrowser, saved, serverBook, station } from './browser';

let browser: Browser;
let page: Page;
let errors: string[];
let id: string;
const TEXT = `# Chapter One

"It's late," she said -- and it was.

The sign said "Ferry"... and no more.

# Chapter Two

"Well  then," he said.
`;
beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
  id = await bringIn(page, 'Tidy.md', new TextEncoder().encode(TEXT));
  await station(page, id, 'manuscript');
});
afterAll(async () => {
  await browser.close();
});
const text = async (): Promise<string> =>
  JSON.stringify((await serverBook(id)).book.sections.map((s) => s.content)).replace(/\\"/g, '"');
const kind = (rule: string) => page.locator(`[data-rule="${rule}"]`);
const waitText = async (pattern: RegExp): Promise<void> => {
  for (let i = 0; i < 40 && !pattern.test(await text()); i++) await page.waitForTimeout(100);
  expect(await text()).toMatch(pattern);
};

describe('tidying', () => {
  it('lists what it would change, by kind, with what stands around it', async () => {
    await page.getByRole('button', { name: 'Tidy', exact: true }).click();
    await kind('quotation-marks').getByText('6 places').waitFor();
    await kind('dashes').getByText('1 place').waitFor();
    await kind('ellipses').getByRole('button', { expanded: false }).click();
    await kind('ellipses')
      .getByText(/said "Ferry"/)
      .first()
      .waitFor();
    expect(await new AxeBuilder(page).violations()).toEqual([]);
  });
  it('makes one, and the text and its list follow', async () => {
    await kind('ellipses').getByRole('button', { name: 'Apply', exact: true }).click();
    await kind('ellipses').waitFor({ state: 'detached' });
    await waitText(/"Ferry"…/);
  });
  it('leaves one, also after a reload', async () => {
    await kind('dashes').getByRole('button', { expanded: false }).click();
    await kind('dashes').getByRole('button', { name: 'Ignore', exact: true }).click();
    await kind('dashes').waitFor({ state: 'detached' });
    await station(page, id, 'manuscript');
    await page.getByRole('button', { name: 'Tidy', exact: true }).click();
    await kind('quotation-marks').waitFor();
    await expect.poll(() => kind('dashes').count()).toBe(0);
  });
  it('makes a kind, then all the rest, and undoes it in one step', async () => {
    await kind('apostrophes').getByRole('button', { name: 'Apply all' }).click();
    await waitText(/It’s late/);
    await page.getByRole('button', { name: /^Apply all \d/ }).click();
    await page.getByText('Nothing is left to tidy.').waitFor();
    await waitText(/“It’s late,” she said -- and/);
    expect(await text()).toContain('“Well then,”');
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await waitText(/"Well /);
    await saved(page);
    expect(errors).toEqual([]);
  });
});

describe('signs as they are typed', () => {
  it('follow the language, and one Backspace puts back what the keys said', async () => {
    await station(page, id, 'manuscript');
    await page.locator('.manuscript .ProseMirror p').last().click();
    await page.keyboard.press('End');
    await page.keyboard.press('Enter');
    await page.keyboard.type('"Wait--"', { delay: 20 });
    await waitText(/“Wait[–—]”/);
    await page.keyboard.press('Backspace');
    await waitText(/“Wait[–—]"/);
    await page.keyboard.press('Backspace');
    await waitText(/“Wait[–—]"?"/);
    await page.keyboard.type(' It was...');
    await waitText(/It was…/);
    await page.keyboard.press('Control+z');
    await saved(page);
    expect(errors).toEqual([]);
  });
});
