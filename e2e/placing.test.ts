import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import sharp from 'sharp';
import {
  address,
  AxeBuilder,
  bringIn,
  choose,
  connect,
  openBrowser,
  saved,
  serverBook,
  station,
} from './browser';
import { isbn13CheckDigit } from '@pagina/core/record';
import { png, styledManuscript } from '../core/test/fixtures/manuscript';

let browser: Browser;
let page: Page;
let errors: string[];
let id: string;
beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
  id = await bringIn(page, 'Placed.docx', await styledManuscript());
  await station(page, id, 'record');
  await page
    .getByLabel('Description')
    .fill('Mud, carts, and a causeway that was not there the day before. '.repeat(4));
  await page.getByLabel('Keywords').fill('mud, carts, a causeway at low tide');
  await page.getByLabel('List price of the ebook').fill('4.99');
  await page.keyboard.press('Enter');
  await page.setInputFiles('input[aria-label="Cover picture"]', {
    name: 'cover.png',
    mimeType: 'image/png',
    buffer: Buffer.from(png(1000, 2000)),
  });
  await page.getByAltText('The cover').waitFor();
  await saved(page);
});
afterAll(async () => {
  await browser.close();
});
const outlet = (name: string) =>
  page.getByRole('table', { name: 'What outlets ask for' }).getByRole('button', { name, exact: true });
const panel = (name: string) => page.getByRole('region', { name, exact: true });
const tab = (name: string) => page.getByRole('tab', { name, exact: true }).click();

it('shows what every outlet asks for beside the others, and leads to what one lacks', async () => {
  await station(page, id, 'outlets');
  const ledger = page.getByRole('table', { name: 'What outlets ask for' });
  await ledger.getByRole('row', { name: /^Keywords/ }).waitFor();
  expect(await ledger.getByRole('columnheader').count()).toBe(8);
  // Asked for by Marram, and of more words than it takes; not asked for by Shelfmoor.
  const keywords = ledger.locator('tr[data-field="keywords"] td');
  expect((await keywords.nth(1).textContent()) ?? '').toContain('not met');
  expect((await keywords.nth(4).textContent()) ?? '').toContain('not asked');
  await keywords.nth(1).getByRole('button').click();
  await panel('Marram').getByText('“a causeway at low tide” has more than 3 words.').waitFor();
  expect(await new AxeBuilder(page).violations()).toEqual([]);
});

it('gives an outlet a text of its own, which is undone like anything else', async () => {
  await tab('Choices');
  await choose(page.getByRole('combobox', { name: 'Use another text here' }), 'Keywords');
  const own = page.getByLabel('Keywords at Marram');
  await own.fill('mud, carts');
  await own.blur();
  await saved(page);
  const cell = page.locator('tr[data-field="keywords"] td').nth(1);
  await expect.poll(() => cell.textContent()).toContain('✓ met');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(() => cell.textContent()).toContain('not met');
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect.poll(() => cell.textContent()).toContain('✓ met');
  expect(await new AxeBuilder(page).violations()).toEqual([]);
});

it('copies the fields of a copying sheet, ticks them off, and sees when one has changed since', async () => {
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  await tab('Copying sheet');
  const row = (field: string) => page.locator(`li[data-row="${field}"]`);
  await row('authors').getByRole('button', { name: 'Copy Author, 1' }).click();
  await page.getByText('Copied: Author, 1').waitFor();
  const family = await page.evaluate(() => navigator.clipboard.readText());
  await row('authors').getByRole('button', { name: 'Copy Author, 2' }).click();
  await page.getByText('Copied: Author, 2').waitFor();
  const given = await page.evaluate(() => navigator.clipboard.readText());
  await station(page, id, 'record');
  expect(await page.getByLabel('Author', { exact: true }).inputValue()).toBe(`${given} ${family}`);
  await station(page, id, 'outlets');
  await outlet('Marram').click();
  await tab('Copying sheet');
  await row('title').getByRole('checkbox').click();
  await page.getByText(/^1 of \d+ entered/).waitFor();
  await saved(page);
  await page.reload();
  await outlet('Marram').click();
  await tab('Copying sheet');
  await page.getByText(/^1 of \d+ entered/).waitFor();
  expect(await new AxeBuilder(page).violations()).toEqual([]);
  await station(page, id, 'record');
  await page.getByLabel('Title', { exact: true }).fill('The Causeway at Night');
  await page.getByLabel('Title', { exact: true }).blur();
  await saved(page);
  await station(page, id, 'outlets');
  await outlet('Marram').click();
  await tab('Copying sheet');
  await row('title').getByText('changed since it was entered').waitFor();
});

