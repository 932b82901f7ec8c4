import { unzipSync } from 'fflate';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import {
  address,
  AxeBuilder,
  bringIn,
  choose,
  connect,
  openBrowser,
  saved,
  station,
  textOf,
} from './browser';
import { png, styledManuscript } from '../core/test/fixtures/manuscript';

let browser: Browser;
let page: Page;
let errors: string[];
let id: string;
beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
  id = await bringIn(page, 'Sold.docx', await styledManuscript());
  await connect(page, 'lanternquay');
});
afterAll(async () => {
  await browser.close();
});
const demand = (name: string) => page.locator(`[data-demand="${name}"] td`).first();

it('says what is missing, and leads to where it is put right', async () => {
  await station(page, id, 'outlets');
  expect(await demand('Description').textContent()).toContain('not met');
  expect(await page.getByRole('button', { name: /Send the ebook/ }).isDisabled()).toBe(true);
  await page.locator('[data-demand="Description"] a').click();
  await page.waitForURL(/\/record$/);
  await page.getByLabel('Description').fill('Mud, carts, and a causeway that was not there the day before.');
  await page.getByLabel('List price of the ebook').fill('4.99');
  await page.keyboard.press('Enter');
  await page.setInputFiles('input[aria-label="Cover picture"]', {
    name: 'cover.png',
    mimeType: 'image/png',
    buffer: Buffer.from(png(1600, 2560)),
  });
  await page.getByAltText('The cover').waitFor();
  await saved(page);
  await station(page, id, 'editions');
  await page.getByRole('button', { name: 'Make the ebook' }).click();
  await page.locator('tr[data-edition="ebook"]').getByRole('link').waitFor({ timeout: 30_000 });
});
it('sends the book, and shows it from received to on sale as the shop’s days pass', async () => {
  await station(page, id, 'outlets');
  await page.getByText('isn’t signed off.').waitFor();
  await page.getByRole('button', { name: /Send the ebook/ }).click();
  // Nothing goes unsigned unasked.
  const dialog = page.getByRole('dialog', { name: 'Send a file that isn’t signed off?' });
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  await expect.poll(() => page.locator('[data-listing]').count()).toBe(0);
  await page.getByRole('button', { name: /Send the ebook/ }).click();
  expect(await new AxeBuilder(page).violations()).toEqual([]);
  await dialog.getByRole('button', { name: 'Send it unsigned' }).click();
  await page.waitForSelector('[data-listing="received"]');
  await page.getByRole('button', { name: 'Advance one day' }).click();
  await page.waitForSelector('[data-listing="with the shop"]');
  await page.getByRole('button', { name: 'Advance three days' }).click();
  await page.waitForSelector('[data-listing="on sale"]');
  expect(await page.locator('[data-listing]').textContent()).toMatch(/lanternquay\.example\/book\/lq-\d+/);
  expect(await page.getByRole('button', { name: /^Send the/ }).count()).toBe(0);
  expect(await new AxeBuilder(page).violations()).toEqual([]);
  expect(errors).toEqual([]);
});

it('says where the listing differs from the record, and sends what has changed', async () => {
  await page.getByText('✓ Lanternquay has this file and lists it like the record.').waitFor();
  await station(page, id, 'record');
  await page.getByLabel('List price of the ebook').fill('5.99');
  await page.getByLabel('List price of the ebook').blur();
  await saved(page);
  await station(page, id, 'findings');
  await page.getByText('Lanternquay lists the price “£4.99”; the record has “£5.99”.').waitFor();
  await station(page, id, 'outlets');
  await page.getByText('Changed since: price. Lanternquay takes this over at once').waitFor();
  expect(await new AxeBuilder(page).violations()).toEqual([]);
  await page.getByRole('button', { name: 'Send the changed details to Lanternquay' }).click();
  await page.locator('[data-listing="on sale"]').getByText('Change 1: price. It is shown.').waitFor();
  await page.getByText('✓ Lanternquay has this file and lists it like the record.').waitFor();
  await station(page, id, 'findings');
  await expect.poll(() => page.getByText('Lanternquay lists').count()).toBe(0);
  // What stands in the ebook too goes with a new one.
  await station(page, id, 'record');
  await page.getByLabel('Subtitle').fill('A novel of the tide');
  await page.getByLabel('Subtitle').blur();
  await saved(page);
  await station(page, id, 'outlets');
  await page.getByText('The ebook contains the old subtitle: make it again, then send it.').waitFor();
  expect(await page.getByRole('button', { name: /^Send the/ }).count()).toBe(0);
});

