/** Pages laid out one by one, worked on in the running application: the table, the spread, the words, and what is made of them. */
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import { address, AxeBuilder, bringIn, choose, openBrowser, saved, serverBook, station } from './browser';

let browser: Browser;
let page: Page;
let errors: string[];
let id = '';
beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
});
afterAll(async () => {
  expect(errors).toEqual([]);
  await browser.close();
});

interface Json {
  type: string;
  attrs: Record<string, unknown>;
  content?: Json[];
  text?: string;
}
const textOf = (n: Json): string =>
  n.text ?? (n.content ?? []).map(textOf).join(n.type === 'textBox' ? ' ' : '');
const story = async (): Promise<Json[]> => {
  await saved(page);
  const { sections } = (await serverBook(id)).book;
  return (sections.find((s) => s.kind === 'picture-pages')!.content as { content: Json[] }).content;
};
const words = async (): Promise<string[]> => (await story()).map(textOf);
const table = () => page.getByRole('group', { name: /^Pages\. Arrow keys/ });
const rows = () => page.locator('[data-page-row]');
const frame = (name: RegExp) => page.getByRole('button', { name });
const picture = (r: number, width = 900, height = 600): Promise<Buffer> =>
  sharp({ create: { width, height, channels: 3, background: { r, g: 90, b: 140 } } })
    .png()
    .toBuffer();
const files = async (...reds: number[]) =>
  Promise.all(
    reds.map(async (r) => ({ name: `crow-${r}.png`, mimeType: 'image/png', buffer: await picture(r) })),
  );

const TALE = `# Crows\n\nOne crow came to the wall.\n\n* * *\n\nTwo crows *spoke*.\n\n* * *\n\nThree crows flew home.\n`;

it('lays running text out as pages, a page for each stretch between breaks', async () => {
  id = await bringIn(page, 'Crows.md', new TextEncoder().encode(TALE));
  await choose(page.getByRole('combobox', { name: /^Kind of .*Crows/ }), 'Picture pages');
  await saved(page);
  await page.locator('tr[data-kind="picture-pages"]').click();
  await page.getByRole('button', { name: 'Open text' }).click();
  await page.getByRole('button', { name: 'Lay out the pages' }).click();
  await page.getByRole('button', { name: 'Lay out as picture pages' }).click();
  await expect.poll(() => rows().count()).toBe(3);
  expect(await words()).toEqual(['One crow came to the wall.', 'Two crows spoke.', 'Three crows flew home.']);
  await expect.poll(() => rows().first().textContent()).toContain('Words alone');
});

describe('the table of pages', () => {
  it('makes a page of each picture, behind the one that is chosen', async () => {
    await rows().nth(0).click();
    await page.setInputFiles('input[aria-label="Files of pictures, a page for each"]', await files(10, 200));
    await expect.poll(() => rows().count()).toBe(5);
    expect((await story()).map((p) => p.attrs.picture !== '')).toEqual([false, true, true, false, false]);
    await expect.poll(() => rows().nth(1).textContent()).toContain('no description');
  });
  it('moves, duplicates and deletes pages by keyboard, and takes each back', async () => {
    const before = await words();
    await rows().nth(4).click();
    await table().press('Alt+ArrowUp');
    await expect
      .poll(words)
      .toEqual(['One crow came to the wall.', '', '', 'Three crows flew home.', 'Two crows spoke.']);
    await table().press('Control+d');
    await expect.poll(() => rows().count()).toBe(6);
    await table().press('Delete');
    await page.getByText('The page was deleted.').waitFor();
    await expect.poll(() => rows().count()).toBe(5);
    await table().press('Control+z');
    await expect.poll(() => rows().count()).toBe(6);
    await table().press('Control+z');
    await expect.poll(() => rows().count()).toBe(5);
    await table().press('Control+z');
    await expect.poll(words).toEqual(before);
  });
  it('moves several at once by drag', async () => {
    await rows().nth(1).click();
    await rows()
      .nth(2)
      .click({ modifiers: ['Shift'] });
    const grip = (await page
      .getByRole('button', { name: /^Move page/ })
      .nth(2)
      .boundingBox())!;
    const to = (await rows().nth(4).boundingBox())!;
    await page.mouse.move(grip.x + 6, grip.y + 8);
    await page.mouse.down();
    await page.mouse.move(grip.x + 8, grip.y + 40, { steps: 4 });
    await page.mouse.move(grip.x + 8, to.y + to.height / 2, { steps: 8 });
    await page.mouse.up();
    await expect
      .poll(words)
      .toEqual(['One crow came to the wall.', 'Two crows spoke.', 'Three crows flew home.', '', '']);
    await page.getByRole('banner').getByRole('button', { name: 'Undo' }).click();
    await expect
      .poll(words)
      .toEqual(['One crow came to the wall.', '', '', 'Two crows spoke.', 'Three crows flew home.']);
  });
});

