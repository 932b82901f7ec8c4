/** Design: pointing at parts of composed pages and setting them, two designs side by side, designs of one's own. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import { prose } from '../core/test/fixtures/books';
import { AxeBuilder, bringIn, choose, openBrowser, saved, serverBook, station } from './browser';

let browser: Browser;
let page: Page;
let errors: string[];
let id: string;
const manuscript = ['Boat', 'Tide', 'Rope']
  .map(
    (c, i) =>
      `## Chapter ${i + 1}: The ${c}\n\n${prose(400, i + 1)}\n\n* * *\n\n${prose(300, i + 7)}\n\n> ${prose(40, 5)}\n\n${prose(700, i + 3)}`,
  )
  .join('\n\n');

beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
  id = await bringIn(page, 'design.md', Buffer.from(manuscript));
  await open(id);
});
afterAll(async () => {
  await browser?.close();
  expect(errors).toEqual([]);
});

async function open(title: string): Promise<void> {
  await station(page, title, 'design');
  await page.waitForSelector('[data-target]');
}
interface Print {
  interior: string;
  trim: string;
  design: { from: Record<string, string>; set: Record<string, unknown> };
}
const edition = async (title = id): Promise<Print> => {
  await saved(page);
  return (
    (await serverBook(title)).book as unknown as { editions: (Print & { form: string })[] }
  ).editions.find((e) => e.form === 'print')!;
};
const specimen = (): Promise<number> =>
  page
    .getByRole('region', { name: 'Specimen' })
    .evaluate((e) => Number((e as HTMLElement).dataset.generation));
/** Does something and waits until the specimen has been set anew. */
async function reset(act: () => Promise<unknown>): Promise<void> {
  const before = await specimen();
  await act();
  await expect.poll(specimen).toBeGreaterThan(before);
}
/** Where a part stands on the first page that shows it. */
const boxOf = async (target: string) =>
  (await page.locator(`[data-target="${target}"]`).first().boundingBox())!;

describe('the specimen', () => {
  it('shows pages of this very book, each with its name', async () => {
    const names = await page.locator('[data-specimen] figcaption').allTextContents();
    for (const name of ['Opening', 'Plain page', 'Break', 'Quotation'])
      expect(names.join(' ')).toContain(name);
    const drawn = await page
      .locator('[data-specimen] canvas')
      .first()
      .evaluate((c: HTMLCanvasElement) => {
        const d = c.getContext('2d')!.getImageData(0, 0, c.width, c.height).data;
        let dark = 0;
        for (let i = 0; i < d.length; i += 4) if (d[i]! < 120) dark++;
        return dark;
      });
    expect(drawn).toBeGreaterThan(500);
  });
  it('is pointed at, and what was pointed at is set there and then', async () => {
    const before = await boxOf('opening.title');
    await page.locator('[data-target="opening.title"]').first().click();
    await page.getByRole('heading', { name: 'Chapter title' }).waitFor();
    await reset(async () => {
      await page.getByLabel('Title: size', { exact: true }).fill('32pt');
      await page.getByLabel('Title: size', { exact: true }).press('Enter');
    });
    await expect.poll(async () => (await boxOf('opening.title')).height).toBeGreaterThan(before.height * 1.3);
    expect((await edition()).design.set).toEqual({ 'opening.title.size': 32_000 });
    await page.locator('[data-changed="1"]').waitFor();
  });
  it('takes lengths in any unit, and says what is none', async () => {
    const field = page.getByLabel('Title: size', { exact: true });
    await field.fill('1.5 cm');
    await field.press('Enter');
    expect((await edition()).design.set['opening.title.size']).toBe(42_520);
    await field.fill('large');
    await field.press('Enter');
    await page.getByText('Write a length, such as 11 pt').waitFor();
    await field.fill('400pt');
    await field.press('Enter');
    await page.getByText('That is outside the range for this setting.').waitFor();
    await field.press('Escape');
    expect(await field.inputValue()).toBe('42.52 pt');
    await field.press('ArrowDown');
    await expect.poll(async () => (await edition()).design.set['opening.title.size']).toBe(42_020);
  });
  it('puts a setting back to the interior’s, and undoes', async () => {
    await reset(() => page.getByRole('button', { name: 'As Harrow has it' }).first().click());
    expect((await edition()).design.set).toEqual({});
    await reset(() => page.getByRole('button', { name: 'Undo' }).first().click());
    expect((await edition()).design.set).toEqual({ 'opening.title.size': 42_020 });
    await reset(() => page.getByRole('button', { name: 'Reset' }).click());
    expect((await edition()).design.set).toEqual({});
  });
  it('is set by keyboard alone', async () => {
    await page.getByRole('button', { name: 'All parts' }).click();
    const heads = page.getByRole('button', { name: 'Heads and folios', exact: true });
    await heads.focus();
    await page.keyboard.press('Enter');
    await page.getByLabel('Folio', { exact: true }).focus();
    await reset(() => choose(page.getByLabel('Folio', { exact: true }), 'at the foot, centred'));
    expect((await edition()).design.set).toEqual({ 'heads.folio': 'foot-centre' });
    const head = await boxOf('heads.line');
    await expect.poll(async () => (await boxOf('heads.folio')).y).toBeGreaterThan(head.y + 100);
  });
});