it('makes the cover in the pixels and proportions that an outlet wants, and cuts nothing off', async () => {
  const link = page.locator('li[data-row="cover"]').getByRole('link');
  // Files are named by ISBN there; it assigns one, so that a book without any is named by its title.
  expect(await link.getAttribute('download')).toBe('the-causeway-at-night.jpg');
  const answer = await page.request.get(address() + (await link.getAttribute('href')));
  const cover = sharp(await answer.body());
  const { width, height, format } = await cover.metadata();
  // 2,560 pixels high, and 0.66 of that wide: the picture is 1:2, so that it keeps its edge colour at either side.
  expect([width, height, format]).toEqual([1690, 2560, 'jpeg']);
  // All of it is the grey of the picture: white beside it would be 255.
  const { channels } = await cover.stats();
  for (const { min, max } of channels) {
    expect(min).toBeGreaterThan(80);
    expect(max).toBeLessThan(100);
  }
});

it('takes back what the outlet answered, and gives the edition the ISBN that it assigned', async () => {
  const assigned = page.getByLabel('ISBN that Marram assigned');
  await assigned.fill('979-9-000-00099-0');
  await assigned.blur();
  await page.getByText('The last digit doesn’t match the others').waitFor();
  await assigned.fill('979-9-000-00099-8');
  await assigned.blur();
  await page.getByRole('button', { name: /^Use it for the/ }).click();
  await page.getByLabel('Number at Marram').fill('M-204');
  await page.getByLabel('Number at Marram').blur();
  await page.getByLabel('Link to the book at Marram').fill('marram.example/b/1');
  await page.getByLabel('Link to the book at Marram').blur();
  await page.getByText('An address begins with https://.').waitFor();
  await page.getByLabel('Link to the book at Marram').fill('https://marram.example/b/1');
  await page.getByLabel('Link to the book at Marram').blur();
  await choose(page.getByRole('combobox', { name: 'Status at Marram' }), 'on sale');
  await saved(page);
  const status = page.getByRole('row', { name: /^Status/ }).getByRole('cell');
  await expect.poll(() => status.nth(1).textContent()).toBe('on sale');
  expect(await page.getByRole('checkbox', { name: 'Place this title at Marram' }).first().isChecked()).toBe(
    true,
  );
  expect(await page.locator('li[data-row="cover"]').getByRole('link').getAttribute('download')).toBe(
    '9799000000998.jpg',
  );
  await station(page, id, 'record');
  await page.getByText('9799000000998', { exact: true }).waitFor();
  await page.getByText('Fixed: Marram has the ebook under this number.').waitFor();
});

it('says beside a field of the record what outlets say of it, and takes the record along and back', async () => {
  await station(page, id, 'record');
  await page.locator('[data-asked="title"]').getByText('Asked for by Marram.').waitFor();
  await page.locator('[data-asked="subjects"]').getByText('Marram: The record has no subjects.').waitFor();
  const link = page.getByRole('link', { name: 'ONIX 3.0' });
  const onix = await (await page.request.get(address() + (await link.getAttribute('href')))).text();
  expect(onix).toContain('<TitleText>The Causeway at Night</TitleText>');
  await page.getByLabel('Title', { exact: true }).fill('Something else');
  await page.getByLabel('Title', { exact: true }).blur();
  await saved(page);
  await page.getByRole('button', { name: 'Fill the record from a file or text' }).click();
  const dialog = page.getByRole('dialog', { name: 'Fill the record' });
  await dialog.getByRole('textbox', { name: /^Particulars/ }).fill('It was a dark night.');
  await dialog.getByRole('button', { name: 'Read it' }).click();
  await dialog.getByText('Nothing here says what a record keeps.').waitFor();
  await page.setInputFiles('input[aria-label="File with particulars"]', {
    name: 'causeway.xml',
    mimeType: 'application/xml',
    buffer: Buffer.from(onix),
  });
  await dialog.locator('[data-difference="title"]').getByText('Something else').waitFor();
  expect(await new AxeBuilder(page).violations()).toEqual([]);
  await dialog.getByRole('button', { name: /^Fill in/ }).click();
  await expect
    .poll(() => page.getByLabel('Title', { exact: true }).inputValue())
    .toBe('The Causeway at Night');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(() => page.getByLabel('Title', { exact: true }).inputValue()).toBe('Something else');
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect
    .poll(() => page.getByLabel('Title', { exact: true }).inputValue())
    .toBe('The Causeway at Night');
  await saved(page);
});

