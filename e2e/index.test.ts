/** The index worked on: words marked all at once, entries renamed and led to others. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import { AxeBuilder, bringIn, openBrowser, saved, serverBook, station } from './browser';

let browser: Browser;
let page: Page;
let errors: string[];
let id: string;
const TEXT = `# Chapter 1: Of Gates

It opens with a gate. ${'The water stood at the gate and waited. '.repeat(30)}

A sluice is no gate; the Gate of the town is one.

# Chapter 2: Of Sluices

${'A sluice lets water by. '.repeat(12)}

# Index
`;
beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
  id = await bringIn(page, 'Gates.md', new TextEncoder().encode(TEXT));
});
afterAll(async () => {
  await browser.close();
});
const pane = () => page.getByRole('complementary', { name: 'Index' });
const terms = async (): Promise<string[]> => {
  const found = JSON.stringify((await serverBook(id)).book.sections.map((s) => s.content));
  return [...found.matchAll(/"type":"indexed","attrs":\{"term":"([^"]*)"/g)].map((m) => m[1] as string);
};

describe('the index', () => {
  it('takes every occurrence of some words, but those that are left out', async () => {
    await station(page, id, 'manuscript');
    await page.getByRole('button', { name: 'Index', exact: true }).click();
    await pane().getByText('The index is empty.').waitFor();
    await pane().getByRole('button', { name: 'Add occurrences' }).click();
    await pane().getByLabel('Words to look for').fill('sluice');
    await pane().getByLabel('Entry').fill('sluices');
    await pane().getByText('13 not in the index yet.').waitFor();
    await pane()
      .getByRole('checkbox', { name: /lets water by/ })
      .last()
      .click();
    expect(await new AxeBuilder(page).violations()).toEqual([]);
    await pane().getByRole('button', { name: 'Add these 12 places' }).click();
    await pane()
      .getByRole('button', { name: /^sluices 12/ })
      .waitFor();
    await saved(page);
    expect((await terms()).filter((t) => t === 'sluices')).toHaveLength(12);
  });
  it('is undone in one step, and done again', async () => {
    await page.getByRole('button', { name: 'Undo', exact: true }).first().click();
    await pane().getByText('The index is empty.').waitFor();
    await page.getByRole('button', { name: 'Redo', exact: true }).click();
    await pane()
      .getByRole('button', { name: /^sluices 12/ })
      .waitFor();
  });
  it('renames an entry, leads it to another, and shows its places in the text', async () => {
    await pane()
      .getByRole('button', { name: /^sluices/ })
      .click();
    const entry = pane().getByLabel('Entry', { exact: true }).last();
    await entry.fill('gates: sluices');
    await entry.press('Enter');
    // The old entry is open under the same word until the new name is saved.
    await pane().getByRole('list', { name: 'Places of gates: sluices' }).waitFor();
    const see = pane().getByLabel('See, or see also');
    await see.fill('weirs; locks');
    await see.press('Enter');
    await pane().getByText('see also locks; weirs').waitFor();
    await pane()
      .getByRole('list', { name: /^Places of/ })
      .getByRole('button')
      .first()
      .click();
    await expect
      .poll(() => page.evaluate(() => [...(CSS.highlights.get('found') ?? [])].map(String).join()))
      .toBe('sluice');
    await saved(page);
    expect(new Set(await terms())).toEqual(new Set(['gates: sluices']));
    expect((await serverBook(id)).book.indexSee).toEqual([
      { term: 'gates: sluices', to: 'weirs' },
      { term: 'gates: sluices', to: 'locks' },
    ]);
  });
  it('loses an entry, and keeps the text', async () => {
    await pane()
      .getByRole('button', { name: /^sluices 12/ })
      .click();
    await pane()
      .getByRole('button', { name: /^sluices 12/ })
      .click();
    await pane().getByRole('button', { name: 'Delete the entry' }).click();
    await pane().getByText('The index is empty.').waitFor();
    await page.getByText('A sluice is no gate').waitFor();
    expect(errors).toEqual([]);
  });
});