describe('an interior', () => {
  it('is laid beside the present one with its figures, and taken', async () => {
    await choose(page.getByLabel('Beside it'), 'Marram');
    await page.getByRole('region', { name: 'Marram, beside it' }).locator('[data-target]').first().waitFor();
    const figures = page.locator('[data-comparison]');
    await expect
      .poll(async () => (await figures.locator('tbody tr').first().locator('td').allTextContents()).join(' '))
      .toMatch(/^\d+ \d+$/);
    const rows = await figures.locator('tbody th').allTextContents();
    expect(rows).toEqual([
      'Pages',
      'Spine',
      'Printing cost a copy',
      'Lowest list price',
      'Characters a line',
      'Lines a page',
      'Loose lines',
      'Hyphenated words',
    ]);
    expect(await new AxeBuilder(page).violations()).toEqual([]);
    await reset(() => page.getByRole('button', { name: 'Take this design' }).click());
    expect(await edition()).toMatchObject({ interior: 'Marram', design: { from: {}, set: {} } });
  });
  it('is given to the ebook, which looks otherwise until then', async () => {
    await page.getByRole('button', { name: 'Use for the ebook too' }).click();
    await page.getByRole('button', { name: 'Use for the ebook too' }).waitFor({ state: 'detached' });
    await saved(page);
    const { editions } = (await serverBook(id)).book as unknown as { editions: Print[] };
    expect(editions.map((e) => e.interior)).toEqual(['Marram', 'Marram']);
  });
  it('lends a part of itself', async () => {
    await page.getByRole('button', { name: 'All parts' }).click();
    await page.getByRole('button', { name: /^Breaks/ }).click();
    await reset(() => choose(page.getByLabel('Breaks as in'), 'Saltern'));
    expect((await edition()).design.from).toEqual({ breaks: 'Saltern' });
    await page.getByRole('button', { name: 'All parts' }).click();
    await page.getByRole('button', { name: /^Breaks\s*as in Saltern/ }).waitFor();
  });
  it('becomes large print and ordinary print again, on the folios that the pages then have', async () => {
    const folios = (): Promise<string[]> => page.locator('[data-specimen] figcaption').allTextContents();
    const ordinary = await folios();
    await reset(() => page.getByLabel('Large print').click());
    expect((await edition()).design.set).toMatchObject({ 'text.size': 16_000, 'text.set': 'ragged' });
    await expect.poll(folios).not.toEqual(ordinary);
    await reset(() => page.getByLabel('Large print').click());
    expect((await edition()).design.set).toEqual({});
    await expect.poll(folios).toEqual(ordinary);
  });
  it('is set on another trim, listed or typed', async () => {
    await page.getByRole('button', { name: 'Trim and margins' }).click();
    await reset(() => choose(page.getByLabel('Trim', { exact: true }), '6 × 9 in'));
    await page.getByLabel('Another trim').fill('14 x 1');
    await page.getByLabel('Another trim').press('Enter');
    await page.getByText('Write width × height').waitFor();
    await reset(async () => {
      await page.getByLabel('Another trim').fill('140 × 210 mm');
      await page.getByLabel('Another trim').press('Enter');
    });
    expect((await edition()).trim).toBe('140 × 210 mm');
  });
  it('keeps a trim under a name for other titles', async () => {
    await page.getByLabel('Name of this trim').fill('Pocket');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await page.getByText('Your own: Pocket').waitFor();
    await reset(() => choose(page.getByLabel('Trim', { exact: true }), '6 × 9 in'));
    await reset(() => choose(page.getByLabel('Trim', { exact: true }), 'Pocket, 140 × 210 mm'));
    expect((await edition()).trim).toBe('140 × 210 mm');
  });
});

it('a design of one’s own is kept and used in another title', async () => {
  await page.getByRole('button', { name: 'Your own designs' }).click();
  await page.getByLabel('Save this design as').fill('Our novels');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await page.getByText('Saved as “Our novels”').waitFor();
  const other = await bringIn(page, 'other.md', Buffer.from(manuscript));
  await open(other);
  await choose(page.getByRole('combobox', { name: /^Interior/ }), 'Our novels');
  // It goes by its own name, nothing of it is a change, and it has brought its trim.
  const interior = page.getByRole('combobox', { name: /^Interior/ });
  await expect.poll(() => interior.innerText()).toContain('Our novels');
  await page.locator('[data-changed="0"]').waitFor();
  expect(await edition(other)).toMatchObject({
    interior: 'Marram',
    design: { from: { breaks: 'Saltern' } },
    trim: (await edition(id)).trim,
  });
  await page.getByRole('button', { name: 'Your own designs' }).click();
  await page.getByRole('button', { name: 'Delete' }).click();
  await page.getByRole('button', { name: 'Delete the design' }).click();
  await page.getByText('No designs saved yet.').waitFor();
  await page.keyboard.press('Escape');
});
it('a trim of one’s own is there in another title, until its name is forgotten', async () => {
  await page.getByRole('button', { name: 'Trim and margins' }).click();
  await choose(page.getByLabel('Trim', { exact: true }), 'Pocket, 140 × 210 mm');
  await page.getByRole('button', { name: 'Delete the name' }).click();
  await page.getByRole('alertdialog').getByRole('button', { name: 'Delete the name' }).click();
  await page.getByText('Your own: Pocket').waitFor({ state: 'detached' });
  expect(await page.getByLabel('Trim', { exact: true }).getAttribute('data-value')).toBe('140 × 210 mm');
});
it('has no fault that axe can find', async () => {
  await page.locator('[data-target="opening.title"]').first().click();
  expect(await new AxeBuilder(page).violations()).toEqual([]);
});
