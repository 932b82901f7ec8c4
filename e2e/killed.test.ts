/** The server is killed while somebody types: what was typed is there when it is up again. */
import { readdirSync, readFileSync } from 'node:fs';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import { openBrowser } from './browser';
import { startApp, type App } from './setup';

let app: App;
let browser: Browser;
let page: Page;
beforeAll(async () => {
  app = await startApp();
  ({ browser, page } = await openBrowser());
}, 90_000);
afterAll(async () => {
  await browser?.close();
  await app?.stop();
});

/** Process ids of the web server that answers on the port. */
const servers = (port: number): number[] =>
  readdirSync('/proc')
    .filter((p) => /^\d+$/.test(p))
    .filter((p) => {
      try {
        const has = (file: string, words: string): boolean =>
          readFileSync(`/proc/${p}/${file}`, 'latin1').includes(words);
        return has('cmdline', 'next-server') && has('environ', `PORT=${port}\0`);
      } catch {
        return false;
      }
    })
    .map(Number);

it('loses no word', async () => {
  const created = await fetch(`${app.address}/api/titles`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ title: 'Killed' }),
  });
  const { title } = (await created.json()) as { title: string };
  await page.goto(`${app.address}/titles/${title}/manuscript`);
  await page.locator('[data-section="s4"]').scrollIntoViewIfNeeded();
  await page.getByRole('textbox', { name: 'Chapter One' }).click();
  await page.keyboard.type('Before the fall. ', { delay: 20 });
  await page.waitForSelector('[data-saving="saved"]');
  await page.keyboard.type('During it, ', { delay: 5 });
  const before = servers(app.port);
  expect(before.length).toBeGreaterThan(0);
  for (const pid of before) process.kill(pid, 'SIGKILL');
  await page.keyboard.type('and while nobody answered. ', { delay: 20 });
  const kept = async (): Promise<string> => {
    try {
      return await (await fetch(`${app.address}/api/titles/${title}`)).text();
    } catch {
      return '';
    }
  };
  await expect
    .poll(kept, { timeout: 60_000, interval: 500 })
    .toContain('Before the fall. During it, and while nobody answered. ');
  expect(servers(app.port)).not.toEqual(before);
}, 120_000);
