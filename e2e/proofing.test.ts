/** Reading the proof: pages marked as read by what they show, comments, the sign-off, and what differs from the signed file. */
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import { address, AxeBuilder, bringIn, openBrowser, saved, station, textOf } from './browser';

let browser: Browser;
let page: Page;
let errors: string[];
let id: string;
const SENTENCE = 'The water stood at the weir and waited for the boats to come down from the hills. ';
const TEXT = ['Weirs', 'Locks', 'Mills']
  .map(
    (t, i) =>
      `# Chapter ${i + 1}: ${t}\n\n${Array.from({ length: 8 }, (_, k) => `${t} ${k}. ${SENTENCE.repeat(5)}`).join('\n\n')}\n`,
  )
  .join('\n');

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

const progress = () =>
  page.getByRole('region', { name: 'Progress' }).or(page.locator('section[aria-label="Progress"]'));
const proof = async (): Promise<void> => {
  await station(page, id, 'proof');
  await page.waitForSelector('figure[data-page] canvas[data-drawn]');
};
const open = (name: string) => page.getByRole('button', { name, exact: true }).click();
const summary = () => page.locator('section[aria-label="Changes"]').getByRole('status');

it('marks the pages that are shown as read and turns to the next, by a key too', async () => {
  await proof();
  await open('Sign-off');
  await progress()
    .getByText(/^0 of \d+ pages read/)
    .waitFor();
  await open('Mark as read');
  await progress()
    .getByText(/^1 of \d+ pages read/)
    .waitFor();
  await page.locator('figure[data-page="1"]').waitFor();
  await page.locator('figure[data-page="1"]').click();
  await page.keyboard.press('m');
  await progress()
    .getByText(/^3 of \d+ pages read/)
    .waitFor();
  // Read pages stay read over a reload, and can be unread again.
  await page.keyboard.press('ArrowLeft');
  await open('Marked as read');
  await progress()
    .getByText(/^1 of \d+ pages read/)
    .waitFor();
  await page.reload();
  await proof();
  await open('Sign-off');
  await progress()
    .getByText(/^1 of \d+ pages read/)
    .waitFor();
  await page.getByRole('radio', { name: 'All pages' }).click();
  await page.getByText('unread').first().waitFor();
  await open('Next unread page');
  expect(await page.locator('figure[data-page]').first().getAttribute('data-page')).toBe('1');
});

it('refuses a sign-off while something stands in its way, and says all of it', async () => {
  const obstacle = (kind: string) => page.locator(`[data-obstacle="${kind}"]`);
  await obstacle('not made').waitFor();
  expect(await page.getByRole('button', { name: 'Sign off the paperback' }).isDisabled()).toBe(true);
  await open('Make the paperback');
  await obstacle('unread').waitFor({ timeout: 30_000 });
  await open('Comments');
  await page.locator('figure[data-page="1"] [data-text] span').first().click();
  await page.getByLabel('New comment').fill('Is this the right year?');
  // What is being written outlives a reload.
  await page.reload();
  await proof();
  await open('Comments');
  expect(await page.getByLabel('New comment').inputValue()).toBe('Is this the right year?');
  await open('Add');
  await page.locator('[data-comment="open"]').getByText('Is this the right year?').waitFor();
  expect(await page.getByLabel('New comment').inputValue()).toBe('');
  await open('Sign-off');
  await obstacle('comments').waitFor();
  // The server refuses too, whatever a page may ask.
  const products = (await (await page.request.get(`${address()}/api/titles/${id}`)).json()) as {
    products: { id: string; sha256: string; revision: number }[];
  };
  const refused = await page.request.post(`${address()}/api/titles/${id}/proof/sign-offs`, {
    data: { product: products.products[0]!.id },
    headers: { Origin: address() },
  });
  expect([refused.status(), await refused.text()]).toEqual([
    409,
    expect.stringContaining('1 comment is still open'),
  ]);
  await page.getByRole('button', { name: 'Comments, 1' }).click();
  await open('Answer');
  await page.getByLabel('Answer', { exact: true }).fill('It is.');
  await page.locator('[data-comment="open"]').getByRole('button', { name: 'Answer', exact: true }).click();
  await page.locator('[data-comment="open"]').getByText('It is.').waitFor();
  await open('Close comment');
  await page.getByRole('button', { name: 'Closed, 1' }).waitFor();
  expect(await new AxeBuilder(page).violations()).toEqual([]);
});

