/** The book refers to itself: put in by hand or found in the words, and right when the order changes. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import { AxeBuilder, bringIn, choose, openBrowser, saved, station, textOf } from './browser';

let browser: Browser;
let page: Page;
let errors: string[];
let id: string;
const TEXT = `# Chapter 1: The Boats

As chapter 2 says, boats are kept dry. The rest is told elsewhere

Nothing points here.

# Chapter 2: The Nets

${'The nets hung in the loft over the winter. '.repeat(160)}

Table 4: Nets by the yard

| Net | Yards |
| --- | --- |
| Drift | 90 |

# Chapter 3: The Ropes

Table 5: Ropes by the fathom

| Rope | Fathoms |
| --- | --- |
| Hawser | 100 |
`;
beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
  id = await bringIn(page, 'Boats.md', new TextEncoder().encode(TEXT));
});
afterAll(async () => {
  await browser.close();
});
const bar = () => page.getByRole('group', { name: 'Cross-reference' });
const reference = () => page.locator('.manuscript .reference');

describe('a cross-reference', () => {
  it('is put in at the cursor, to a place found by its name', async () => {
    await station(page, id, 'manuscript');
    const boats = await textOf(page, 'The Boats');
    await boats.getByText('The rest is told elsewhere').click();
    await page.keyboard.press('End');
    await page.keyboard.type(', see ');
    await page.keyboard.press('Control+Alt+r');
    expect(await bar().getByRole('button', { name: 'Insert' }).isDisabled()).toBe(true);
    await choose(bar().getByRole('combobox', { name: 'Place' }), 'The Ropes');
    await expect
      .poll(() => bar().getByRole('combobox', { name: 'What it prints' }).innerText())
      .toContain('chapter\u00a03');
    await bar().getByRole('button', { name: 'Insert' }).click();
    await expect.poll(() => reference().innerText()).toBe('chapter\u00a03');
    await page.keyboard.type('.');
    expect(await new AxeBuilder(page).violations()).toEqual([]);
  });
  it('prints the page instead, as soon as that is chosen', async () => {
    await reference().click();
    const prints = bar().getByRole('combobox', { name: 'What it prints' });
    await prints.click();
    await page.getByRole('option', { name: /\(page\)$/ }).click();
    await expect.poll(() => reference().innerText()).toMatch(/^page\u00a0[5-9]$/);
    await saved(page);
  });
  it('follows its place when the order changes, and comes back by Undo', async () => {
    const before = await reference().innerText();
    await station(page, id, 'order');
    await page.locator('tr[data-section]', { hasText: 'The Ropes' }).click();
    await page.keyboard.press('Alt+ArrowUp');
    await saved(page);
    await station(page, id, 'manuscript');
    await textOf(page, 'The Boats');
    await expect.poll(() => reference().innerText()).not.toBe(before);
    await page.keyboard.press('Control+z');
    await expect.poll(() => reference().innerText()).toBe(before);
  });
  it('becomes plain text again', async () => {
    await reference().click();
    await bar().getByRole('button', { name: 'Make it text' }).click();
    await expect.poll(() => reference().count()).toBe(0);
    await page.getByText(/told elsewhere, see page\u00a0\d+\./).waitFor();
    await page.keyboard.press('Control+z');
    await expect.poll(() => reference().count()).toBe(1);
  });
});

describe('numbers of tables', () => {
  it('stand before captions once they are chosen, and Tidy takes the typed ones out', async () => {
    await station(page, id, 'order');
    const particulars = page.getByRole('button', { name: 'Particulars' });
    if ((await particulars.getAttribute('aria-pressed')) !== 'true') await particulars.click();
    await choose(page.getByRole('combobox', { name: 'Tables' }), 'by chapter: 2.3');
    await saved(page);
    await station(page, id, 'manuscript');
    await textOf(page, 'The Nets');
    const caption = page.locator('.manuscript .table-caption').first();
    await expect.poll(() => caption.locator('.made').innerText()).toMatch(/^Table 2\.1\.\s*$/);
    await page.getByRole('button', { name: 'Tidy', exact: true }).click();
    const typed = page.locator('[data-rule="caption-numbers"]');
    await typed.getByText('2 places').waitFor();
    await typed.getByRole('button', { name: 'Apply all' }).click();
    await expect.poll(() => caption.innerText()).toBe('Table 2.1. Nets by the yard');
  });
  it('and words that refer are offered as references', async () => {
    const found = page.locator('[data-rule="cross-references"]');
    await found.getByText('1 place').waitFor();
    await found.getByRole('button', { expanded: false }).click();
    await found.getByText(/chapter 2\s*to\s*The Nets/).waitFor();
    await found.getByRole('button', { name: 'Apply', exact: true }).click();
    await expect.poll(() => reference().first().innerText()).toBe('chapter\u00a02');
    expect(errors).toEqual([]);
  });
});
