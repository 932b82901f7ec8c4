/**
 * A file that a shop refused, mended in three actions: opened, "Mend all", "Mend". What a copy holds is read by fflate and
 * counted by regular expressions, not by the checks.
 */
import { unzipSync, zipSync, strToU8 } from 'fflate';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import { MINIMAL, page as xhtml } from '../core/test/check/minimal';
import { address, AxeBuilder, openBrowser, saved } from './browser';

let browser: Browser;
let page: Page;
let errors: string[];

const parts: Record<string, string | Uint8Array> = {
  ...MINIMAL,
  'a.xhtml': xhtml(
    '<h1 id="x">One</h1><p>Water & ice went over the weir.<br>And so on.</p><p id="x" align="center">Then <a href="B.xhtml">two</a>&nbsp;came.</p><p><img src="Pic.png" alt="A weir"/></p>',
  ),
  'book.opf': (MINIMAL['book.opf'] as string).replace(/<meta property="dcterms:modified">[^<]*<\/meta>/, ''),
};
const BROKEN = zipSync(
  Object.fromEntries(
    Object.entries(parts)
      .reverse()
      .map(([name, content]) => [name, typeof content === 'string' ? strToU8(content) : content]),
  ),
);

beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
  await page.goto(`${address()}/titles`);
  await page.setInputFiles('input[aria-label="EPUB file"]', {
    name: 'refused.epub',
    mimeType: 'application/epub+zip',
    buffer: Buffer.from(BROKEN),
  });
  await page.waitForURL(/\/ebooks\//);
  await page.waitForSelector('[data-document]');
  await page
    .getByRole('navigation', { name: 'Views' })
    .getByRole('link', { name: /^Findings/ })
    .click();
});
afterAll(() => browser.close());

const rule = (name: string) => page.locator(`[data-finding="${name}"]`);
const dialog = () => page.getByRole('dialog');
const count = async (): Promise<number> =>
  Number(/\d+/.exec((await page.getByRole('radio', { name: /^All/ }).textContent()) ?? '')?.[0] ?? NaN);
