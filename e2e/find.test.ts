import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import { AxeBuilder, bringIn, choose, openBrowser, saved, serverBook, station } from './browser';

let browser: Browser;
let page: Page;
let errors: string[];
let id: string;
const TEXT = '# The Boat\n\nA boat came. Another *boat* went.\n\n# The Boats\n\nBoats, and a lifeboat.\n';
beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
  id = await bringIn(page, 'Find.md', new TextEncoder().encode(TEXT));
  await station(page, id, 'manuscript');
});
afterAll(async () => {
  await browser.close();
});
const status = () => page.getByLabel('Find and replace', { exact: true }).getByRole('status');
const texts = async (): Promise<string> =>
  JSON.stringify((await serverBook(id)).book.sections.map((s) => s.content));
const waitText = async (pattern: RegExp): Promise<void> => {
  for (let i = 0; i < 40 && !pattern.test(await texts()); i++) await page.waitForTimeout(100);
  expect(await texts()).toMatch(pattern);
};

describe('find and replace', () => {
  it('opens with Ctrl+F and counts over the whole book', async () => {
    await page.keyboard.press('Control+f');
    await page.getByLabel('Find', { exact: true }).fill('boat');
    await status().getByText('6 places in 2 sections').waitFor();
    await page.getByLabel('Whole words').check();
    await status().getByText('3 places in 1 section').waitFor();
    await choose(page.getByLabel('Where to look'), 'Emphasis');
    await status().getByText('1 place in 1 section').waitFor();
    await choose(page.getByLabel('Where to look'), 'Everywhere');
    // Enter goes from the title to the second place of the text and marks it in the text.
    for (let i = 0; i < 3; i++) await page.getByLabel('Find', { exact: true }).press('Enter');
    await page.waitForFunction(() => {
      const [range] = CSS.highlights.get('found') ?? [];
      return (
        range instanceof Range &&
        range.toString() === 'boat' &&
        range.startContainer.parentElement?.tagName === 'EM'
      );
    });
    expect(await new AxeBuilder(page).violations()).toEqual([]);
  });
  it('replaces one, with its emphasis, and all with one undo', async () => {
    await page.getByLabel('Replace with').fill('ferry');
    await page.locator('[data-found]').nth(2).getByRole('button', { name: 'Replace', exact: true }).click();
    await waitText(/"text":"ferry","marks|"emphasis"\}\],"text":"ferry"/);
    await page.getByLabel('Whole words').uncheck();
    await status().getByText('5 places in 2 sections').waitFor();
    await page.getByRole('button', { name: 'Replace all' }).click();
    await waitText(/A ferry came/);
    await status().getByText('Not found in the book.').waitFor();
    expect(await texts()).toMatch(/ferrys, and a lifeferry/);
    expect((await serverBook(id)).book.sections.map((s) => s.title)).toEqual(['The ferry', 'The ferrys']);
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await waitText(/Boats, and a lifeboat/);
    await saved(page);
  });
  it('takes a pattern with groups, and says what is wrong with one', async () => {
    await page.getByLabel('Regular expression').check();
    await page.getByLabel('Find', { exact: true }).fill('(Boats');
    await status()
      .getByText(/The expression can’t be read/)
      .waitFor();
    await page.getByLabel('Find', { exact: true }).fill('(Boats), and a (\\w+)');
    await page.getByLabel('Replace with').fill('$2, and $1');
    await status().getByText('1 place in 1 section').waitFor();
    await page.getByRole('button', { name: 'Replace all' }).click();
    await waitText(/lifeboat, and Boats/);
    // What would run away in another engine: the page still answers.
    await page.getByLabel('Find', { exact: true }).fill('(\\w+\\s?)+$');
    await page.getByLabel('Find', { exact: true }).fill('(Boat');
    await status()
      .getByText(/missing closing/)
      .waitFor();
    await page.keyboard.press('Escape');
    expect(errors).toEqual([]);
  });

  it('opens at a word that an address asks for, and goes to it', async () => {
    await page.goto(page.url().replace(/\/manuscript.*$/, '/manuscript?find=lifeboat'));
    await status().getByText('1 place in 1 section').waitFor();
    await page.waitForFunction(() => [...(CSS.highlights.get('found') ?? [])].join('') === 'lifeboat');
  });
});