describe('a page', () => {
  it('takes a picture, a description and a layout', async () => {
    await rows().nth(0).click();
    await page.setInputFiles('input[aria-label="File of the picture"]', await files(250));
    await page.getByLabel('Description').fill('A crow on a wall.');
    // A click on the page takes the field away before it has lost the focus: what was typed is kept all the same.
    await rows().nth(1).click();
    await expect.poll(async () => (await story())[0]!.attrs.alt).toBe('A crow on a wall.');
    await rows().nth(0).click();
    await frame(/^Picture\. Arrow|^Picture in its frame/).focus();
    await choose(page.getByRole('combobox', { name: 'Layout' }), 'Words over the picture');
    await expect.poll(() => rows().first().textContent()).toContain('Words over the picture');
    const [first] = await story();
    expect(first!.attrs).toMatchObject({ alt: 'A crow on a wall.', frame: [0, 0, 1000, 1000] });
    expect(first!.content![0]!.attrs.frame).toEqual([90, 700, 820, 220]);
  });
  it('is cropped by dragging its picture, and by keys', async () => {
    await frame(/^Picture in its frame/).waitFor();
    const box = (await frame(/^Picture in its frame/).boundingBox())!;
    await page.mouse.move(box.x + box.width / 2, box.y + 30);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width / 2 + 20, box.y + 34, { steps: 4 });
    await page.mouse.up();
    await expect.poll(async () => ((await story())[0]!.attrs.crop as { x: number }).x).toBeLessThan(500);
    const now = ((await story())[0]!.attrs.crop as { x: number }).x;
    await frame(/^Picture in its frame/).press('ArrowLeft');
    await expect.poll(async () => ((await story())[0]!.attrs.crop as { x: number }).x).toBeGreaterThan(now);
  });
  it('moves words by drag and by keys, and keeps them on the paper', async () => {
    const words1 = frame(/^Words 1/);
    await words1.focus();
    const from = (await words1.boundingBox())!;
    await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
    await page.mouse.down();
    await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2 - 80, { steps: 5 });
    await page.mouse.up();
    const frameNow = async (): Promise<number[]> => (await story())[0]!.content![0]!.attrs.frame as number[];
    await expect.poll(async () => (await frameNow())[1]).toBeLessThan(600);
    const [, y = 0] = await frameNow();
    for (let i = 0; i < 3; i++) await words1.press('ArrowDown');
    await expect.poll(async () => (await frameNow())[1]).toBe(y + 15);
    await words1.press('Shift+ArrowLeft');
    await expect.poll(async () => (await frameNow())[2]).toBe(815);
    for (let i = 0; i < 60; i++) await words1.press('ArrowLeft');
    await expect.poll(async () => (await frameNow())[0]).toBe(0);
    await expect.poll(() => rows().first().textContent()).toContain('words near an edge');
    await page.getByRole('banner').getByRole('button', { name: 'Undo' }).click();
    await expect.poll(async () => (await frameNow())[0]).toBe(90);
  });
  it('is written on as text is: marks, paragraphs, Undo, and words that do not fit are told', async () => {
    await rows().nth(3).click();
    await frame(/^Words 1/).focus();
    const text = page.getByRole('textbox', { name: 'Words of the box' });
    await text.click();
    await page.keyboard.press('Control+End');
    await page.keyboard.type(' "Caw," said one.');
    await page.keyboard.press('Enter');
    await page.keyboard.press('Control+i');
    await page.keyboard.type('Caw?');
    await expect.poll(async () => (await words())[3]).toBe('Two crows spoke. “Caw,” said one. Caw?');
    const [one, two] = (await story())[3]!.content![0]!.content!;
    expect(one!.attrs.id).not.toBe(two!.attrs.id);
    expect(JSON.stringify(two)).toContain('"emphasis"');
    expect(await text.locator('em').allTextContents()).toEqual(['spoke', 'Caw?']);
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await words())[3]).not.toContain('Caw?');
    await expect.poll(() => text.textContent()).not.toContain('Caw?');
    await page.keyboard.type('x');
    await expect.poll(async () => (await words())[3]).toContain('x');
    await page.getByLabel('Size in points').fill('140');
    await expect.poll(() => rows().nth(3).textContent()).toContain('words don’t fit');
    await page.getByLabel('Size in points').fill('18');
    await expect.poll(() => rows().nth(3).textContent()).not.toContain('words don’t fit');
  });
  it('gives words a typeface, a colour, a panel, a language and their place in the reading order', async () => {
    await choose(page.getByRole('combobox', { name: 'Typeface' }), 'Spectral');
    await page.getByRole('radio', { name: 'Centre' }).click();
    await page.getByLabel('A panel').click();
    await page.getByRole('button', { name: /^Words: #/ }).click();
    await page.getByLabel('Words, as six hexadecimal digits').fill('#a52f1c');
    await page.keyboard.press('Enter');
    await page.keyboard.press('Escape');
    await choose(page.getByRole('combobox', { name: 'Language of the words' }), 'French');
    const box = async (): Promise<Record<string, unknown>> => (await story())[3]!.content![0]!.attrs;
    await expect.poll(box).toMatchObject({
      face: 'Spectral',
      align: 'centre',
      ground: '#ffffff',
      colour: '#a52f1c',
      lang: 'fr',
    });
    await page.getByRole('button', { name: 'Add words' }).click();
    // One writes at once.
    await page.locator('.ProseMirror-focused[aria-label="Words of the box"]').waitFor();
    await page.keyboard.type('Later.');
    await page.getByRole('button', { name: 'Earlier' }).click();
    await expect.poll(async () => (await words())[3]).toMatch(/^Later\./);
    await page.getByRole('button', { name: 'Remove these words' }).click();
    await expect.poll(async () => (await words())[3]).not.toContain('Later');
  });
  it('is laid out across a spread, on a left-hand page', async () => {
    await rows().nth(1).click();
    await page.getByLabel('Laid out across a spread').click();
    await expect.poll(() => rows().nth(1).textContent()).toContain('2–3');
    await expect.poll(() => rows().nth(1).textContent()).toContain('spread');
    expect(await new AxeBuilder(page).violations()).toEqual([]);
  });
});