async function copy(): Promise<{ bytes: Uint8Array; parts: Record<string, Uint8Array> }> {
  await saved(page);
  const id = new URL(page.url()).pathname.split('/')[2] ?? '';
  const bytes = new Uint8Array(await (await fetch(`${address()}/api/ebooks/${id}/copy`)).arrayBuffer());
  return { bytes, parts: unzipSync(bytes) };
}
const text = (of: Record<string, Uint8Array>, path: string): string => new TextDecoder().decode(of[path]);
const words = (html: string): string =>
  html
    .slice(html.indexOf('<body'))
    .replace(/<[^>]*>/g, ' ')
    .replace(/&amp;/g, '&')
    .replace(/&nbsp;|&#160;|\u00a0/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();

it('one finding is mended, shown line by line before it is, and undone', async () => {
  await rule('xml/ampersand').getByRole('button', { name: 'Mend …' }).click();
  await dialog().waitFor();
  expect(await dialog().locator('ins').allTextContents()).toEqual(['amp;']);
  expect(await dialog().textContent()).toContain('Every word and every picture stays as it is.');
  expect(await new AxeBuilder(page).violations()).toEqual([]);
  await dialog().getByRole('button', { name: 'Cancel' }).click();
  await expect.poll(() => rule('xml/ampersand').count()).toBe(1);
  await rule('xml/ampersand').getByRole('button', { name: 'Mend …' }).click();
  await dialog().getByRole('button', { name: 'Mend', exact: true }).click();
  await expect.poll(() => rule('xml/ampersand').count(), { timeout: 5_000 }).toBe(0);
  expect(text((await copy()).parts, 'a.xhtml')).toContain('Water &amp; ice');
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click();
  await expect.poll(() => rule('xml/ampersand').count(), { timeout: 5_000 }).toBe(1);
  // As it was opened, to the byte.
  expect(Buffer.from((await copy()).bytes).equals(Buffer.from(BROKEN))).toBe(true);
});

it('everything is mended in three actions, with every word kept', async () => {
  const before = await count();
  expect(before).toBeGreaterThan(7);
  await page
    .getByRole('button', { name: /^Mend all \d+ …$/ })
    .first()
    .click();
  await dialog().waitFor();
  expect(await dialog().locator('[data-mend-step]').count()).toBeGreaterThan(5);
  await dialog().getByRole('button', { name: 'Mend', exact: true }).click();
  await expect.poll(count, { timeout: 10_000 }).toBe(0);
  const { bytes, parts: now } = await copy();
  // EPUB 3.3 §4.2.4.2.1: the type begins at byte 38, stored.
  expect(new TextDecoder('latin1').decode(bytes.subarray(30, 58))).toBe('mimetypeapplication/epub+zip');
  expect(words(text(now, 'a.xhtml'))).toBe(words(parts['a.xhtml'] as string));
  expect(
    Buffer.from(now['pic.png'] as Uint8Array).equals(Buffer.from(MINIMAL['pic.png'] as Uint8Array)),
  ).toBe(true);
  expect(text(now, 'a.xhtml')).toMatch(/href="b\.xhtml"[\s\S]*src="pic\.png"/);
  expect(text(now, 'book.opf')).toMatch(/dcterms:modified">\d{4}-\d\d-\d\dT\d\d:\d\d:\d\dZ</);
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click();
  await expect.poll(count, { timeout: 10_000 }).toBe(before);
});

it('what somebody else changed meanwhile is not written over', async () => {
  await rule('xml/ampersand').getByRole('button', { name: 'Mend …' }).click();
  await dialog().waitFor();
  const other = await browser.newPage();
  await other.goto(page.url().replace(/findings$/, 'package'));
  await other.getByLabel('Title').first().fill('Another title');
  await other.keyboard.press('Tab');
  await saved(other);
  await dialog().getByRole('button', { name: 'Mend', exact: true }).click();
  await page.getByText('The ebook has been changed in the meantime.').waitFor();
  await page.keyboard.press('Escape');
  await dialog().waitFor({ state: 'detached' });
  await other.close();
});

it('what a single outlet refuses is shown when its rules are chosen', async () => {
  await page.getByRole('combobox', { name: 'Whose rules' }).click();
  await page.getByRole('option', { name: 'The standards and Plover (1)' }).click();
  await rule('outlet/version').getByText('Plover takes EPUB 2 only; this is EPUB 3.0.').waitFor();
  await page.getByRole('combobox', { name: 'Whose rules' }).click();
  await page.getByRole('option', { name: 'The standards only' }).click();
  await expect.poll(() => rule('outlet/version').count()).toBe(0);
});

it('an ebook that ends too soon is opened, and what is whole of it is packed again', async () => {
  const whole = zipSync(
    Object.fromEntries(
      Object.entries(MINIMAL).map(([name, part]) => [name, typeof part === 'string' ? strToU8(part) : part]),
    ),
    { level: 0 },
  );
  // Its last file is a picture: the download stopped in the middle of it.
  const cut = whole.slice(0, Buffer.from(whole).indexOf(Buffer.from('pic.png\x89PNG', 'latin1')) + 200);
  const other = await browser.newPage();
  await other.goto(`${address()}/titles`);
  await other.setInputFiles('input[aria-label="EPUB file"]', {
    name: 'half.epub',
    mimeType: 'application/epub+zip',
    buffer: Buffer.from(cut),
  });
  await other.waitForURL(/\/ebooks\//);
  await other
    .getByRole('navigation', { name: 'Views' })
    .getByRole('link', { name: /^Findings/ })
    .click();
  const incomplete = other.locator('[data-finding="zip/incomplete-container"]');
  await incomplete.getByText(/7 files are intact; “pic\.png” is damaged or cut short\./).waitFor();
  await incomplete.getByRole('button', { name: 'Mend …' }).click();
  await other.getByRole('dialog').getByRole('button', { name: 'Mend', exact: true }).click();
  await incomplete.waitFor({ state: 'detached' });
  await saved(other);
  const id = new URL(other.url()).pathname.split('/')[2] ?? '';
  const bytes = new Uint8Array(await (await fetch(`${address()}/api/ebooks/${id}/copy`)).arrayBuffer());
  const now = unzipSync(bytes);
  for (const name of ['a.xhtml', 'b.xhtml', 'book.opf', 'nav.xhtml', 'style.css'])
    expect(text(now, name), name).toBe(MINIMAL[name]);
  await other.close();
});

it('has raised no error in the page', () => expect(errors).toEqual([]));
