/** An evening: one title goes to six outlets over six protocols, and comes back with what each of them found. */
import { createHmac } from 'node:crypto';
import { unzipSync } from 'fflate';
import ICAL from 'ical.js';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import {
  acceptIntake,
  address,
  AxeBuilder,
  connect,
  desk,
  openBrowser,
  saved,
  serverBook,
  station,
} from './browser';
import { isbn13CheckDigit } from '@pagina/core/record';
import { png } from '../core/test/fixtures/manuscript';
import { prose } from '../core/test/fixtures/books';

let browser: Browser;
let page: Page;
let errors: string[];
let id: string;
const OUTLETS = ['lanternquay', 'marram', 'packstone', 'pocketfell', 'shelfmoor', 'quayhead'];
/** 979-9 is given to no registration group. */
const isbn = (n: string): string => `9799000${n}${isbn13CheckDigit(`9799000${n}`)}`;

/** Saves changes of the record and the like as a page would. */
async function change(...changes: object[]): Promise<void> {
  const { revision } = await serverBook(id);
  const answer = await page.request.post(`${address()}/api/titles/${id}/changes`, {
    data: { base: revision, client: 'e2e', change: { type: 'group', label: 'Fill in', changes } },
  });
  expect(answer.status()).toBeLessThan(300);
}
async function make(edition: string): Promise<void> {
  await page.request.post(`${address()}/api/titles/${id}/make`, { data: { edition } });
  for (let tries = 0; tries < 240; tries++) {
    const state = await page.request.get(`${address()}/api/titles/${id}/state`);
    const { products, revision } = (await state.json()) as {
      revision: number;
      products: { edition: string; upTo: number }[];
    };
    if (products.some((p) => p.edition === edition && p.upTo === revision)) return;
    await page.waitForTimeout(250);
  }
  throw new Error(`${edition} was never made`);
}

beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
  await page.goto(`${address()}/titles`);
  const chapters = [1, 2, 3].map((n) => `# Chapter ${n}: The Road\n\n${prose(2_500, n)}\n`);
  await page.setInputFiles('input[aria-label="Manuscript file"]', {
    name: 'Connected.md',
    mimeType: 'text/markdown',
    buffer: Buffer.from(`---\ntitle: The Long Road\nauthor: Ada Marsh\n---\n\n${chapters.join('\n')}`),
  });
  await acceptIntake(page);
  id = new URL(page.url()).pathname.split('/')[2]!;
  await station(page, id, 'record');
  await page.setInputFiles('input[aria-label="Cover picture"]', {
    name: 'cover.png',
    mimeType: 'image/png',
    buffer: Buffer.from(png(1_600, 2_500)),
  });
  await page.getByAltText('The cover').waitFor();
  await saved(page);
  const { book } = await serverBook(id);
  const contributors = [{ name: 'Ada Marsh', role: 'author' }];
  await change(
    {
      type: 'set-record',
      fields: {
        title: 'The Long Road',
        contributors,
        imprint: 'Shingle Street Books',
        language: 'en-GB',
        description: 'Mud, carts, and a causeway that was not there the day before. '.repeat(5).trim(),
        shortDescription: 'Two villages, one road, and nobody who will say who laid it.',
        subjects: ['FBA'],
        keywords: ['roads', 'villages'],
        published: '2026-01-15',
        price: { minor: 499, currency: 'GBP' },
      },
    },
    ...book.editions.map((e) => ({
      type: 'set-edition',
      id: e.id,
      fields:
        e.form === 'print'
          ? { isbn: isbn('00301'), price: { minor: 1_199, currency: 'GBP' } }
          : { isbn: isbn('00302') },
    })),
    ...OUTLETS.map((outlet) => ({
      type: 'set-placing',
      outlet,
      fields: {
        chosen: true,
        rights: true,
        preview: 15,
        copies: 10,
        ...(outlet === 'packstone' ? { shops: ['gannetstone'] } : {}),
      },
    })),
  );
  for (const edition of ['ebook', 'paperback', 'paperback/cover']) await make(edition);
}, 240_000);
afterAll(async () => {
  for (const o of OUTLETS)
    await page.request.put(`${address()}/api/outlets/accounts/key`, { data: { outlet: o, key: '' } });
  await desk(page, { shop: 'marram', weather: 'fair' });
  await browser.close();
});
const status = (outlet: string) =>
  page
    .getByRole('table', { name: 'What outlets ask for' })
    .getByRole('row', { name: /^Status/ })
    .getByRole('cell')
    .nth(
      ['lanternquay', 'marram', 'packstone', 'pocketfell', 'shelfmoor', 'sallowby', 'quayhead'].indexOf(
        outlet,
      ),
    );
