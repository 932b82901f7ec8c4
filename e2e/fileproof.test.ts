/** Proofing a cover, and pages that someone else set: read, commented on, signed off, replaced, and what differs then. */
import { PDFDocument, StandardFonts } from 'pdf-lib';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import { address, AxeBuilder, bringIn, choose, openBrowser, saved, station } from './browser';

let browser: Browser;
let page: Page;
let errors: string[];
let id: string;
beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
  const text = `# Chapter 1: Weirs\n\n${'The water stood at the weir and waited. '.repeat(900)}\n`;
  id = await bringIn(page, 'Weirs.md', new TextEncoder().encode(text));
  await page.goto(`${address()}/titles/${id}/record`);
  await page.getByLabel('Title', { exact: true }).fill('Weirs');
  await page.getByLabel('Title', { exact: true }).blur();
  await saved(page);
});
afterAll(() => browser.close());

/** Pages of the edition’s trim with a line of words each; `other` changes one of them. */
async function interior(other: Record<number, string> = {}): Promise<Uint8Array> {
  const doc = await PDFDocument.create();
  const font = await doc.embedFont(StandardFonts.TimesRoman);
  for (let n = 0; n < 24; n++)
    doc
      .addPage([396, 612])
      .drawText(other[n] ?? `Page ${n + 1} of the weir`, { x: 60, y: 400, size: 12, font });
  return doc.save();
}
const attach = (bytes: Uint8Array) =>
  page.setInputFiles('tr[data-edition="paperback"] input[aria-label="Supplied interior, a PDF"]', {
    name: 'pages.pdf',
    mimeType: 'application/pdf',
    buffer: Buffer.from(bytes),
  });
const open = (name: string) => page.getByRole('button', { name, exact: true }).click();
const part = (name: string) => page.locator(`section[aria-label="${name}"]`);
const shown = (n: number) => page.locator(`[data-in-file="${n}"] canvas[data-drawn]`);

it('a cover is proofed as the sheet it is, and signed off', async () => {
  await station(page, id, 'editions');
  await page.getByRole('button', { name: 'Make the cover' }).click();
  await page.locator('tr[data-edition="paperback/cover"]').getByRole('link').waitFor({ timeout: 60_000 });
  await station(page, id, 'proof');
  await choose(page.getByRole('combobox', { name: 'What is proofed' }), 'Cover');
  await shown(0).waitFor({ timeout: 20_000 });
  // Something is drawn there: the cover is not one colour all over.
  const colours = await page.locator('[data-in-file="0"] canvas').evaluate((c: HTMLCanvasElement) => {
    const { data } = c.getContext('2d')!.getImageData(0, 0, c.width, c.height);
    const found = new Set<number>();
    for (let i = 0; i < data.length; i += 4) found.add((data[i]! << 16) | (data[i + 1]! << 8) | data[i + 2]!);
    return found.size;
  });
  expect(colours).toBeGreaterThan(10);
  // The guides lie on the sheet to the pixel: the file has the size that the edition asks for.
  await open('Guides');
  const [sheet, guides] = [
    await page.locator('[data-in-file="0"] canvas').boundingBox(),
    await page.locator('[data-guides]').boundingBox(),
  ];
  for (const side of ['x', 'y', 'width', 'height'] as const)
    expect(Math.abs(sheet![side] - guides![side]), side).toBeLessThan(2);
  await open('Sign-off');
  await part('Progress')
    .getByText(/^The sheet is unread/)
    .waitFor();
  await part('Sign-off').getByText('1 sheet isn’t marked as read.').waitFor();
  expect(await new AxeBuilder(page).violations()).toEqual([]);
  await open('Mark as read');
  await open('Sign off the cover');
  await part('Sign-off')
    .getByText(/✓ Signed off/)
    .waitFor();
  await station(page, id, 'editions');
  await page
    .locator('tr[data-edition="paperback/cover"]')
    .getByText(/signed off/)
    .waitFor();
});

it('a supplied interior is what is proofed, line by line, and can’t be signed off with a blocker', async () => {
  await station(page, id, 'editions');
  await attach(await interior());
  await page
    .locator('tr[data-edition="paperback/attached-pages"]')
    .getByRole('link')
    .waitFor({ timeout: 60_000 });
  await station(page, id, 'proof');
  await shown(0).waitFor({ timeout: 20_000 });
  expect(await page.getByRole('combobox', { name: 'What is proofed' }).textContent()).toContain(
    'Supplied interior',
  );
  await open('Sign-off');
  await part('Progress').getByText('0 of 24 pages read').waitFor();
  await page.keyboard.press('m');
  await open('Comments');
  await page
    .locator('figure[data-in-file="1"]')
    .getByRole('button', { name: /Comment on “Page 2 of the weir”/ })
    .click();
  await page.getByLabel('New comment').fill('Is it a weir or a mill?');
  await open('Add');
  await page.getByText('“Page 2 of the weir”').waitFor();
  await open('Sign-off');
  await part('Sign-off').getByText('1 comment is still open.').waitFor();
  // Standard faces are not embedded: that stops a printer (PDF 1.7 §9.6.2.2; common practice).
  await part('Sign-off')
    .getByText(/The checks found 1 blocker in the file/)
    .waitFor();
  const refused = await page.request.post(`${address()}/api/titles/${id}/proof/sign-offs`, {
    data: { product: (await products()).find((p) => p.edition === 'paperback/attached-pages')!.id },
  });
  expect([refused.status(), ((await refused.json()) as { message: string }).message]).toEqual([
    409,
    expect.stringMatching(/blocker.*aren’t marked as read.*comment is still open/) as string,
  ]);
});
const products = async (): Promise<{ id: string; edition: string }[]> =>
  (
    (await (await page.request.get(`${address()}/api/titles/${id}`)).json()) as {
      products: { id: string; edition: string }[];
    }
  ).products;

it('a file in its place shows what differs, and only that is unread', async () => {
  await open('Mark all as read');
  await part('Progress').getByText('24 of 24 pages read').waitFor();
  await station(page, id, 'editions');
  await attach(await interior({ 6: 'Page 7 of the mill' }));
  await page
    .locator('tr[data-edition="paperback/attached-pages"]')
    .getByText(/blocker/)
    .first()
    .waitFor();
  await expect
    .poll(async () => (await products()).filter((p) => p.edition === 'paperback/attached-pages').length, {
      timeout: 60_000,
    })
    .toBe(2);
  await station(page, id, 'proof');
  await open('Sign-off');
  await part('Progress').getByText('23 of 24 pages read').waitFor({ timeout: 20_000 });
  await part('Changes').getByText('1 page changed, from page 7.').waitFor();
  await part('Changes').getByRole('button', { name: /^7/ }).click();
  await page.locator('[data-how="changed"]').waitFor();
  await expect
    .poll(() => page.locator('[data-in-file="6"] canvas[data-drawn]').count(), { timeout: 20_000 })
    .toBe(2);
  expect(await page.locator('[data-in-file="6"] [data-overlay="differs"]').count()).toBe(2);
});

it('has raised no error in the page', () => expect(errors).toEqual([]));