it('leads from the ebook of an outlet to another book there, with the imprint’s code', async () => {
  await station(page, id, 'manuscript');
  const text = await textOf(page, 'The Carts');
  await text
    .getByText('The tide came in')
    .first()
    .dblclick({ position: { x: 60, y: 10 } });
  await page.keyboard.press('Control+l');
  await choose(page.getByLabel('Kind of link'), 'To a book in the shops');
  await page.getByLabel('ISBN of the book').fill('978-92-95055-12-4');
  await page.getByText('Each outlet’s ebook links to the book in that shop.').waitFor();
  await page.getByRole('button', { name: 'Apply' }).click();
  await saved(page);
  await station(page, id, 'outlets');
  await page.locator('[data-demand="Ebook"]').getByText('make the ebook for Lanternquay').waitFor();
  await page.getByLabel(/Affiliate code at Lanternquay/).fill('two words');
  expect(await page.getByRole('button', { name: 'Save', exact: true }).isDisabled()).toBe(true);
  await page.getByLabel(/Affiliate code at Lanternquay/).fill('shingle-7');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await page.getByText('https://lanternquay.example/isbn/9789295055124?by=shingle-7').waitFor();
  await page.locator('[data-demand="Ebook"] a').click();
  await page.getByRole('button', { name: 'Make the ebook for Lanternquay' }).click();
  const file = page.locator('tr[data-edition="ebook/for/lanternquay"]').getByRole('link');
  await file.waitFor({ timeout: 30_000 });
  const bytes = await (await page.request.get(address() + (await file.getAttribute('href')))).body();
  const texts = Object.entries(unzipSync(new Uint8Array(bytes))).filter(([n]) => n.endsWith('.xhtml'));
  expect(texts.some(([, b]) => new TextDecoder().decode(b).includes('9789295055124?by=shingle-7'))).toBe(
    true,
  );
  await station(page, id, 'outlets');
  expect(await demand('Ebook').textContent()).toContain('met');
  // The plain file is signed off; this one differs from it in one address, and goes without a question.
  await page.getByText('isn’t signed off.').waitFor();
  await station(page, id, 'editions');
  await page.locator('tr[data-edition="ebook"]').getByRole('button', { name: 'Make again' }).click();
  await page
    .locator('tr[data-edition="ebook"]')
    .getByText('the book has changed since')
    .waitFor({ state: 'detached' });
  await choose(page.getByRole('combobox', { name: 'Edition' }), 'Ebook');
  await station(page, id, 'proof');
  await page.waitForSelector('[data-ready="true"]');
  await page.getByRole('button', { name: 'Sign-off' }).click();
  await page.getByRole('button', { name: 'Mark all as read' }).click();
  await page.getByRole('button', { name: 'Sign off the ebook' }).click();
  await page.waitForSelector('[data-signed="current"]');
  expect(await new AxeBuilder(page).violations()).toEqual([]);
  await station(page, id, 'outlets');
  await page.getByRole('button', { name: '1 address', exact: true }).click();
  expect(await page.getByRole('list', { name: 'Addresses that differ' }).textContent()).toContain(
    'no link → https://lanternquay.example/isbn/9789295055124?by=shingle-7',
  );
  await page
    .getByText(
      /Lanternquay has an earlier file.*look at the book again, for about 2.5 days; it stays on sale/,
    )
    .waitFor();
  await page.getByRole('button', { name: 'Send the new file to Lanternquay' }).click();
  await page.waitForSelector('[data-listing="received"]');
  expect(await page.locator('[data-listing]').count()).toBe(1);
  expect(await page.locator('[data-listing]').first().textContent()).toContain(
    'the-causeway-ebook-lanternquay.epub',
  );
  expect(await new AxeBuilder(page).violations()).toEqual([]);
  expect(errors).toEqual([]);
});