const outlet = (name: string) =>
  page.getByRole('table', { name: 'What outlets ask for' }).getByRole('button', { name, exact: true });

it('connects an outlet by the key of its account, which is shown nowhere again', async () => {
  for (const o of OUTLETS) await connect(page, o);
  const { accounts } = await desk(page);
  expect(await new AxeBuilder(page).violations()).toEqual([]);
  const told = await (await page.request.get(`${address()}/api/imprint`)).text();
  const shown = await page.content();
  for (const o of OUTLETS) {
    expect(told).not.toContain(accounts[o]);
    expect(shown).not.toContain(accounts[o]);
  }
});

it('says what goes where and what it costs in time, then sends to all at once', async () => {
  await station(page, id, 'outlets');
  await page.getByRole('button', { name: 'Send to several outlets' }).click();
  const dialog = page.getByRole('dialog', { name: 'What goes where' });
  await dialog.locator('[data-going="shelfmoor"]').getByText('about 21 days').waitFor();
  await dialog
    .locator('[data-going="quayhead"]')
    .getByText(`${isbn('00301')}_pages.pdf, ${isbn('00301')}_cover.pdf`)
    .waitFor();
  // Nothing goes unsigned unasked.
  expect(await dialog.getByRole('button', { name: 'Nothing to send' }).isDisabled()).toBe(true);
  await dialog.getByRole('checkbox', { name: /^Send files that aren’t signed off too/ }).click();
  expect(await new AxeBuilder(page).violations()).toEqual([]);
  await dialog.getByRole('button', { name: 'Send to 6 outlets' }).click();
  for (const o of OUTLETS)
    await expect.poll(() => status(o).textContent(), { timeout: 60_000 }).toMatch(/received|on sale/);
  // A second look: there is nothing left to send.
  await page.getByRole('button', { name: 'Send to several outlets' }).click();
  await expect.poll(() => dialog.getByText('nothing, it’s up to date').count()).toBe(6);
  await dialog.getByRole('button', { name: 'Cancel' }).click();
});

it('follows them as days pass, and shows what each found', async () => {
  await outlet('Marram').click();
  for (let day = 0; day < 8; day++) {
    await page.getByRole('button', { name: 'Advance three days' }).click();
    await page.waitForTimeout(300);
  }
  for (const o of OUTLETS)
    await expect.poll(() => status(o).textContent(), { timeout: 60_000 }).toBe('on sale');
  const found = page.getByRole('region', { name: 'What Marram found' });
  await found.getByText('ebook: in order; cover: in order').waitFor();
  await found.getByText('Novels › General').waitFor();
  await found.getByText(/say who holds the rights there/).waitFor();
  await found.getByRole('button', { name: /^The contents as it read them/ }).click();
  await found.getByRole('listitem').first().waitFor();
  expect(await new AxeBuilder(page).violations()).toEqual([]);
  await outlet('Pocketfell').click();
  await page.getByText('It says so of every book, and there is nothing to do.').waitFor();
  expect(errors).toEqual([]);
});

