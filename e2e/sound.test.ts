/** Real use: many windows, typing through Undo, a line that is down, a section that goes while somebody writes in it. */
import { afterAll, beforeAll, beforeEach, expect, it } from 'vitest';
import type { Browser, BrowserContext, Page } from 'playwright-core';
import { address, openBrowser, saved, serverBook, textOf } from './browser';

let browser: Browser;
let context: BrowserContext;
let page: Page;
let title: string;
beforeAll(async () => {
  ({ browser } = await openBrowser());
});
beforeEach(async () => {
  await context?.close();
  context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  page = await context.newPage();
  page.setDefaultTimeout(30_000);
  const created = await fetch(`${address()}/api/titles`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ title: 'Sound' }),
  });
  ({ title } = (await created.json()) as { title: string });
  await open(page);
});
afterAll(async () => {
  await browser?.close();
});
async function open(p: Page): Promise<void> {
  await p.goto(`${address()}/titles/${title}/manuscript`);
  await (await textOf(p, 'Chapter One')).click();
}
const stored = async (): Promise<string> =>
  JSON.stringify((await serverBook(title)).book.sections.at(-1)?.content);
const onScreen = async (p = page): Promise<string> =>
  (await p.getByRole('textbox', { name: 'Chapter One' }).textContent()) ?? '';

it('eight windows of one browser all save, and each shows what the others wrote', async () => {
  const pages = [page];
  while (pages.length < 8) {
    const p = await context.newPage();
    p.setDefaultTimeout(30_000);
    await open(p);
    pages.push(p);
  }
  for (const [i, p] of pages.entries()) {
    await p.getByRole('textbox', { name: 'Chapter One' }).click();
    await p.keyboard.press('Control+End');
    await p.keyboard.type(`w${i} `);
    await saved(p);
  }
  for (let i = 0; i < 8; i++) await expect.poll(stored).toContain(`w${i} `);
  for (const p of pages) for (let i = 0; i < 8; i++) await expect.poll(() => onScreen(p)).toContain(`w${i} `);
}, 120_000);

it('text typed right after Ctrl+Z stays whole', async () => {
  await page.keyboard.type('One ');
  await saved(page);
  // At once: a slow machine would save what is typed letter by letter in several changes.
  await page.keyboard.insertText('two');
  await page.keyboard.press('Control+z');
  await page.keyboard.type('three', { delay: 4 });
  await saved(page);
  await expect.poll(onScreen).toBe('One three');
  expect(await stored()).toContain('One three');
});

it('a long steady spell of typing is saved while it goes on', async () => {
  const typing = page.keyboard.type('steadily '.repeat(14), { delay: 40 });
  await expect.poll(stored, { timeout: 4_000, interval: 100 }).toContain('steadily');
  await typing;
  await saved(page);
});

it('undo in one window leaves what was written in another', async () => {
  const other = await context.newPage();
  await open(other);
  await page.keyboard.type('Mine. ');
  await saved(page);
  await other.getByRole('textbox', { name: 'Chapter One' }).click();
  await other.keyboard.press('Control+End');
  await other.keyboard.type('Theirs.');
  await saved(other);
  await expect.poll(onScreen).toContain('Theirs.');
  await page.bringToFront();
  await page.keyboard.press('Control+z');
  await expect.poll(stored).not.toContain('Mine.');
  expect(await stored()).toContain('Theirs.');
});

it('far more than a page can send as it goes is there after a reload, although the line was down', async () => {
  await context.route('**/api/titles/*/changes', (route) => route.abort());
  await page.evaluate(() => navigator.clipboard).catch(() => undefined);
  const words = 'Nobody could say where the causeway ended. '.repeat(3_000);
  await page.keyboard.insertText(words);
  await page.keyboard.type('The very last words.');
  await page.waitForSelector('[data-saving="offline"]');
  const asked = page.waitForEvent('dialog').then((d) => d.accept());
  await page.reload();
  await asked;
  expect(await stored()).not.toContain('Nobody');
  await context.unroute('**/api/titles/*/changes');
  await page.reload();
  await expect.poll(stored, { timeout: 15_000 }).toContain('The very last words.');
  const text = await stored();
  expect(text.split('Nobody could say').length - 1).toBe(3_000);
  await textOf(page, 'Chapter One');
  await expect.poll(onScreen).toContain('The very last words.');
}, 60_000);

it('words typed in a section that another window deletes are offered and can be restored', async () => {
  const other = await context.newPage();
  await other.goto(`${address()}/titles/${title}/order`);
  await context.route('**/api/titles/*/changes', (route) =>
    route.request().method() === 'POST' && route.request().postData()?.includes('"text"')
      ? route.abort()
      : route.continue(),
  );
  await page.keyboard.type('Do not lose me.');
  const gone = { type: 'remove-section', id: 's4' };
  await fetch(`${address()}/api/titles/${title}/changes`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ base: 0, client: 'other', change: gone }),
  });
  const alert = page.locator('[data-stranded]');
  await alert.waitFor();
  expect(await alert.textContent()).toMatch(/deleted while you were writing in it.*Do not lose me\./s);
  await context.unroute('**/api/titles/*/changes');
  await alert.getByRole('button', { name: 'Restore the section' }).click();
  await expect.poll(stored).toContain('Do not lose me.');
  await alert.waitFor({ state: 'detached' });
  await saved(page);
}, 60_000);