it('tells what a sale brings by territory, and which rate is better', async () => {
  await station(page, id, 'editions');
  await page.getByRole('button', { name: 'Make the ebook' }).click();
  await page.locator('tr[data-edition="ebook"]').getByRole('link').waitFor({ timeout: 30_000 });
  await station(page, id, 'outlets');
  await tab('Prices');
  await page.getByText('They earn the same for a file of 22.83 MB.').waitFor();
  await page.getByRole('img', { name: /by the size of the file/ }).waitFor();
  const row = page.locator('tr[data-territory="DE"]');
  // £4.99 is 5.74 euros; with 7 % 6.14, and 5.99 is nearest. Without tax 5.60.
  expect(await row.textContent()).toMatch(/Germany.*~€5\.99.*€0\.39/);
  expect(await new AxeBuilder(page).violations()).toEqual([]);
});

it('warns of a shop that is reached twice before anything is sent', async () => {
  await tab('Ledger');
  await page.getByRole('checkbox', { name: 'Place this title at Shelfmoor' }).first().click();
  await page.getByRole('checkbox', { name: 'Place this title at Packstone' }).first().click();
  const conflicts = page.getByRole('list', { name: 'Conflicts between outlets' });
  await conflicts.getByText('Shelfmoor gets the ebook through Packstone and directly.').waitFor();
  await outlet('Packstone').click();
  await tab('Choices');
  await page
    .getByRole('group', { name: 'Shops' })
    .getByRole('checkbox', { name: /Shelfmoor/ })
    .click();
  await conflicts.waitFor({ state: 'detached' });
  await saved(page);
});

it('sends no ebook that is promised to one outlet alone while it goes to others', async () => {
  await connect(page, 'lanternquay');
  await station(page, id, 'outlets');
  await outlet('Lanternquay').click();
  await page.getByRole('checkbox', { name: 'Place this title at Lanternquay' }).last().click();
  await tab('Choices');
  await page.getByRole('checkbox', { name: /^Sold only at Lanternquay/ }).click();
  await saved(page);
  await tab('Asked for');
  await panel('Lanternquay')
    .getByText(/The ebook is exclusive to Lanternquay until .* also placed at Marram/)
    .waitFor();
  expect(await page.getByRole('button', { name: 'Send the ebook to Lanternquay' }).isDisabled()).toBe(true);
  const refused = await page.evaluate(async (path) => {
    const body = JSON.stringify({ outlet: 'lanternquay', edition: 'ebook', unsigned: true });
    const r = await fetch(path, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body });
    return `${r.status} ${await r.text()}`;
  }, `/api/titles/${id}/outlets`);
  expect(refused).toMatch(/^409 .*exclusive to Lanternquay/);
  await tab('Choices');
  await page.getByRole('checkbox', { name: /^Sold only at Lanternquay/ }).click();
  await page.getByRole('list', { name: 'Conflicts between outlets' }).waitFor({ state: 'detached' });
  await saved(page);
});

it('keeps the imprint’s accounts, rates and taxes, and outlets of one’s own', async () => {
  await page.goto(`${address()}/imprint`);
  const account = page.locator('tr[data-account="marram"]');
  await account.getByRole('checkbox', { name: 'Marram has the payment details' }).click();
  await account.getByRole('checkbox', { name: 'Marram has the address' }).click();
  await account.getByText('✓ ready').waitFor();
  await page.getByLabel('Tax on ebooks in Germany').fill('19');
  await page.getByLabel('Tax on ebooks in Germany').blur();
  await page.getByRole('button', { name: 'Use the default for Germany' }).waitFor();
  await page.setInputFiles('input[aria-label="Table of rates"]', {
    name: 'rates.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('date,2026-11-27\nbase,EUR\nGBP,0.80\nUSD,1.10\n'),
  });
  await page.getByText('Rates of 2026-11-27').waitFor();
  await page.setInputFiles('input[aria-label="Table of rates"]', {
    name: 'poem.txt',
    mimeType: 'text/plain',
    buffer: Buffer.from('Shall I compare thee'),
  });
  await page.getByText('The file has no rates').waitFor();
  expect(await new AxeBuilder(page).violations()).toEqual([]);
  await page.getByRole('button', { name: 'Add an outlet' }).click();
  const dialog = page.getByRole('dialog', { name: 'Add an outlet' });
  await dialog.getByLabel('Name', { exact: true }).fill('Marram');
  await dialog.getByRole('button', { name: 'Save' }).click();
  await page.getByText('There is an outlet called Marram already.').waitFor();
  await dialog.getByLabel('Name', { exact: true }).fill('Corner Shelf');
  await dialog.getByLabel('Keywords, keywords at most').fill('2');
  await dialog.getByLabel('Keywords, keywords at most').blur();
  // Its fields come in the order of its own pages, and under its own names.
  await dialog.getByLabel('Keywords is called there').fill('Labels');
  await dialog.getByRole('button', { name: 'Move Keywords', exact: true }).focus();
  await page.keyboard.press('Space');
  await page.waitForTimeout(300);
  for (let up = 0; up < 4; up++) {
    await page.keyboard.press('ArrowUp');
    await page.waitForTimeout(300);
  }
  await page.keyboard.press('Space');
  await expect
    .poll(() => dialog.locator('[data-asked-field]').first().getAttribute('data-asked-field'))
    .toBe('keywords');
  expect(await new AxeBuilder(page).violations()).toEqual([]);
  await dialog.getByRole('button', { name: 'Save' }).click();
  await page.getByText('takes an ebook, asks for 11 things').waitFor();
  await station(page, id, 'outlets');
  await outlet('Corner Shelf').click();
  await tab('Copying sheet');
  await page.locator('li[data-row="keywords"]').getByText('only 2 are accepted').waitFor();
  await page.locator('li[data-row="keywords"]').getByText('Labels').first().waitFor();
  expect(await page.locator('li[data-row]').first().getAttribute('data-row')).toBe('keywords');
  await tab('Prices');
  // With 19 %, £4.99 is 6.2375 euros without tax, 7.42 with it: 6.99 or 7.99, and 6.99 is nearer.
  await expect.poll(() => page.locator('tr[data-territory="DE"]').textContent()).toContain('~€6.99');
});