it('sends what has changed to those that ask for it, also to one that is closed for a while', async () => {
  await desk(page, { shop: 'marram', weather: 'closed' });
  await change({ type: 'set-record', fields: { keywords: ['roads', 'villages', 'winter'] } });
  await station(page, id, 'outlets');
  await page.getByRole('button', { name: 'Send to several outlets' }).click();
  const dialog = page.getByRole('dialog', { name: 'What goes where' });
  await dialog.locator('[data-going="marram"]').getByText('changed details: keywords').waitFor();
  await dialog.locator('[data-going="pocketfell"]').getByText('nothing, it’s up to date').waitFor();
  await dialog.getByRole('button', { name: 'Send to 3 outlets' }).click();
  await outlet('Lanternquay').click();
  await page
    .getByText('✓ Lanternquay has this file and lists it like the record.')
    .waitFor({ timeout: 60_000 });
  await outlet('Marram').click();
  await page.getByText('We are closed for an hour. Trying again').waitFor({ timeout: 60_000 });
  // It can be stopped, and begun again; or it goes by itself once the outlet is open.
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await page.getByRole('button', { name: 'Stop', exact: true }).waitFor({ state: 'detached' });
  await page.getByRole('button', { name: 'Send the changed details to Marram' }).click();
  await page.getByText('We are closed for an hour. Trying again').waitFor({ timeout: 60_000 });
  await desk(page, { shop: 'marram', weather: 'fair' });
  await page.getByText('✓ Marram has this file and lists it like the record.').waitFor({ timeout: 60_000 });
  expect(await status('marram').textContent()).toBe('on sale');
});

it('lets no changed detail go alone that the file tells otherwise', async () => {
  await change({ type: 'set-variant', outlet: 'lanternquay', field: 'title', value: 'The Short Road' });
  await station(page, id, 'outlets');
  await outlet('Lanternquay').click();
  await page.getByText(/Changed since: title/).waitFor();
  expect(await page.getByRole('button', { name: /^Send the/ }).count()).toBe(0);
  await change({ type: 'set-variant', outlet: 'lanternquay', field: 'title', value: null });
});

it('takes a book from sale where its author wishes so', async () => {
  await station(page, id, 'outlets');
  await outlet('Pocketfell').click();
  await page.getByRole('button', { name: 'Withdraw from Pocketfell' }).click();
  await page.getByRole('alertdialog').getByRole('button', { name: 'Withdraw it' }).click();
  await expect.poll(() => status('pocketfell').textContent(), { timeout: 60_000 }).toBe('withdrawn');
  await page.getByRole('button', { name: 'Send the ebook to Pocketfell' }).waitFor();
  expect(await new AxeBuilder(page).violations()).toEqual([]);
});

it('shows readers every shop on a page of its own, without a script', async () => {
  await station(page, id, 'outlets');
  await page.getByRole('tab', { name: 'Page for readers' }).click();
  const name = page.getByLabel('Short address');
  await name.fill('The Road');
  await page.getByText('Small letters, figures and hyphens only').waitFor();
  await name.fill('the-long-road');
  await page.getByRole('button', { name: 'Publish', exact: true }).click();
  const link = page.getByRole('link', { name: /\/b\/the-long-road$/ });
  await link.waitFor();
  const frame = page.frameLocator('iframe[title="The page as readers see it"]');
  await frame.getByRole('link', { name: 'Lanternquay' }).waitFor();
  expect(await new AxeBuilder(page).violations()).toEqual([]);
  const reader = await browser.newPage({ javaScriptEnabled: false });
  const fetched: string[] = [];
  reader.on('request', (r) => fetched.push(new URL(r.url()).pathname));
  await reader.goto(`${address()}/b/the-long-road`);
  await reader.getByRole('heading', { name: 'The Long Road' }).waitFor();
  const shops = await reader
    .locator('.shops a')
    .evaluateAll((all) => all.map((a) => (a as HTMLAnchorElement).href));
  expect(shops.map((s) => new URL(s).hostname)).toEqual([
    'lanternquay.example',
    'marram.example',
    'gannetstone.example',
    'shelfmoor.example',
    'quayhead.example',
  ]);
  expect(await reader.getByRole('img').evaluate((i) => (i as HTMLImageElement).naturalHeight)).toBe(1_200);
  // The page and its picture: nothing else is asked for.
  expect(fetched.filter((f) => f !== '/favicon.ico')).toEqual([
    '/b/the-long-road',
    '/b/the-long-road/cover.jpg',
  ]);
  await reader.close();
  const zip = unzipSync(await (await page.request.get(`${address()}/api/titles/${id}/page?download`)).body());
  expect(Object.keys(zip).sort()).toEqual(['cover.jpg', 'index.html']);
  await page.getByRole('button', { name: 'Take the page down' }).click();
  await page.getByRole('button', { name: 'Publish', exact: true }).waitFor();
  expect((await page.request.get(`${address()}/b/the-long-road`)).status()).toBe(404);
});

