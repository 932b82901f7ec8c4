import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import { DeletedTextRun, Document, HeadingLevel, InsertedTextRun, Packer, Paragraph, TextRun } from 'docx';
import sharp from 'sharp';
import { acceptIntake, address, AxeBuilder, choose, kinds, openBrowser, saved, serverBook } from './browser';
import { styledManuscript, unstyledManuscript } from '../core/test/fixtures/manuscript';

let browser: Browser;
let page: Page;
let errors: string[];
beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
});
afterAll(async () => {
  await browser.close();
});

/** Brings a manuscript in and stays on its intake sheet; answers the title's id. */
async function onSheet(name: string, bytes: Uint8Array): Promise<string> {
  await page.goto(`${address()}/titles`);
  await page.setInputFiles('input[aria-label="Manuscript file"]', {
    name,
    mimeType: 'application/octet-stream',
    buffer: Buffer.from(bytes),
  });
  await page.waitForURL(/\/order$/, { timeout: 30_000 });
  await page.waitForSelector('[data-intake]');
  return new URL(page.url()).pathname.split('/')[2] as string;
}
const rows = (): Promise<(string | null)[]> =>
  page.$$eval('[data-intake]', (r) => r.map((x) => x.getAttribute('data-kind')));

describe('several files dropped at once', () => {
  it('are put where they belong, and the sheet says where', async () => {
    const cover = await sharp({ create: { width: 1600, height: 2500, channels: 3, background: '#456' } })
      .webp()
      .toBuffer();
    const sheet =
      'Title: Names on the Quay\nAuthor: Ines Calder\nISBN (ebook): 978-3-16-148410-0\nShoe size: 39';
    const file = (name: string, bytes: Uint8Array) => ({
      name,
      mimeType: 'application/octet-stream',
      buffer: Buffer.from(bytes),
    });
    await page.goto(`${address()}/titles`);
    await page.setInputFiles('input[aria-label="Manuscript file"]', [
      // Neither an empty file nor a picture that is none keeps the others back.
      file('Empty.docx', Buffer.alloc(0)),
      file('Broken portrait.webp', Buffer.concat([cover.subarray(0, 20), Buffer.alloc(400, 7)])),
      file('Quay cover.webp', cover),
      file('particulars.txt', Buffer.from(sheet)),
      file('Quay.docx', await styledManuscript()),
      file('accounts.xlsx', Buffer.from('not a book')),
    ]);
    await page.waitForURL(/\/order$/, { timeout: 30_000 });
    await page.getByText('Quay cover.webp was taken for the cover, by its name.').waitFor();
    await page.getByText(/^accounts\.xlsx was not used/).waitFor();
    await page.getByText('Empty.docx was left out. The file is empty.').waitFor();
    await page.getByText('Broken portrait.webp was not used: the picture could not be opened.').waitFor();
    expect(await page.getByLabel('Title of the book').inputValue()).toBe('Names on the Quay');
    const id = new URL(page.url()).pathname.split('/')[2] as string;
    const { book } = await serverBook(id);
    expect(book.editions.find((e) => e.id === 'ebook')?.isbn).toBe('9783161484100');
    expect(book.pictures.find((p) => p.id === book.record.cover)?.type).toBe('image/jpeg');
    expect(await new AxeBuilder(page).violations()).toEqual([]);
  });
});

