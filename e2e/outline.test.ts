/** Where one is in a long book: the outline beside the text, few bars above it, and pages with the whole window. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import { AxeBuilder, bringIn, openBrowser, station } from './browser';

let browser: Browser;
let page: Page;
let errors: string[];
let id: string;
const chapter = (n: number): string =>
  `# Chapter ${n}: The ${n}th Tide\n\n${'The tide went out over the flats. '.repeat(60)}\n\n## Low Water ${n}\n\n${'It came in again. '.repeat(80)}\n`;
beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
  id = await bringIn(page, 'Long.md', new TextEncoder().encode([1, 2, 3, 4, 5, 6].map(chapter).join('\n')));
});
afterAll(async () => {
  await browser.close();
});
const here = () => page.locator('[aria-current="location"]').innerText();

describe('the outline of the manuscript', () => {
  it('lists sections and subheads, says where one reads, and goes where one clicks', async () => {
    await station(page, id, 'manuscript');
    await page.getByRole('button', { name: 'Outline' }).click();
    const outline = page.getByLabel('Outline', { exact: true });
    await expect.poll(() => outline.getByRole('listitem').count()).toBe(12);
    await expect.poll(here).toContain('Chapter One');
    await outline.getByRole('button', { name: 'Low Water 5' }).click();
    await expect.poll(here).toMatch(/Low Water 5|The 5th Tide/);
    await page.getByRole('region', { name: 'Text of the book' }).evaluate((e) => e.scrollTo(0, 0));
    await expect.poll(here).toContain('Chapter One');
    // With the end of one chapter and the beginning of the next in sight, it is the one with the cursor.
    await outline.getByRole('button', { name: 'The 2th Tide' }).click();
    await expect.poll(here).toContain('Chapter Two');
    await page.getByRole('region', { name: 'Text of the book' }).evaluate((e) => e.scrollBy(0, -300));
    await page.getByRole('textbox', { name: 'The 2th Tide' }).locator('p').first().click();
    await expect.poll(here).toContain('Chapter Two');
    expect(await new AxeBuilder(page).violations()).toEqual([]);
  });
  it.each([
    [1280, 800],
    [1024, 768],
  ])(
    'every control can be reached at %i × %i, and at most two bars stand above the text',
    async (width, height) => {
      await page.setViewportSize({ width, height });
      await station(page, id, 'manuscript');
      const text = await page.getByRole('region', { name: 'Text of the book' }).boundingBox();
      expect(text!.y).toBeLessThan(width < 1200 ? 130 : 90);
      const outside = await page.evaluate(() =>
        [...document.querySelectorAll('header button, header a, [role="toolbar"] button, [role="combobox"]')]
          .map((e) => ({ name: e.textContent, box: e.getBoundingClientRect() }))
          .filter(({ box }) => box.width > 0 && (box.left < 0 || box.right > innerWidth || box.top < 0))
          .map(({ name }) => name),
      );
      expect(outside).toEqual([]);
    },
  );
});

describe('the proof', () => {
  it('gives the pages the whole window while one reads', async () => {
    await page.setViewportSize({ width: 1280, height: 800 });
    await station(page, id, 'proof');
    const pages = page.locator('[data-page]');
    await pages.first().waitFor();
    const before = (await pages.first().boundingBox())!.height;
    await page.getByRole('button', { name: 'Read', exact: true }).click();
    await expect.poll(async () => (await pages.first().boundingBox())!.height).toBeGreaterThan(before * 1.2);
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Escape');
    await expect
      .poll(async () => Math.round((await pages.first().boundingBox())!.height))
      .toBe(Math.round(before));
    expect(errors).toEqual([]);
  });
});