it('begins new titles with the house, offers it to others, and measures in its units', async () => {
  await page.goto(`${address()}/imprint`);
  const house = page.getByRole('region', { name: 'The house' });
  for (const [label, value] of [
    ['Name', 'Tidewrack Press'],
    ['Place', 'Pellmouth'],
    ['Web address', 'https://tidewrack.example'],
  ] as const) {
    await house.getByLabel(label).fill(value);
    await house.getByLabel(label).blur();
  }
  await page.setInputFiles('input[aria-label="Picture of the device"]', {
    name: 'device.png',
    mimeType: 'image/png',
    buffer: Buffer.from(png(60, 80)),
  });
  await page.getByAltText('The device of the house').waitFor();
  await page.setInputFiles('input[aria-label="Picture of the device"]', {
    name: 'poem.png',
    mimeType: 'image/png',
    buffer: Buffer.from('Shall I compare thee'),
  });
  await page.getByText('This isn’t a picture that can be opened').waitFor();
  await choose(house.getByRole('combobox', { name: 'Lengths are shown in' }), 'Inches');
  expect(await new AxeBuilder(page).violations()).toEqual([]);
  const made = await page.request.post(`${address()}/api/titles`, { data: { title: 'Of the House' } });
  const { title } = (await made.json()) as { title: string };
  const { book } = await serverBook(title);
  expect(book.record).toMatchObject({
    imprint: 'Tidewrack Press',
    place: 'Pellmouth',
    web: 'https://tidewrack.example',
  });
  expect(book.pictures.find((p) => p.id === book.cover.device)).toMatchObject({
    width: 60,
    height: 80,
  });
  await station(page, id, 'record');
  await page.getByRole('button', { name: 'Fill in from Imprint' }).click();
  await page.getByRole('button', { name: 'Fill in from Imprint' }).waitFor({ state: 'detached' });
  await expect.poll(() => page.getByLabel('Place').inputValue()).toBe('Pellmouth');
  // Titles of other tests begin with no house.
  const none = { name: '', place: '', web: '', device: null };
  for (const data of [
    { set: 'house', house: none },
    { set: 'units', units: 'trim' },
  ])
    expect((await page.request.put(`${address()}/api/imprint`, { data })).status()).toBe(200);
});

it('gives an edition the next number of the block, which no other gets, and fixes it once an outlet has the book', async () => {
  await page.goto(`${address()}/imprint`);
  const digit = isbn13CheckDigit('979900000200');
  await page.getByLabel('First number of a block').fill(`979-9-000-00200-${(digit + 1) % 10}`);
  await page.getByRole('button', { name: 'Add them' }).click();
  await page.getByText('The first number is no ISBN').waitFor();
  await page.getByLabel('First number of a block').fill(`979-9-000-00200-${digit}`);
  await page.getByRole('button', { name: 'Add them' }).click();
  await page.getByText('10 of 10 free').waitFor();
  const next = `979900000200${digit}`;
  await station(page, id, 'record');
  await page.getByRole('button', { name: 'Assign the next ISBN' }).click();
  await expect.poll(() => page.getByLabel('ISBN of the paperback').inputValue()).toBe(next);
  // Marram has the ebook.
  await page.getByText('Fixed: Marram has the ebook under this number.').waitFor();
  await page.goto(`${address()}/imprint`);
  await page.getByText('9 of 10 free').waitFor();
  await page.getByRole('button', { name: /^All numbers/ }).click();
  expect(await page.locator(`tr[data-isbn="${next}"]`).textContent()).toContain(
    'The Causeway at Night, Paperback',
  );
  expect(await new AxeBuilder(page).violations()).toEqual([]);
  expect(errors).toEqual([]);
});
