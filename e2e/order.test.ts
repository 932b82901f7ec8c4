/** The running order in full: many sections, parts, numbers, contents, pages from the record, a very long book; by keyboard. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import {
  AxeBuilder,
  bringIn,
  choose,
  kinds,
  openBrowser,
  pagesInStrip,
  saved,
  serverBook,
  station,
} from './browser';

let browser: Browser;
let page: Page;
let errors: string[];
let id: string;
const novel = (chapters: number): Buffer =>
  Buffer.from(
    Array.from(
      { length: chapters },
      (_, i) => `## Chapter ${i + 1}: Tide ${i + 1}\n\nThe water rose to post ${i + 1} and stayed.\n`,
    ).join('\n'),
  );

beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
  id = await bringIn(page, 'posts.md', novel(8));
});
afterAll(async () => {
  await browser?.close();
  expect(errors).toEqual([]);
});

const ledger = () => page.getByRole('group', { name: /Running order/ });
const row = (title: string) => page.locator('tr[data-section]', { hasText: title });
const depths = async (): Promise<string[]> => {
  const { sections } = (await serverBook(id)).book as unknown as {
    sections: { id: string; kind: string; title: string; parent: string | null }[];
  };
  const drawn = (parent: string | null): string[] =>
    sections
      .filter((s) => s.parent === parent && (s.kind === 'chapter' || s.kind === 'part'))
      .map((s) => (s.kind === 'part' ? `(${drawn(s.id).join(' ')})` : s.title.replace('Tide ', '')));
  return drawn(null);
};

describe('pages that the book lacks', () => {
  it('are added several at once, each in its place, with one undo', async () => {
    await station(page, id, 'order');
    const before = await kinds(page);
    await page.getByRole('button', { name: 'Add pages' }).click();
    const panel = page.getByLabel('Add pages', { exact: true });
    for (const name of ['Dedication', 'Prologue', 'Glossary', 'Index'])
      await panel.getByLabel(name, { exact: true }).check();
    expect(await new AxeBuilder(page).violations()).toEqual([]);
    await panel.getByRole('button', { name: 'Add 4 pages' }).click();
    await expect.poll(async () => (await kinds(page)).length).toBe(before.length + 4);
    const after = await kinds(page);
    expect(['dedication', 'prologue', 'chapter', 'glossary', 'index'].map((k) => after.indexOf(k))).toEqual(
      ['dedication', 'prologue', 'chapter', 'glossary', 'index']
        .map((k) => after.indexOf(k))
        .sort((a, b) => a - b),
    );
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await expect.poll(() => kinds(page)).toEqual(before);
  });
});

describe('many sections', () => {
  it('are chosen with Shift and gathered into a part, by pointer', async () => {
    await station(page, id, 'order');
    await row('Tide 2').click();
    await row('Tide 4').click({ modifiers: ['Shift'] });
    await page.getByRole('heading', { name: '3 sections selected' }).waitFor();
    await page.getByRole('button', { name: 'Gather into a part' }).click();
    await expect.poll(depths).toEqual(['1', '(2 3 4)', '5', '6', '7', '8']);
    await row('Part I').waitFor();
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await expect.poll(depths).toEqual(['1', '2', '3', '4', '5', '6', '7', '8']);
  });
  it('are chosen, gathered, moved, put in and deleted by keyboard alone', async () => {
    await ledger().focus();
    await row('Tide 1').click();
    await ledger().focus();
    await page.keyboard.press('Shift+ArrowDown');
    await page.keyboard.press('Control+g');
    await expect.poll(depths).toEqual(['(1 2)', '3', '4', '5', '6', '7', '8']);
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Alt+ArrowRight');
    await expect.poll(depths).toEqual(['(1 2 3)', '4', '5', '6', '7', '8']);
    await page.keyboard.press('Alt+ArrowUp');
    await expect.poll(depths).toEqual(['(1 3 2)', '4', '5', '6', '7', '8']);
    await page.keyboard.press('Alt+ArrowLeft');
    await expect.poll(depths).toEqual(['(1 2)', '3', '4', '5', '6', '7', '8']);
    await page.keyboard.press('Control+d');
    await expect.poll(depths).toEqual(['(1 2)', '3', '3', '4', '5', '6', '7', '8']);
    await page.keyboard.press('Control+z');
    await expect.poll(depths).toEqual(['(1 2)', '3', '4', '5', '6', '7', '8']);
  });
  it('leave an edition and change kind together', async () => {
    await row('Tide 7').click();
    await row('Tide 8').click({ modifiers: ['Control'] });
    await page.getByRole('switch', { name: /Paperback carries Tide 7/ }).click();
    await expect
      .poll(
        async () =>
          ((await serverBook(id)).book.sections as unknown as { leftOut: string[] }[]).filter((s) =>
            s.leftOut.includes('paperback'),
          ).length,
      )
      .toBe(2);
    await choose(page.getByLabel('Kind of the chosen sections'), 'Glossary');
    await expect.poll(async () => (await kinds(page)).filter((k) => k === 'glossary').length).toBe(2);
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await expect.poll(async () => (await kinds(page)).filter((k) => k === 'glossary').length).toBe(0);
  });
  it('dissolve a part and delete with undo', async () => {
    await row('Part I').click();
    await page.getByRole('button', { name: 'Dissolve the part' }).click();
    await expect.poll(depths).toEqual(['1', '2', '3', '4', '5', '6', '7', '8']);
    await row('Tide 5').click();
    await row('Tide 6').click({ modifiers: ['Shift'] });
    await ledger().focus();
    await page.keyboard.press('Delete');
    await page.getByText('2 sections were deleted.').waitFor();
    await expect.poll(depths).toEqual(['1', '2', '3', '4', '7', '8']);
    await page.getByRole('button', { name: 'Undo' }).last().click();
    await expect.poll(depths).toEqual(['1', '2', '3', '4', '5', '6', '7', '8']);
  });
  it('say why a move cannot be', async () => {
    await row('Tide 1').click();
    await ledger().focus();
    await page.keyboard.press('Alt+ArrowUp');
    await page.getByText(/stands in the body|at the end of the book/).waitFor();
  });
});

describe('particulars', () => {
  it('change how chapters are numbered, in the ledger at once', async () => {
    await station(page, id, 'order');
    await choose(page.getByRole('combobox', { name: 'Chapters', exact: true }), 'in roman: III');
    await row('Chapter IV').waitFor();
    await page.getByLabel('With the word: Chapter Three').click();
    await expect.poll(() => row('Tide 4').textContent()).toMatch(/IV · Tide 4/);
    await row('Tide 4').click();
    const begins = (): Promise<string | null> => row('Tide 4').textContent();
    await choose(page.getByLabel('Starts in print'), 'on a left-hand page');
    await expect.poll(begins).toMatch(/left/);
    await choose(page.getByLabel('Starts in print'), 'on a right-hand page');
    await expect.poll(begins).toMatch(/right/);
    await page.getByLabel('Shows its number').click();
    await expect.poll(() => row('Tide 5').textContent()).toMatch(/IV · Tide 5/);
    await page.getByLabel('Shows its number').click();
    await page.getByLabel('Shows its title').click();
    await row('Tide 4').waitFor({ state: 'detached' });
    for (let i = 0; i < 7; i++) await page.getByRole('button', { name: 'Undo' }).first().click();
    await row('Chapter Four').waitFor();
  });
  it('call in a copyright page that keeps up with its clauses until it is written by hand', async () => {
    const absent = page.locator('tr', { hasText: 'Copyright page' }).getByRole('button', { name: 'Add it' });
    if (await absent.isVisible()) await absent.click();
    await page.locator('tr[data-kind="copyright-page"]').click();
    await page.locator('[data-made="record"]').waitFor();
    await page.getByLabel('A work of fiction').click();
    await saved(page);
    await page.getByRole('button', { name: 'Write it by hand' }).click();
    await page.locator('[data-made="hand"]').waitFor();
    expect(JSON.stringify((await serverBook(id)).book.sections)).toContain('This is a work of fiction.');
    await page.getByText('written by hand', { exact: true }).waitFor();
    await page.getByRole('button', { name: 'Make it from the record again' }).click();
    await page.locator('[data-made="record"]').waitFor();
  });
  it('give each edition’s contents a heading and a depth', async () => {
    await page.getByLabel('Heading', { exact: true }).fill('In This Book');
    await page.getByLabel('Heading', { exact: true }).press('Enter');
    await choose(page.getByLabel('It lists'), 'Chapters');
    await saved(page);
    const editions = (await serverBook(id)).book as unknown as {
      editions: { id: string; contents: { heading: string; levels: number | null } }[];
    };
    expect(editions.editions.map((e) => e.contents)).toEqual([
      { heading: 'In This Book', levels: 1 },
      { heading: '', levels: null },
    ]);
  });
  it('has no fault that axe can find', async () => {
    expect(await new AxeBuilder(page).violations()).toEqual([]);
  });
});

it('five hundred sections are a ledger of some dozens of drawn rows, and the last is one key away', async () => {
  const long = await bringIn(page, 'long.md', novel(500));
  await station(page, long, 'order');
  expect(await pagesInStrip(page)).toBeGreaterThan(500);
  expect(await page.locator('tr[data-section]').count()).toBeLessThan(60);
  await ledger().focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('End');
  await row('Tide 500').waitFor();
  await page.keyboard.press('Shift+Home');
  await page.getByRole('heading', { name: /^50\d sections selected/ }).waitFor();
});