it('tells what happened meanwhile, and what falls due, quietly; and in a calendar', async () => {
  await change({ type: 'set-record', fields: { published: '2031-03-20' } });
  await page.goto(`${address()}/titles`);
  await page.getByRole('link', { name: /^News \(\d+\)$/ }).click();
  await page.locator('[data-news="withdrawn"]').getByText('at Pocketfell').first().waitFor();
  await page.locator('[data-due="published"]').getByText('The Long Road is published.').waitFor();
  expect(await new AxeBuilder(page).violations()).toEqual([]);
  // Read by another hand: ical.js.
  const text = await (await page.request.get(`${address()}/api/news/due.ics`)).text();
  const calendar = new ICAL.Component(ICAL.parse(text) as [string, unknown[], unknown[]]);
  const events = calendar.getAllSubcomponents('vevent').map((e) => new ICAL.Event(e));
  const day = events.find((e) => e.summary === 'The Long Road is published.');
  expect([day?.startDate.toString(), day?.endDate.toString(), day?.startDate.isDate]).toEqual([
    '2031-03-20',
    '2031-03-21',
    true,
  ]);
  await page.goto(`${address()}/titles`);
  await page.getByRole('link', { name: 'News', exact: true }).waitFor();
  const row = page.getByRole('row', { name: /The Long Road/ });
  await row.getByText('Lanternquay, Marram, Packstone, Shelfmoor, Quayhead').waitFor();
  expect(errors).toEqual([]);
});

it('leads from why a book is held to where that is mended', async () => {
  // Pocketfell is told another title than the ebook has.
  await change({ type: 'set-variant', outlet: 'pocketfell', field: 'title', value: 'The Short Road' });
  await station(page, id, 'outlets');
  await outlet('Pocketfell').click();
  await make('ebook');
  const sent = await page.request.post(`${address()}/api/titles/${id}/outlets`, {
    data: { outlet: 'pocketfell', edition: 'ebook', unsigned: true },
  });
  expect([sent.status(), await sent.text()]).toEqual([202, expect.any(String)]);
  await expect.poll(() => status('pocketfell').textContent(), { timeout: 60_000 }).toBe('received');
  await page.getByRole('button', { name: 'Advance one day' }).click();
  await expect.poll(() => status('pocketfell').textContent(), { timeout: 60_000 }).toBe('held');
  await page
    .getByRole('list', { name: 'Why it is held' })
    .getByText('calls itself “The Long Road”')
    .waitFor();
  await station(page, id, 'findings');
  await page.getByText('Pocketfell holds the book: The ebook calls itself “The Long Road”').first().waitFor();
  await page.getByRole('button', { name: 'Open Record' }).first().click();
  await page.waitForURL(/\/record/);
  expect(errors).toEqual([]);
});

it('is told of news that the outlet signed, and of no others', async () => {
  const body = '{"books":[]}';
  const news = (signature: string) =>
    page.request.post(`${address()}/api/outlets/news/lanternquay`, {
      data: body,
      headers: { 'Outlet-Signature': signature, 'Content-Type': 'text/plain' },
    });
  expect((await news('')).status()).toBe(401);
  expect((await news(`sha256=${'0'.repeat(64)}`)).status()).toBe(401);
  const key = (await desk(page)).accounts.lanternquay!;
  const right = createHmac('sha256', key).update(body).digest('hex');
  expect((await news(`sha256=${right}`)).status()).toBe(200);
});