it('signs off the file whose every page was read', async () => {
  await open('Sign-off');
  await open('Mark all as read');
  await page.getByText('All pages marked as read.').waitFor();
  await open('Sign off the paperback');
  const signed = page.locator('[data-signed="current"]');
  await signed.waitFor();
  expect(await signed.textContent()).toMatch(
    /✓ Signed off .*By the author: \d+ pages, revision \d+, engine version \d+, SHA-256 [0-9a-f]{12}/,
  );
  expect(await summary().textContent()).toBe('Nothing has changed.');
  expect(await new AxeBuilder(page).violations()).toEqual([]);
});

it('shows after a change which pages differ from the signed file, old beside new, with their lines marked', async () => {
  await station(page, id, 'manuscript');
  const text = await textOf(page, 'Locks');
  await text.locator('p').nth(2).click();
  await page.keyboard.press('End');
  await page.keyboard.type(' A heron flew over the lower gate.');
  await saved(page);
  await proof();
  await open('Sign-off');
  await expect.poll(() => summary().textContent()).toMatch(/^[12] pages? changed, from page \d+/);
  await page.locator('[data-signed="earlier"]').waitFor();
  const before = await progress().textContent();
  const [, read, all] = /^(\d+) of (\d+)/.exec(before ?? '') ?? [];
  // As many wait to be read as have changed.
  expect(Number(all) - Number(read)).toBe(Number.parseInt((await summary().textContent()) ?? ''));
  await page.getByRole('list', { name: 'What changed' }).getByRole('button').first().click();
  await page.locator('[data-in-file] canvas[data-drawn]').waitFor({ timeout: 20_000 });
  await page.locator('[data-overlay="came"]').first().waitFor();
  // What went is read out too: the paragraph’s last lines in the signed file.
  expect(await page.getByRole('list', { name: 'Lines that are different now' }).textContent()).toContain(
    'hills',
  );
  // The old page was drawn from the signed file: it has ink.
  const ink = await page.locator('[data-in-file] canvas').evaluate((c: HTMLCanvasElement) => {
    const d = c.getContext('2d')!.getImageData(0, 0, c.width, c.height).data;
    let n = 0;
    for (let i = 0; i < d.length; i += 4) if ((d[i] as number) < 110) n++;
    return n / (d.length / 4);
  });
  expect(ink).toBeGreaterThan(0.002);
  expect(await new AxeBuilder(page).violations()).toEqual([]);
  await open('Mark as read');
  await expect.poll(() => progress().textContent()).not.toBe(before);
});

it('lists the lines that another version of the typesetting moved', async () => {
  // The kept impression, as if an older version had set the file.
  const impressions = '**/proof/impressions/*';
  await page.route(impressions, async (route) => {
    const r = await route.fetch();
    await route.fulfill({ response: r, json: { ...((await r.json()) as object), engine: 0 } });
  });
  await page.reload();
  await proof();
  await open('Sign-off');
  await page.getByText('Version 0 of the typesetting engine set the file').waitFor();
  await page.getByRole('button', { name: /^\d+ lines? moved$/ }).click();
  expect(await page.getByRole('list', { name: 'Lines that moved' }).textContent()).toContain(
    'A heron flew over the lower gate',
  );
  await page.unroute(impressions);
  await page.reload();
  await proof();
  await open('Sign-off');
});

it('has every page read again once the change is undone', async () => {
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await saved(page);
  await expect.poll(() => summary().textContent(), { timeout: 15_000 }).toBe('Nothing has changed.');
  await progress().getByText('100 %').waitFor();
  // The same words are other bytes under another date: the file is made again, and then signed.
  await page.getByRole('button', { name: 'Make again' }).click();
  const sign = page.getByRole('button', { name: 'Sign off the paperback' });
  await expect.poll(() => sign.isEnabled(), { timeout: 30_000 }).toBe(true);
  await sign.click();
  await page.waitForSelector('[data-signed="current"]');
  expect(errors).toEqual([]);
});
