/** Spelling with the book's own words; versions compared and put back. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import { address, AxeBuilder, bringIn, openBrowser, saved, serverBook, station, textOf } from './browser';

let browser: Browser;
let page: Page;
let errors: string[];
let id: string;

beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
  id = await bringIn(
    page,
    'words.md',
    Buffer.from(
      '## Chapter 1: The Boat\n\nThe carters recieved nothing from Pellmouth. They recieved it often.\n\n## Chapter 2: The Tide\n\nIt came twice a day, said the tidewife.\n',
    ),
  );
  await station(page, id, 'manuscript');
});
afterAll(async () => {
  await browser?.close();
  expect(errors).toEqual([]);
});
const all = async (): Promise<string> => JSON.stringify((await serverBook(id)).book);

describe('spelling', () => {
  const word = (w: string) => page.locator(`[data-misspelt="${w}"]`);
  it('lists words that are not known, and replaces one everywhere', async () => {
    await page.getByRole('button', { name: 'Spelling' }).click();
    await word('recieved').getByRole('button').first().click();
    await word('recieved').getByRole('button', { name: 'received', exact: true }).click();
    await word('recieved').waitFor({ state: 'detached' });
    expect((await all()).match(/received/g)?.length).toBe(2);
  });
  it('puts a word of the description right in the record', async () => {
    await station(page, id, 'record');
    await page.getByLabel(/^Description/).fill('A tale of tides, recieved late.');
    await page.getByLabel(/^Description/).blur();
    await saved(page);
    await station(page, id, 'manuscript');
    await page.getByRole('button', { name: 'Spelling' }).click();
    const told = page.locator('[data-description]').locator('[data-misspelt="recieved"]');
    await told.getByRole('button').first().click();
    await told.getByText('A tale of tides').waitFor();
    await told.getByRole('button', { name: 'received', exact: true }).click();
    await told.waitFor({ state: 'detached' });
    await saved(page);
    expect((await serverBook(id)).book.record.description).toBe('A tale of tides, received late.');
  });
  it('learns the book’s own words, over a reload, and unlearns them', async () => {
    await word('tidewife').getByRole('button', { name: 'Add to the book’s words' }).click();
    await word('tidewife').waitFor({ state: 'detached' });
    await page.reload();
    await page.getByRole('button', { name: 'Spelling' }).click();
    await word('Pellmouth').waitFor();
    await expect.poll(() => word('tidewife').count()).toBe(0);
    await page.getByRole('button', { name: /The book’s own words: 1/ }).click();
    await page.getByRole('button', { name: 'Remove tidewife from the book’s own words' }).click();
    await word('tidewife').waitFor();
  });
});

it('has a dictionary for each of eight languages', async () => {
  // Words from memory of the languages; the dictionaries are the registry's, read by Hunspell.
  const table: [language: string, right: string[], wrong: string[]][] = [
    ['en-GB', ['colour', 'harbour’s', 'sea-wall'], ['colur', 'harbuor']],
    ['en-US', ['color', 'don’t'], ['colour', 'collor']],
    ['fr', ['l’eau', 'maison', 'Français'], ['maisson']],
    ['de-AT', ['Häuser', 'Donaudampfschifffahrt'], ['Häusser']],
    ['es', ['niño', 'canción'], ['cancion']],
    ['it', ['perché', 'dell’arte'], ['perchè', 'artte']],
    ['pt', ['coração', 'manhã'], ['coracao']],
    ['nl', ['zonsondergang', 'eiland'], ['eilant']],
  ];
  for (const [language, right, wrong] of table) {
    const r = await fetch(`${address()}/api/spelling`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ language, words: [...right, ...wrong] }),
    });
    expect([language, ((await r.json()) as { wrong: string[] }).wrong]).toEqual([language, wrong]);
  }
  const none = await fetch(`${address()}/api/spelling`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ language: 'xx', words: ['word'] }),
  });
  expect(await none.json()).toEqual({ wrong: null });
});

describe('versions', () => {
  const type = async (heading: string, words: string): Promise<void> => {
    await (await textOf(page, heading)).locator('p').first().click();
    await page.keyboard.press('End');
    await page.keyboard.type(words);
    await saved(page);
  };
  it('are named, compared word by word, and put back by section', async () => {
    await page.getByRole('button', { name: 'Versions' }).click();
    await page.getByLabel('Name of this version').fill('To the editor');
    await page.getByRole('button', { name: 'Name it' }).click();
    await page.locator('[data-version="To the editor"]').waitFor();
    await type('The Boat', ' And so it was.');
    await type('The Tide', ' Or thrice.');
    await page.locator('[data-version="To the editor"] button').first().click();
    await page.locator('[data-differs]').first().locator('button').first().click();
    expect(await page.locator('[data-compared] ins').allTextContents()).toEqual([' And so it was.']);
    await expect.poll(() => page.locator('[data-differs]').count()).toBe(2);
    await page.locator('[data-differs]', { hasText: 'The Tide' }).getByText('2 words in').waitFor();
    expect(await new AxeBuilder(page).violations()).toEqual([]);
    await page.locator('[data-differs]').first().getByRole('button', { name: 'Restore' }).click();
    await expect.poll(() => page.locator('[data-differs]').count()).toBe(1);
    expect(await all()).not.toContain('And so it was');
    expect(await all()).toContain('Or thrice');
  });
  it('put everything back, and that can be undone', async () => {
    await page.getByRole('button', { name: 'All versions' }).click();
    await page.locator('[data-sitting="0"] button').click();
    await page.getByRole('heading', { name: 'At the beginning' }).waitFor();
    await page.locator('[data-differs]').first().waitFor();
    await page.getByRole('button', { name: 'Restore this version' }).click();
    await page.getByText('All sections are the same as now.').waitFor();
    expect(await all()).toContain('recieved');
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await expect.poll(all).toContain('Or thrice');
  });
});
