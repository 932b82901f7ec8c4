/** A manuscript that comes in a second time: compared section by section, taken where the author wants it, or added. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import { AxeBuilder, bringIn, choose, openBrowser, serverBook, station } from './browser';

let browser: Browser;
let page: Page;
let errors: string[];
let id: string;
const OPENINGS: Record<string, string> = {
  'The Boat': 'The boat lay on her side with the paint gone from the planks and a rope round the thwart.',
  'The Tide': 'Twice a day the clerk wrote down the hour, and twice a day nobody asked him for it.',
  'The Rope': 'Eleven fathoms were paid for, said the ledger, and nine hung on the wall of the shed.',
};
const chapter = (n: number, title: string, words: string): string =>
  `## Chapter ${n}: ${title}\n\n${OPENINGS[title] ?? `Nobody had heard of ${title} before.`}\n\n${words}\n`;
const first = [
  chapter(1, 'The Boat', 'He waited.'),
  chapter(2, 'The Tide', 'It came.'),
  chapter(3, 'The Rope', 'It held.'),
];
const newer = async (text: string): Promise<void> => {
  await station(page, id, 'order');
  await page.setInputFiles('input[aria-label="Newer manuscript file"]', {
    name: 'second draft.md',
    mimeType: 'text/markdown',
    buffer: Buffer.from(text),
  });
  await page.getByRole('heading', { name: 'second draft.md' }).waitFor();
};
const texts = async (): Promise<string[]> =>
  (await serverBook(id)).book.sections
    .filter((s) => s.kind === 'chapter')
    .map((s) => `${s.title}: ${words(s.content)}`);
const words = (node: unknown): string => {
  const n = node as { text?: string; content?: unknown[] };
  return n.text ?? (n.content ?? []).map(words).join(' ');
};

beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
  id = await bringIn(page, 'first.md', Buffer.from(first.join('\n')));
});
afterAll(async () => {
  await browser?.close();
  expect(errors).toEqual([]);
});

describe('a newer manuscript', () => {
  it('shows what would change, and changes it only where it is chosen', async () => {
    await newer(
      [
        chapter(1, 'The Boat', 'He waited all night.'),
        chapter(2, 'The Ford', 'New ground.'),
        chapter(3, 'The Tide', 'It came.'),
      ].join('\n'),
    );
    await page.locator('[data-pair="changed"]').getByRole('button', { name: 'Compare' }).click();
    expect(await page.locator('[data-compared] ins').allTextContents()).toEqual([' all night']);
    expect(
      await page.locator('[data-pair]').evaluateAll((all) => all.map((x) => x.getAttribute('data-pair'))),
    ).toEqual(['changed', 'new', 'gone']);
    await page.getByText(/1 section hasn’t changed\. What you changed here is kept\./).waitFor();
    expect(await new AxeBuilder(page).violations()).toEqual([]);
    await page.getByRole('button', { name: 'Update 2 sections' }).click();
    await page.waitForSelector('tr[data-section]');
    const after = await texts();
    expect(after.map((t) => t.split(':')[0])).toEqual(['The Boat', 'The Ford', 'The Tide', 'The Rope']);
    expect(after[0]).toContain('He waited all night.');
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await expect.poll(async () => (await texts()).length).toBe(3);
    expect((await texts())[0]).not.toContain('all night');
  });
  it('that changes nothing offers nothing, whatever was written in the book meanwhile', async () => {
    await station(page, id, 'manuscript');
    await page.locator('.manuscript .ProseMirror p').last().click();
    await page.keyboard.press('End');
    await page.keyboard.type(' Written in the book.');
    await expect.poll(async () => (await texts()).join()).toContain('Written in the book.');
    await newer(first.join('\n'));
    await page.getByText('This manuscript changes nothing in the book.').waitFor();
    await page.getByRole('button', { name: 'Leave the book as it is' }).click();
  });
  it('keeps the book’s words where both were changed, until it is told otherwise', async () => {
    await newer([first[0], first[1], chapter(3, 'The Rope', 'It held for ever.')].join('\n'));
    const row = page.locator('[data-pair="changed"]');
    const both = row.getByLabel('also replace your own change (1 place)');
    expect(await both.isChecked()).toBe(false);
    expect(await new AxeBuilder(page).violations()).toEqual([]);
    await both.check();
    await page.getByRole('button', { name: 'Update 1 section' }).click();
    await expect.poll(async () => (await texts()).at(-1)).toContain('It held for ever.');
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await expect.poll(async () => (await texts()).at(-1)).toContain('Written in the book.');
  });
  it('is compared with the one before it, not with the first', async () => {
    await newer([first[0], chapter(2, 'The Tide', 'It came twice.'), first[2]].join('\n'));
    await page.getByRole('button', { name: 'Update 1 section' }).click();
    await expect.poll(async () => (await texts())[1]).toContain('It came twice.');
    await newer([first[0], chapter(2, 'The Tide', 'It came twice.'), first[2]].join('\n'));
    await page.getByText('This manuscript changes nothing in the book.').waitFor();
    await page.getByRole('button', { name: 'Leave the book as it is' }).click();
  });
  it('can be left, and the book is as it was', async () => {
    const before = await texts();
    await newer(chapter(1, 'Other', 'Other words.'));
    await page.getByRole('button', { name: 'Leave the book as it is' }).click();
    await page.waitForSelector('tr[data-section]');
    expect(await texts()).toEqual(before);
  });
  it('is added after a section', async () => {
    await newer([chapter(1, 'Far', 'Away.'), chapter(2, 'Farther', 'Off.')].join('\n'));
    await page.getByLabel('Add after', { exact: true }).check();
    await choose(page.getByLabel('Section to add after'), 'The Boat');
    await page.getByRole('button', { name: 'Add it' }).click();
    await expect
      .poll(async () => (await texts()).map((t) => t.split(':')[0]))
      .toEqual(['The Boat', 'Far', 'Farther', 'The Tide', 'The Rope']);
  });
  it('that cannot be read is refused in a sentence, and nothing is lost', async () => {
    const before = await texts();
    await station(page, id, 'order');
    await page.setInputFiles('input[aria-label="Newer manuscript file"]', {
      name: 'broken.docx',
      mimeType: 'application/octet-stream',
      buffer: Buffer.from('no document at all \u0000\u0001\u0002'),
    });
    await page.getByText(/broken\.docx: /).waitFor();
    expect(await texts()).toEqual(before);
  });
});