it('is there again after a reload, and the words stand in the manuscript, where they are written too', async () => {
  const before = await words();
  await page.reload();
  await expect.poll(() => rows().count()).toBe(5);
  expect(await words()).toEqual(before);
  await station(page, id, 'manuscript');
  const text = page.getByRole('textbox', { name: 'Crows' });
  await text.getByText('Three crows flew home.').click();
  await page.keyboard.press('End');
  await page.keyboard.type(' Night.');
  await expect.poll(async () => (await words())[4]).toBe('Three crows flew home. Night.');
  await page.getByRole('combobox', { name: 'Style of the paragraph' }).isDisabled();
  // What has no form on a page does nothing but say so.
  await page.keyboard.press('Control+Alt+n');
  expect((await words())[4]).toBe('Three crows flew home. Night.');
  await page.getByRole('button', { name: 'Insert', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Table' }).click();
  await page.getByText('Tables go into running text only.').waitFor();
});

it('is made as an ebook, whose size is told by part', async () => {
  await page.goto(`${address()}/titles/${id}/record`);
  await page.getByLabel('Title', { exact: true }).fill('Crows');
  await page.getByLabel('Title', { exact: true }).blur();
  await saved(page);
  await page.goto(`${address()}/titles/${id}/editions`);
  await page.getByRole('button', { name: 'Make the ebook' }).click();
  await page.getByRole('button', { name: 'Size of the ebook, by part' }).click({ timeout: 30_000 });
  const sizes = page.getByRole('table', { name: 'Size by part' });
  await sizes.getByText('Pictures').waitFor();
  await sizes.getByText('Text and its styles').waitFor();
  expect(await new AxeBuilder(page).violations()).toEqual([]);
  await page.keyboard.press('Escape');
});

it('every control is in reach on a small screen', async () => {
  await page.setViewportSize({ width: 1024, height: 768 });
  await page.goto(`${address()}/titles/${id}/pages`);
  await rows().nth(3).click();
  await frame(/^Words 1/).focus();
  for (const name of ['Add a page', 'Delete', 'As text', 'Remove these words']) {
    const box = (await page.getByRole('button', { name, exact: true }).boundingBox())!;
    expect(box.x + box.width, name).toBeLessThanOrEqual(1024);
  }
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(1024);
  await page.setViewportSize({ width: 1280, height: 800 });
});

it('says what to do where there is nothing yet, and lays out pages of the record', async () => {
  const other = await bringIn(page, 'Plain.md', new TextEncoder().encode('# One\n\nWords of one chapter.\n'));
  await page.goto(`${address()}/titles/${other}/pages`);
  await page.getByText('This book has no picture pages.').waitFor();
  await page.getByRole('button', { name: 'Add picture pages' }).click();
  await expect.poll(() => rows().count()).toBe(1);
  await expect.poll(() => rows().first().textContent()).toContain('empty');
  await page.getByRole('banner').getByRole('button', { name: 'Undo' }).click();
  await page.getByText('This book has no picture pages.').waitFor();
});
