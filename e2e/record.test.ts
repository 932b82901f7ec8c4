/** The record on its sheet: people, series, subjects, rights; wrong entries told of; undone; and read in the ebook. */
import { unzipSync } from 'fflate';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import { png } from '../core/test/fixtures/manuscript';
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

it('has a description with markup, checked for spelling, and seen as an outlet gets it', async () => {
  await station(page, id, 'record');
  const box = page.getByRole('textbox', { name: 'Description', exact: true });
  await box.click();
  await page.keyboard.type('The weir holds the ');
  await page.keyboard.press('Control+b');
  await page.keyboard.type('watter');
  await page.keyboard.press('Control+b');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'List', exact: true }).click();
  await page.keyboard.type('mud');
  await page.keyboard.press('Enter');
  await page.keyboard.type('carts & <reeds>');
  await field('Subtitle').click();
  await saved(page);
  expect((await record()).description).toBe(
    '<p>The weir holds the <strong>watter</strong></p><ul><li>mud</li><li>carts &amp; &lt;reeds&gt;</li></ul>',
  );
  await page.locator('.doubted', { hasText: 'watter' }).waitFor();
  await page.getByRole('button', { name: /^1 word isn’t in the dictionary/ }).click();
  await page.getByRole('button', { name: /^watter/ }).click();
  await page.getByRole('button', { name: 'water', exact: true }).click();
  await expect
    .poll(async () => (await record()).description)
    .toContain('The weir holds the <strong>water</strong>');
  await page.getByRole('button', { name: 'Preview' }).click();
  const preview = page.getByRole('group', { name: 'Preview of the description' });
  await preview.locator('li', { hasText: 'carts & <reeds>' }).waitFor();
  expect(await new AxeBuilder(page).violations()).toEqual([]);
  // Typing is undone in the field first; what was saved, by the book's Undo.
  await box.click();
  await page.keyboard.press('Control+End');
  await page.keyboard.type('xyz');
  await page.keyboard.press('Control+z');
  await field('Subtitle').click();
  await page.waitForTimeout(400);
  expect((await record()).description).not.toContain('xyz');
});

it('takes what was copied from a shop’s page with no more markup than shops accept', async () => {
  const box = page.getByRole('textbox', { name: 'Description', exact: true });
  await box.click();
  await page.keyboard.press('Control+a');
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData(
      'text/html',
      '<h2>Weirs</h2><div style="color:red">A <i>slow</i> book<script>alert(1)</script></div>',
    );
    document.activeElement!.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
    );
  });
  await field('Subtitle').click();
  await saved(page);
  expect((await record()).description).toBe('<p>Weirs</p><p>A <em>slow</em> book</p>');
});

it('names related titles in both records, tells when one doesn’t, and lists them on the page Also by', async () => {
  const titles = (await (await page.request.get(`${address()}/api/titles/${id}/related`)).json()) as {
    titles: { id: string; name: string }[];
  };
  const other = titles.titles.find((t) => t.name === 'A Second Book')!.id;
  await page.reload();
  await page.getByRole('combobox', { name: 'Add a related title' }).click();
  await page.getByPlaceholder('Type a part of the name').fill('A Second Book');
  await page.getByRole('option', { name: /A Second Book/ }).click();
  const row = page.locator(`[data-related="${other}"]`);
  await row.getByText('A Second Book').waitFor();
  const related = async (of: string): Promise<string[]> =>
    ((await serverBook(of)).book.record.related as { title: string; relation: string }[]).map(
      (r) => `${r.title} ${r.relation}`,
    );
  await expect.poll(() => related(other)).toEqual([`${id} same-author`]);
  await choose(row.getByRole('combobox'), 'Replaced by this book');
  await expect.poll(() => related(other)).toEqual([`${id} replaced-by`]);
  await choose(row.getByRole('combobox'), 'By the same author');
  await expect.poll(() => related(other)).toEqual([`${id} same-author`]);
  expect(await new AxeBuilder(page).violations()).toEqual([]);
  // Undone here alone, the other still names this one: either is offered.
  await page.getByRole('button', { name: 'Remove A Second Book' }).click();
  await expect.poll(() => related(other)).toEqual([]);
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click();
  await row.getByText('It doesn’t name this book.').waitFor();
  await row.getByRole('button', { name: 'Name it there' }).click();
  await expect.poll(() => related(other)).toEqual([`${id} same-author`]);
  // The page is made of them.
  await station(page, id, 'order');
  await page.getByText('Also by').first().waitFor();
  expect(errors).toEqual([]);
});

it('shows an author’s portrait, which goes with the biography to the other title', async () => {
  await station(page, id, 'record');
  const [author] = (await record()).contributors as { name: string }[];
  await page.setInputFiles(`input[aria-label="File for: Portrait of ${author!.name}"]`, {
    name: 'portrait.png',
    mimeType: 'image/png',
    buffer: Buffer.from(png(40, 50)),
  });
  const share = page.getByRole('button', {
    name: new RegExp(`^Use this biography and portrait in the .* by ${author!.name} too`),
  });
  await share.click();
  await share.waitFor({ state: 'detached' });
  const titles = (await (await page.request.get(`${address()}/api/titles/${id}/related`)).json()) as {
    titles: { id: string; name: string }[];
  };
  const { book } = await serverBook(titles.titles.find((t) => t.name === 'A Second Book')!.id);
  const [there] = book.record.contributors as { portrait: string | null }[];
  expect(book.pictures.find((p) => p.id === there!.portrait)).toMatchObject({
    width: 40,
    height: 50,
  });
  expect(errors).toEqual([]);
});
