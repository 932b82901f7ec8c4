/** What is found in a title: one list, by rule, that leads to places, mends, and lets cautions stand with a reason. */
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import { bringIn, openBrowser, saved, serverBook, station, textOf } from './browser';

let browser: Browser;
let page: Page;
let errors: string[];
let id: string;

const CHAPTERS = [
  'The ferry went out, and and Katharine stood on the quay with the lamp until the tide had turned.\n\nThe tea-cup fell.',
  'He went to the the gate and waited. See chapter 31 for that. A teacup, another teacup.\n\n“It was late, she said.',
  'A plain chapter, in which nothing is wrong and nobody comes.',
];
const MANUSCRIPT = `# The Salt Road\n\n${CHAPTERS.map((text, i) => `# Chapter ${i + 1}\n\n${text}\n`).join('\n')}`;

beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
  id = await bringIn(page, 'salt-road.md', new TextEncoder().encode(MANUSCRIPT));
});
afterAll(() => browser.close());

const list = () => page.getByLabel('All findings');
const found = (rule: string) => list().locator(`[data-finding="${rule}"]`);
const radio = (name: RegExp) => page.getByRole('radio', { name });
const textOfBook = async (): Promise<string> => JSON.stringify((await serverBook(id)).book.sections);

it('are listed rule by rule, and filtered by severity and by the station where they are mended', async () => {
  await station(page, id, 'findings');
  await expect.poll(() => found('wording/repeated-word').count()).toBe(2);
  expect(await list().getByRole('heading', { level: 2 }).allTextContents()).toEqual(
    expect.arrayContaining([
      'No author',
      'No copyright page',
      'Repeated word 2',
      'No such place',
      'Unclosed quotation',
    ]),
  );
  expect(await found('reference/no-such-place').textContent()).toContain('The book has no chapter 31.');
  await page.getByRole('combobox', { name: 'Where they are mended' }).click();
  await page.getByRole('option', { name: /^Record/ }).click();
  await expect.poll(() => found('wording/repeated-word').count()).toBe(0);
  await expect.poll(() => found('record/no-author').count()).toBe(1);
  await page.getByRole('combobox', { name: 'Where they are mended' }).click();
  await page.getByRole('option', { name: 'At every station' }).click();
  await radio(/^Notes/).click();
  await expect.poll(() => found('record/no-author').count()).toBe(0);
  await radio(/^All/).click();
});

it('lead to their place, whose words are marked there', async () => {
  await found('wording/repeated-word')
    .nth(1)
    .getByRole('button', { name: /^Chapter Two/ })
    .click();
  await page.waitForURL(/\/manuscript$/);
  const editor = await textOf(page, 'Chapter Two');
  await expect.poll(() => editor.isVisible()).toBe(true);
  const marked = (): Promise<string> =>
    page.evaluate(() => {
      const [range] = [
        ...((CSS as { highlights?: Map<string, Iterable<Range>> }).highlights?.get('found') ?? []),
      ];
      return String(range ?? '');
    });
  await expect.poll(marked).toBe('the the');
  // The margin says it beside the line.
  await expect.poll(() => page.locator('[data-beside]', { hasText: 'is set twice' }).count()).toBe(2);
});

it('are reached from the line under the stations, which leads where it says', async () => {
  const line = page.getByLabel('The book, page by page').getByRole('link');
  await line
    .filter({ hasText: 'The record has no title yet.' })
    .or(line.filter({ hasText: 'The record has no author yet.' }))
    .click();
  await page.waitForURL(/\/record$/);
  await line.filter({ hasText: /^All findings/ }).click();
  await page.waitForURL(/\/findings$/);
  await expect.poll(() => found('wording/repeated-word').count()).toBe(2);
});

it('are mended one by one, and all of a rule, each in one step of Undo', async () => {
  await found('wording/hyphenated-and-not').getByRole('button', { name: 'Spell it “teacup”' }).click();
  await expect.poll(() => found('wording/hyphenated-and-not').count()).toBe(0);
  await page.getByRole('button', { name: 'Mend all 2' }).click();
  await expect.poll(() => found('wording/repeated-word').count()).toBe(0);
  await saved(page);
  expect(await textOfBook()).toContain('He went to the gate and waited.');
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click();
  await expect.poll(() => found('wording/repeated-word').count()).toBe(2);
  await saved(page);
  expect(await textOfBook()).toContain('He went to the the gate and waited.');
  expect(await textOfBook()).not.toContain('tea-cup');
});

it('stand with a reason, which is kept, until they no longer do', async () => {
  const one = found('wording/unclosed-quotation');
  await one.getByRole('button', { name: 'Accept …' }).click();
  const send = page.getByRole('button', { name: 'Accept', exact: true });
  expect(await send.isDisabled()).toBe(true);
  await page.getByLabel('Why it stands').fill('She never finishes a sentence.');
  await send.click();
  await expect.poll(() => one.count()).toBe(0);
  await saved(page);
  await page.reload();
  await expect.poll(() => found('wording/repeated-word').count(), { timeout: 10_000 }).toBe(2);
  await expect.poll(() => one.count()).toBe(0);
  await radio(/^Accepted 1$/).click();
  expect(await one.textContent()).toContain('She never finishes a sentence.');
  await one.getByRole('button', { name: 'Accept no longer' }).click();
  await expect.poll(() => one.count()).toBe(0);
  await radio(/^All/).click();
  await expect.poll(() => one.count()).toBe(1);
  // A blocker is refused by shops whatever its author thinks of it.
  expect(
    await list()
      .locator('[data-finding="record/no-title"]')
      .getByRole('button', { name: 'Accept …' })
      .count(),
  ).toBe(0);
});

it('come and go as one types', async () => {
  await station(page, id, 'manuscript');
  const editor = await textOf(page, 'Chapter Three');
  await editor.click();
  await page.keyboard.press('Control+End');
  await page.keyboard.type(' He waited for for her.');
  const beside = page.locator('[data-beside]', { hasText: '“for” is set twice.' });
  await expect.poll(() => beside.count(), { timeout: 10_000 }).toBe(1);
  for (let i = 0; i < 10; i++) await page.keyboard.press('Backspace');
  await expect.poll(() => beside.count(), { timeout: 10_000 }).toBe(0);
});

it('have raised no error in the page', () => expect(errors).toEqual([]));