describe('a newcomer', () => {
  it('tries the import with the manuscript that ships with the program', async () => {
    await page.goto(`${address()}/titles`);
    await page.getByRole('button', { name: 'Try it with a sample manuscript' }).click();
    await page.waitForURL(/\/order$/, { timeout: 30_000 });
    await page.waitForSelector('[data-intake]');
    // Counted in the demo's texts, from which the sample is typed: seven chapters, two appendices.
    const found = await rows();
    expect(['chapter', 'appendix', 'dedication'].map((k) => found.filter((x) => x === k).length)).toEqual([
      7, 2, 1,
    ]);
    expect(await page.getByLabel('Title of the book').inputValue()).toBe('Bees on a Flat Roof');
    await page.getByText(/Words are underlined in \d+ places/).waitFor();
  });
  it('has a word file with tracked changes read the other way', async () => {
    const change = { author: 'Kit', date: '2026-01-01T00:00:00Z' };
    const bytes = await Packer.toBuffer(
      new Document({
        sections: [
          {
            children: [
              new Paragraph({ heading: HeadingLevel.HEADING_1, children: [new TextRun('The Boat')] }),
              new Paragraph({
                children: [
                  new TextRun('The boat was '),
                  new DeletedTextRun({ text: 'red', id: 1, ...change }),
                  new InsertedTextRun({ text: 'green', id: 2, ...change }),
                  new TextRun(' that year, and nobody asked why it had been painted.'),
                ],
              }),
            ],
          },
        ],
      }),
    );
    const first = await onSheet('Tracked.docx', bytes);
    await page.getByText('2 tracked changes were accepted.').waitFor();
    await page.getByRole('button', { name: 'Import again with the changes rejected' }).click();
    await page.getByText('Tracked changes were rejected').waitFor({ timeout: 30_000 });
    const second = new URL(page.url()).pathname.split('/')[2] as string;
    expect(second).not.toBe(first);
    expect(JSON.stringify((await serverBook(second)).book.sections)).toContain('The boat was red that year');
    // What it took the place of can be restored.
    await page.goto(`${address()}/titles`);
    await page
      .getByText(/^Deleted \(/)
      .first()
      .waitFor();
  });
});

describe('the intake sheet', () => {
  it('shows what was found and why, and accounts for every word', async () => {
    await onSheet('Sheet.docx', await styledManuscript());
    expect((await rows()).length).toBeGreaterThan(4);
    await page
      .getByText(/certain: /)
      .first()
      .waitFor();
    const words = (await page.locator('[data-account]').innerText())
      .match(/[\d,]+/g)!
      .map((n) => Number(n.replace(/,/g, '')));
    expect(words[0]).toBe(words[1]! + words[2]!);
    expect(await new AxeBuilder(page).violations()).toEqual([]);
  });
  it('changes a kind, offers the same for the others, and undoes it', async () => {
    const id = await onSheet('Others.docx', await unstyledManuscript(5));
    const before = await rows();
    const chapters = before.filter((k) => k === 'chapter').length;
    expect(chapters).toBeGreaterThan(2);
    const row = page.locator('[data-intake][data-kind="chapter"]').first();
    await choose(row.getByRole('combobox'), 'Interlude');
    await page.getByRole('button', { name: /^The same for the/ }).click();
    await page.waitForFunction(
      (n) => document.querySelectorAll('[data-intake][data-kind="interlude"]').length === n,
      chapters,
    );
    await saved(page);
    expect((await serverBook(id)).book.sections.filter((s) => s.kind === 'interlude').length).toBe(chapters);
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await page.waitForFunction(
      () => document.querySelectorAll('[data-intake][data-kind="interlude"]').length === 0,
    );
    expect(await rows()).toEqual(before);
  });
  it('joins a section that is none to the one before', async () => {
    await onSheet('Join.docx', await unstyledManuscript(3));
    const before = (await rows()).length;
    await page.getByRole('button', { name: 'Join with previous' }).last().click();
    await page.waitForFunction((n) => document.querySelectorAll('[data-intake]').length === n, before - 1);
  });
  it('divides, joins and moves the others alike, each with one undo', async () => {
    const md = `# Part One: Water\n\n${['Boat', 'Tide', 'Rope']
      .map((c, i) => `## Chapter ${i + 1}: The ${c}\n\nText of it.\n\n### Morning\n\nAt first.\n`)
      .join('\n')}`;
    await onSheet('Alike.md', new TextEncoder().encode(md));
    const before = (await rows()).length;
    const all = (n: number): Promise<unknown> =>
      page.waitForFunction((k) => document.querySelectorAll('[data-intake]').length === k, n);
    const same = async (n: number): Promise<void> =>
      page
        .getByRole('button', {
          name: n === 1 ? 'The same for the other one' : `The same for the ${n} others`,
        })
        .click();
    const boat = page.locator('[data-intake]', { hasText: 'The Boat' });
    await boat.getByRole('button', { name: 'Split' }).click();
    await page.getByLabel('Split before').getByText('Morning').click();
    await all(before + 1);
    await same(2);
    await all(before + 3);
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await all(before + 1);
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await all(before);
    const depth = await boat.getAttribute('data-depth');
    await boat
      .getByRole('button', { name: depth === '1' ? 'Out of the part' : 'Into the part above' })
      .click();
    await expect.poll(() => boat.getAttribute('data-depth')).not.toBe(depth);
    const others = page.locator(`[data-intake][data-kind="chapter"][data-depth="${depth}"]`);
    await same(await others.count());
    await expect.poll(() => others.count()).toBe(0);
    await page.locator('[data-intake]', { hasText: 'The Tide' }).getByText('Join with previous').click();
    await all(before - 1);
    await same(await page.locator('[data-intake][data-kind="chapter"]').count());
    await all(before - 3);
  });
  it('divides a section, and puts it into the part above and out again', async () => {
    const md =
      '# Part One\n\n## Chapter 1: The Boat\n\nText.\n\nMore of it.\n\n# Chapter Two: The Tide\n\nMore.\n';
    await onSheet('Level.md', new TextEncoder().encode(md));
    const boat = page.locator('[data-intake]', { hasText: 'The Boat' });
    const before = (await rows()).length;
    await boat.getByRole('button', { name: 'Split' }).click();
    await page.getByLabel('Split before').getByText('More of it.').click();
    await page.waitForFunction((n) => document.querySelectorAll('[data-intake]').length === n, before + 1);
    const depth = await boat.getAttribute('data-depth');
    await boat
      .getByRole('button', { name: depth === '1' ? 'Out of the part' : 'Into the part above' })
      .click();
    await expect.poll(() => boat.getAttribute('data-depth')).not.toBe(depth);
    await page.getByLabel('Title of the book').fill('Posts');
    await page.getByLabel('Title of the book').press('Enter');
    await page.getByLabel('Author', { exact: true }).fill('Ines Calloway');
    await page.getByLabel('Author', { exact: true }).press('Enter');
    await page.locator('header').getByText('Posts').waitFor();
  });
  it('shows its doubts first, with their number and where they stand', async () => {
    const p = (text: string, css = ''): string => `<p style="${css}">${text}</p>`;
    const prose = p(
      'The tide came in over the flats before anyone had thought to move the carts. '.repeat(8),
    );
    const head = (text: string): string =>
      p('&nbsp;').repeat(3) + p(text, 'font-weight:bold;text-align:center');
    const html = `${p('Prologue', 'font-weight:bold;page-break-before:always')}${prose}${head('The Boat')}${prose}${head('Eels')}${prose}`;
    await onSheet('Doubts.html', new TextEncoder().encode(`<html><body>${html}</body></html>`));
    await page.getByRole('heading', { name: 'Doubtful (2)' }).waitFor();
    expect(await rows()).toEqual(['chapter', 'chapter', 'prologue']);
    await page.getByText('it follows “Prologue”').waitFor();
    await page.getByRole('heading', { name: 'The others, in order (1)' }).waitFor();
  });
  it('splits at a line that is found by typing, in a quotation too, and takes the heading out of the text', async () => {
    const md = `# Chapter 1\n\nText of it.\n\n> Quoted words.\n>\n> Chapter Two\n>\n> More words.\n\n${'Filler.\n\n'.repeat(30)}The end of it all.\n`;
    const id = await onSheet('Find.md', new TextEncoder().encode(md));
    await page.locator('[data-intake]').first().getByRole('button', { name: 'Split' }).click();
    await page.getByLabel('Find a line to split at').fill('two');
    await expect.poll(() => page.getByLabel('Split before').getByRole('button').count()).toBe(1);
    await page.getByLabel('Split before').getByText('Chapter Two').click();
    await page.waitForFunction(() => document.querySelectorAll('[data-intake]').length === 2);
    await saved(page);
    const [first, second] = (await serverBook(id)).book.sections;
    expect([first!.title, second!.title, second!.numbered]).toEqual(['', '', true]);
    expect(JSON.stringify(first!.content)).toContain('Quoted words.');
    expect(JSON.stringify(second!.content)).not.toContain('Chapter Two');
    expect(JSON.stringify(second!.content)).toContain('More words.');
  });
  it('makes a part of a chapter, which takes in those below it', async () => {
    const md = ['Water', 'The Boat', 'The Tide'].map((t) => `# ${t}\n\nText of ${t}.\n`).join('\n');
    const id = await onSheet('Part.md', new TextEncoder().encode(md));
    await choose(page.locator('[data-intake]', { hasText: 'Water' }).first().getByRole('combobox'), 'Part');
    await expect.poll(() => page.locator('[data-intake][data-depth="1"]').count()).toBe(2);
    await saved(page);
    const { sections } = (await serverBook(id)).book;
    expect(sections.map((s) => s.parent)).toEqual([null, sections[0]!.id, sections[0]!.id]);
  });
  it('opens what was set aside and puts it back into its section', async () => {
    const md = '# Chapter One: The Boat\n\nText.\n\n# Chapter Two: The Tide\n\nMore.\n';
    const id = await onSheet('Aside.md', new TextEncoder().encode(md));
    await page.getByText(/Chapter numbers/).click();
    await page.getByRole('button', { name: 'Restore' }).nth(1).click();
    await page.getByText('restored', { exact: true }).waitFor();
    await page.getByText(/Restored at the end of/).waitFor();
    await saved(page);
    const { sections } = (await serverBook(id)).book;
    expect(JSON.stringify(sections[1]!.content)).toContain('Chapter Two');
    await page.reload();
    await page.waitForSelector('[data-intake]');
    await page.getByText(/Chapter numbers/).click();
    await expect.poll(() => page.getByText('restored', { exact: true }).count()).toBe(1);
  });
  it('is left by accepting, stays left over a reload, and opens again', async () => {
    await onSheet('Accept.docx', await unstyledManuscript(3));
    const found = await rows();
    await acceptIntake(page);
    expect(await kinds(page)).toEqual(found);
    await page.reload();
    await page.waitForSelector('tr[data-section]');
    await page.getByRole('button', { name: 'How it was read' }).click();
    await page.waitForSelector('[data-intake]');
    await page.getByRole('button', { name: 'Back to the running order' }).click();
    await page.waitForSelector('tr[data-section]');
  });
  it('is not there for a title that began blank', async () => {
    await page.goto(`${address()}/titles`);
    await page.getByRole('button', { name: 'Start a blank title' }).click();
    await page.getByLabel('Title of the book').fill('Blank');
    await page.getByRole('button', { name: 'Begin' }).click();
    await page.waitForURL(/\/manuscript$/);
    await page.goto(page.url().replace('manuscript', 'order'));
    await page.waitForSelector('tr[data-section]');
    await expect.poll(() => page.getByRole('button', { name: 'How it was read' }).count()).toBe(0);
    expect(errors).toEqual([]);
  });
});
