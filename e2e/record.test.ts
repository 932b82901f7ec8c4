/** The record on its sheet: people, series, subjects, rights; wrong entries told of; undone; and read in the ebook. */
import { unzipSync } from 'fflate';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import { address, AxeBuilder, bringIn, choose, openBrowser, saved, serverBook, station } from './browser';

let browser: Browser;
let page: Page;
let errors: string[];
let id: string;
beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
  id = await bringIn(
    page,
    'Weirs.md',
    new TextEncoder().encode('# Chapter 1: Weirs\n\nThe water stood at the weir.\n'),
  );
});
afterAll(async () => {
  await browser.close();
});
const record = async () => (await serverBook(id)).book.record;
/** A field's name is followed by what is said about it. */
const field = (label: string) => page.getByLabel(new RegExp(`^${label}`)).first();
async function fill(label: string, text: string): Promise<void> {
  await field(label).fill(text);
  await field(label).blur();
  await saved(page);
}

it('keeps people with what they did, and the book’s place in a series', async () => {
  await station(page, id, 'record');
  await fill('Title', 'Weirs');
  await fill('Author', 'Ines Calloway');
  await fill('Sort name of Ines Calloway', 'Calloway, I.');
  await fill('Name of another contributor', 'Ilse Hartmoor');
  await choose(page.getByRole('combobox', { name: 'What Ilse Hartmoor did' }), 'Designer of the interior');
  await fill('Series', 'The Estuary Books');
  await fill('Volume', 'Book 2');
  await page.getByText('The volume is “Book 2”.').first().waitFor();
  await fill('Volume', '2');
  await expect.poll(() => page.getByText('The volume is').count()).toBe(0);
  expect(await record()).toMatchObject({
    series: 'The Estuary Books',
    volume: '2',
    contributors: [
      { name: 'Ines Calloway', role: 'author', sortName: 'Calloway, I.' },
      { name: 'Ilse Hartmoor', role: 'interior' },
    ],
  });
  expect(await new AxeBuilder(page).violations()).toEqual([]);
});

it('takes subjects by name or by code, the main one first, and says what is no code', async () => {
  await page.getByRole('combobox', { name: 'Add a subject' }).click();
  await page.getByPlaceholder('Type a part of the name').fill('sea stor');
  await page.getByRole('option', { name: /FJN/ }).click();
  await fill('Code of a subject', 'fvz');
  await page.getByText('within Historical fiction').waitFor();
  await page.getByRole('button', { name: 'Put FVZ first' }).click();
  await saved(page);
  expect((await record()).subjects).toEqual(['FVZ', 'FJN']);
  await fill('Code of a subject', '12');
  await page.getByText('“12” isn’t a code of Thema').waitFor();
  await page.getByRole('button', { name: 'Remove FVZ' }).click();
  await saved(page);
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click();
  await expect.poll(async () => (await record()).subjects).toEqual(['FVZ', 'FJN']);
});

it('keeps where it may be sold, for whom, and when', async () => {
  await page.getByRole('checkbox', { name: /^In the whole world/ }).click();
  await choose(page.getByRole('combobox', { name: 'Add a country' }), 'Ireland');
  await choose(page.getByRole('combobox', { name: 'Audience' }), 'Young adults');
  await fill('From age', '14');
  await fill('To age', 'ten');
  expect(await field('To age').getAttribute('aria-invalid')).toBe('true');
  await fill('To age', '12');
  await page.getByText('The readers’ ages run from 14 to 12.').first().waitFor();
  await fill('To age', '17');
  await fill('Day of publication', '2026-11-30');
  await fill('Keywords', 'weirs, submarines');
  await page.getByText('No word of the keyword “submarines” is found').first().waitFor();
  expect(await record()).toMatchObject({
    territories: ['IE'],
    audience: 'young-adult',
    ages: { from: 14, to: 17 },
    published: '2026-11-30',
    keywords: ['weirs', 'submarines'],
  });
  expect(await new AxeBuilder(page).violations()).toEqual([]);
});

it('is what the ebook says of itself', async () => {
  await station(page, id, 'editions');
  await page.getByRole('button', { name: 'Make the ebook' }).click();
  const file = page.locator('tr[data-edition="ebook"]').getByRole('link');
  await file.waitFor({ timeout: 30_000 });
  const bytes = await (await page.request.get(address() + (await file.getAttribute('href')))).body();
  const parts = unzipSync(new Uint8Array(bytes));
  const opf = new TextDecoder().decode(Object.entries(parts).find(([n]) => n.endsWith('.opf'))![1]);
  for (const said of ['The Estuary Books', '>2</meta>', 'FJN', 'Calloway, I.', '>bkd</meta>', '2026-11-30'])
    expect(opf).toContain(said);
  expect(errors).toEqual([]);
});

it('knows its people in the next title, and tells their life alike in both by one press', async () => {
  await station(page, id, 'record');
  const [author] = (await serverBook(id)).book.record.contributors as { name: string }[];
  await fill(`Biography of ${author!.name}`, 'She lives where the river ends.');
  await saved(page);
  const second = await page.request.post(`${address()}/api/titles`, { data: { title: 'A Second Book' } });
  const { title: other } = (await second.json()) as { title: string };
  await station(page, other, 'record');
  await page.locator(`datalist option[value="${author!.name}"]`).first().waitFor({ state: 'attached' });
  await fill('Author', author!.name);
  await expect
    .poll(() => field(`Biography of ${author!.name}`).inputValue())
    .toBe('She lives where the river ends.');
  await fill(`Biography of ${author!.name}`, 'She moved inland.');
  await saved(page);
  const share = page.getByRole('button', {
    name: new RegExp(`^Use this biography in the .* by ${author!.name} too`),
  });
  await share.click();
  await share.waitFor({ state: 'detached' });
  const lives = async (of: string): Promise<string[]> =>
    ((await serverBook(of)).book.record.contributors as { life: string }[]).map((c) => c.life);
  expect((await lives(id))[0]).toBe('She moved inland.');
  expect(await new AxeBuilder(page).violations()).toEqual([]);
});
