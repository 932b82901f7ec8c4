import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import type { Browser, Page } from 'playwright-core';
import { readFileSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { checkPdf } from '@pagina/core/check';
import {
  acceptIntake,
  address,
  AxeBuilder,
  bringIn,
  choose,
  chooseText,
  kinds,
  openBrowser,
  pagesInStrip,
  saved,
  serverBook,
  station,
  textOf,
} from './browser';
import { makeEbook } from '@pagina/make';
import type { Book } from '@pagina/core/book';
import { threeChapters } from '../core/test/fixtures/books';
import { png, styledManuscript, unstyledManuscript } from '../core/test/fixtures/manuscript';
import { faultsOf } from '../core/test/fixtures/checked';

async function ebookOf(book: Book): Promise<Uint8Array> {
  const made = await makeEbook(book, 'ebook', { pictures: () => null, print: null });
  if (!made.ok) throw new Error(made.refusal.message);
  return made.value.bytes;
}

let browser: Browser;
let page: Page;
let errors: string[];
let id: string;
beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
  id = await bringIn(page, 'The Causeway.docx', await styledManuscript());
});
afterAll(async () => {
  await browser.close();
});

describe('titles', () => {
  it('shows the book that was brought in, deletes it, and brings it back', async () => {
    await page.goto(`${address()}/titles`);
    const own = page.locator('tr', { has: page.locator(`a[href*="${id}"]`) });
    await own.getByRole('link', { name: /The Causeway/ }).waitFor();
    await own.getByRole('button', { name: 'Delete The Causeway' }).click();
    await own.waitFor({ state: 'detached' });
    await page.getByRole('button', { name: 'Undo' }).click();
    await own.getByRole('link', { name: /The Causeway/ }).waitFor();
  });
  it('refuses what it cannot read in one sentence', async () => {
    await page.goto(`${address()}/titles`);
    await page.setInputFiles('input[aria-label="Manuscript file"]', {
      name: 'letter.docx',
      mimeType: 'application/octet-stream',
      buffer: Buffer.from('not a docx'),
    });
    await page
      .locator('main')
      .getByText(/letter\.docx: This is not a \.docx file/)
      .waitFor();
    await page.setInputFiles('input[aria-label="Manuscript file"]', {
      name: 'picture.png',
      mimeType: 'image/png',
      buffer: Buffer.from(png(2, 2)),
    });
    await page.getByText(/Pagina can’t read “picture\.png”/).waitFor();
  });
  it('brings in Markdown, an EPUB made here, and text that is pasted', async () => {
    const md = '# The Boat\n\nText *here*[^1].\n\n# The Tide\n\nMore.\n\n[^1]: A note.\n';
    await bringIn(page, 'Saltings.md', new TextEncoder().encode(md));
    expect(await kinds(page)).toEqual(['chapter', 'chapter']);
    const bytes = await ebookOf(threeChapters());
    await bringIn(page, 'The Causeway again.epub', bytes);
    expect(await kinds(page)).toEqual(expect.arrayContaining(['part', 'chapter', 'acknowledgements']));
    await page.goto(`${address()}/titles`);
    await page.getByRole('button', { name: 'Import a manuscript' }).waitFor();
    await page.evaluate(() => {
      const data = new DataTransfer();
      data.setData(
        'text/html',
        '<h1>Chapter One</h1><p>Pasted <i>words</i>.</p><h1>Chapter Two</h1><p>End.</p>',
      );
      dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }));
    });
    await acceptIntake(page);
    expect(await kinds(page)).toEqual(['chapter', 'chapter']);
  });
  it('starts a blank title that opens in the manuscript', async () => {
    await page.goto(`${address()}/titles`);
    await page.getByRole('button', { name: 'Start a blank title' }).click();
    await page.getByLabel('Title of the book').fill('A New Thing');
    await page.getByRole('button', { name: 'Begin' }).click();
    await page.waitForURL(/\/manuscript$/);
    await page.waitForSelector('[data-pages]:not([data-pages="0"])');
    expect(await pagesInStrip(page)).toBeGreaterThan(3);
  });
});

describe('the running order', () => {
  it('shows sections with their kinds and where they start', async () => {
    await station(page, id, 'order');
    expect(await kinds(page)).toEqual([
      'title-page',
      'copyright-page',
      'dedication',
      'contents',
      'part',
      'chapter',
      'chapter',
      'acknowledgements',
      'about-author',
    ]);
    expect(await page.locator('tr[data-section]').nth(5).textContent()).toMatch(/3 right/);
  });
  it('renames, and undoes after a reload', async () => {
    await station(page, id, 'order');
    const row = page.locator('tr[data-section]').nth(5);
    await row.getByText('The Carts').dblclick();
    await page.getByRole('grid').getByLabel('Title', { exact: true }).fill('The Wagons');
    await page.keyboard.press('Enter');
    await page.getByText('The Wagons').first().waitFor();
    await saved(page);
    await station(page, id, 'order');
    await page.getByRole('group', { name: /Running order/ }).focus();
    await page.keyboard.press('Control+z');
    await page.getByText('The Carts').first().waitFor();
    expect((await serverBook(id)).book.sections[5]?.title).toBe('The Carts');
  });
  it('changes a kind in one action', async () => {
    await choose(page.getByLabel('Kind of About the Author'), 'Afterword');
    await page.waitForSelector('tr[data-kind="afterword"]');
    await page.keyboard.press('Control+z');
    await page.waitForSelector('tr[data-kind="about-author"]');
  });
  it('moves by keyboard and by drag', async () => {
    await station(page, id, 'order');
    const before = (await serverBook(id)).book.sections.map((s) => s.id);
    await page.locator('tr[data-section]').nth(7).click();
    await page.getByRole('group', { name: /Running order/ }).focus();
    await page.keyboard.press('Alt+ArrowDown');
    await expect
      .poll(async () => (await serverBook(id)).book.sections.map((s) => s.kind).slice(-2))
      .toEqual(['about-author', 'acknowledgements']);
    const handle = page.getByRole('button', { name: /Move Acknowledgements/ });
    const target = page.getByRole('button', { name: /Move About the Author/ });
    const [a, b] = [await handle.boundingBox(), await target.boundingBox()];
    await page.mouse.move(a!.x + 5, a!.y + 5);
    await page.mouse.down();
    await page.mouse.move(a!.x + 5, a!.y - 10, { steps: 4 });
    await page.mouse.move(b!.x + 5, b!.y + 2, { steps: 8 });
    await page.mouse.up();
    await expect.poll(async () => (await serverBook(id)).book.sections.map((s) => s.id)).toEqual(before);
  });
  it('joins without losing text and undoes it', async () => {
    await station(page, id, 'order');
    await page.locator('tr[data-section]').nth(6).click();
    await page.getByRole('button', { name: 'Join with previous' }).click();
    await expect.poll(async () => (await kinds(page)).length).toBe(8);
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await expect.poll(async () => (await kinds(page)).length).toBe(9);
  });
  it('leaves a section out of one edition, and its pages go', async () => {
    await station(page, id, 'order');
    const pages = await pagesInStrip(page);
    await page.getByRole('switch', { name: 'Paperback carries Acknowledgements' }).click();
    await expect.poll(() => pagesInStrip(page)).toBeLessThan(pages);
    await page.getByRole('switch', { name: 'Paperback carries Acknowledgements' }).click();
    await expect.poll(() => pagesInStrip(page)).toBe(pages);
  });
  it('calls in a page that the book lacks', async () => {
    await page.getByRole('button', { name: 'Add it' }).first().click();
    await page.waitForSelector('tr[data-kind="half-title"]');
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await page.waitForSelector('tr[data-kind="half-title"]', { state: 'detached' });
  });
});

describe('the manuscript', () => {
  const editor = () => page.getByRole('textbox', { name: 'The Carts' });
  it('keeps what is typed, and shows folio and line beside it', async () => {
    await station(page, id, 'manuscript');
    await textOf(page, 'The Carts');
    await page.waitForSelector('[data-folio^="3 · "]');
    await editor().locator('p').first().click();
    await page.keyboard.press('Home');
    await page.keyboard.type('Slowly, slowly. ');
    await saved(page);
    await expect
      .poll(async () => JSON.stringify((await serverBook(id)).book.sections[5]?.content))
      .toContain('Slowly, slowly.');
    await station(page, id, 'manuscript');
    await textOf(page, 'The Carts');
    expect(await editor().textContent()).toContain('Slowly, slowly.');
  });
  it('moves the pages as one types', async () => {
    await station(page, id, 'manuscript');
    const pages = await pagesInStrip(page);
    await textOf(page, 'The Carts');
    await editor().locator('p').nth(1).click();
    await page.keyboard.press('End');
    await page.keyboard.insertText(
      ` ${'The tide came in over the flats before anyone had thought to move the carts. '.repeat(60)}`,
    );
    await expect.poll(() => pagesInStrip(page), { timeout: 10_000 }).toBeGreaterThan(pages);
    await saved(page);
    await page.keyboard.press('Control+z');
    await expect.poll(() => pagesInStrip(page), { timeout: 10_000 }).toBe(pages);
  });
  it('sets emphasis and subheads, names the style under the cursor, and puts in a break', async () => {
    await textOf(page, 'The Carts');
    await editor().locator('p').nth(1).click();
    expect(await page.textContent('[data-style-name]')).toBe('Text');
    await choose(page.getByLabel('Style of the paragraph'), 'Subhead 2');
    expect(await page.textContent('[data-style-name]')).toBe('Subhead 2');
    await choose(page.getByLabel('Style of the paragraph'), 'Text');
    await chooseText(page, editor().locator('p').nth(1));
    await page.keyboard.press('Control+i');
    await expect.poll(() => editor().locator('p').nth(1).locator('em').count()).toBe(1);
    const rules = await editor().locator('hr').count();
    await page.getByRole('button', { name: 'Insert', exact: true }).click();
    await page.getByRole('menuitem', { name: 'Break with ornament' }).click();
    await expect.poll(() => editor().locator('hr').count()).toBe(rules + 1);
    await saved(page);
    for (let i = 0; i < 4; i++) {
      await page.getByRole('button', { name: 'Undo' }).first().click();
      await saved(page);
    }
    await expect.poll(() => editor().locator('hr').count()).toBe(rules);
  });
  it('divides a section where the cursor stands', async () => {
    await station(page, id, 'manuscript');
    await textOf(page, 'The Carts');
    await editor().locator('h2').click();
    await page.getByRole('button', { name: 'Split section here' }).click();
    await expect.poll(async () => (await serverBook(id)).book.sections.length).toBe(10);
    expect((await serverBook(id)).book.sections[6]?.title).toBe('What the carter said');
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await expect.poll(async () => (await serverBook(id)).book.sections.length).toBe(9);
  });
  it('brings two tabs in one section together without losing a word of either', async () => {
    const other = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await station(page, id, 'manuscript');
    await station(other, id, 'manuscript');
    const type = async (p: Page, n: number, words: string): Promise<void> => {
      const e = await textOf(p, 'The Carts');
      await e.locator('p').nth(n).click();
      await p.keyboard.press('Home');
      await p.keyboard.type(words);
    };
    await Promise.all([type(page, 0, 'From here. '), type(other, 1, 'From there. ')]);
    await saved(page);
    await saved(other);
    await expect
      .poll(async () => JSON.stringify((await serverBook(id)).book.sections[5]?.content), { timeout: 10_000 })
      .toMatch(/From here\. .*From there\. /);
    for (const p of [page, other])
      await expect
        .poll(() => p.getByRole('textbox', { name: 'The Carts' }).textContent())
        .toMatch(/From here\. .*From there\. /s);
    await other.close();
  });
  it('saves words once whose answer was lost on the way', async () => {
    await station(page, id, 'manuscript');
    let lost = 0;
    await page.route('**/changes', async (route) => {
      if (lost++ > 0) return route.continue();
      await route.fetch();
      await route.abort();
    });
    await textOf(page, 'The Carts');
    await editor().locator('p').first().click();
    await page.keyboard.press('Home');
    await page.keyboard.type('Said once. ');
    await expect.poll(() => lost, { timeout: 10_000 }).toBeGreaterThan(0);
    await saved(page);
    await page.unroute('**/changes');
    expect(JSON.stringify((await serverBook(id)).book.sections[5]?.content).split('Said once.')).toHaveLength(
      2,
    );
    expect((await editor().textContent())?.split('Said once.')).toHaveLength(2);
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await expect.poll(() => editor().textContent()).not.toContain('Said once.');
  });
  it('sends the last words when the page is left', async () => {
    await station(page, id, 'manuscript');
    await textOf(page, 'The Carts');
    await editor().locator('p').first().click();
    await page.keyboard.press('Home');
    await page.keyboard.type('Last words. ', { delay: 0 });
    await page.goto('about:blank');
    await expect
      .poll(async () => JSON.stringify((await serverBook(id)).book.sections[5]?.content))
      .toContain('Last words.');
  });
});

describe('the strip and the proof', () => {
  it('draws pages with ink on them', async () => {
    await station(page, id, 'proof');
    await page.getByLabel('Folio').fill('999');
    await page.getByRole('button', { name: 'Go', exact: true }).click();
    await page.getByRole('alert').getByText('No page has this folio.').waitFor();
    await page.getByLabel('Folio').fill('3');
    await page.getByRole('button', { name: 'Go' }).click();
    const canvas = page.locator('figure[aria-label="Page 3"] canvas');
    await expect.poll(() => canvas.getAttribute('data-drawn')).not.toBeNull();
    const dark = await canvas.evaluate((c: HTMLCanvasElement) => {
      const d = c.getContext('2d')!.getImageData(0, 0, c.width, c.height).data;
      let n = 0;
      for (let i = 0; i < d.length; i += 4) if ((d[i] as number) < 90) n++;
      return n / (d.length / 4);
    });
    expect(dark).toBeGreaterThan(0.0008);
    expect(dark).toBeLessThan(0.2);
  });
  it('lays grid and margins over the page and lets its words be found', async () => {
    await page.getByRole('button', { name: 'Overlays' }).click();
    await page.getByRole('button', { name: 'Grid' }).click();
    await page.getByRole('button', { name: 'Type area' }).click();
    expect(
      [
        await page.locator('[data-overlay="grid"]').count(),
        await page.locator('[data-overlay="margins"]').count(),
      ].every((n) => n >= 1),
    ).toBe(true);
    expect(await page.locator('figure[aria-label="Page 3"] [data-text]').textContent()).toContain(
      'in the mud',
    );
  });
  it('finds words over the ends of lines, marks them and goes from place to place', async () => {
    await page.keyboard.press('Control+f');
    await page.getByLabel('Words to find').fill('in the mud');
    await page.getByText(/^\d+ places?$/).waitFor();
    await page.keyboard.press('Enter');
    const marked = page.locator('[data-overlay="found"]').first();
    await marked.waitFor();
    // The mark lies on the line whose words hold what was sought, or its beginning.
    const box = (await marked.boundingBox())!;
    const words = await page.locator('[data-text] span').evaluateAll(
      (all, y) =>
        all
          .filter((e) => Math.abs(e.getBoundingClientRect().top - y) < 4)
          .map((e) => e.textContent)
          .join(' '),
      box.y,
    );
    expect(words).toMatch(/\bin\b/);
    await page.getByLabel('Words to find').fill('no such words at all');
    await page.getByText('Not found in the pages.').waitFor();
    await page
      .getByRole('complementary', { name: 'Find on the pages' })
      .getByRole('button', { name: 'Close' })
      .click();
  });
  it('shows single pages, any size, and all pages at once', async () => {
    await page.getByRole('radio', { name: 'Single pages' }).click();
    await expect.poll(() => page.locator('figure[data-page]').count()).toBe(1);
    await page.getByLabel('Size').fill('130');
    await page.getByLabel('Size').press('Enter');
    await expect
      .poll(async () => Math.round((await page.locator('figure[data-page]').boundingBox())!.width))
      .toBe(Math.round(396 * (96 / 72) * 1.3) + 2);
    await page.getByRole('button', { name: 'Fit', exact: true }).click();
    await page.getByRole('radio', { name: 'All pages' }).click();
    await page.locator('[data-thumbnail="2"]').click();
    await page.waitForSelector('figure[aria-label="Page iii"], figure[data-page="3"]');
    expect(await page.getByRole('radio', { name: 'Spreads' }).isChecked()).toBe(true);
  });
  it('turns by keyboard and follows a click in the strip', async () => {
    await page.keyboard.press('Home');
    await page.getByRole('button', { name: /^Page 5, / }).click();
    await page.waitForSelector('figure[aria-label="Page 5"]');
    await page.getByRole('button', { name: 'Fold', exact: true }).click();
    await page.getByRole('button', { name: 'Unfold the strip' }).click();
  });
});

describe('the record', () => {
  it('keeps fields, tells a mistyped ISBN, and reaches the title page', async () => {
    await station(page, id, 'record');
    await page.getByLabel('Imprint', { exact: true }).fill('Shingle Street Books');
    await page.keyboard.press('Enter');
    await page.getByLabel('ISBN of the ebook').fill('978-92-95055-12-5');
    await page.keyboard.press('Enter');
    await page
      .getByText(/one of the digits is mistyped/)
      .first()
      .waitFor();
    await page.getByLabel('ISBN of the ebook').fill('978-92-95055-12-4');
    await page.keyboard.press('Enter');
    await page.getByLabel('List price of the ebook').fill('4.99');
    await page.keyboard.press('Enter');
    await expect
      .poll(async () => (await serverBook(id)).book.record)
      .toMatchObject({ imprint: 'Shingle Street Books', price: { minor: 499, currency: 'GBP' } });
    await page.setInputFiles('input[aria-label="Cover picture"]', {
      name: 'cover.png',
      mimeType: 'image/png',
      buffer: Buffer.from(png(160, 250)),
    });
    await page.getByAltText('The cover').waitFor();
    await saved(page);
  });
});

describe('editions', () => {
  async function make(edition: string): Promise<Buffer> {
    const row = page.locator(`tr[data-edition="${edition}"]`);
    await row.getByRole('button', { name: /^Make the/ }).click();
    await row.getByRole('link').waitFor({ timeout: 30_000 });
    const [download] = await Promise.all([page.waitForEvent('download'), row.getByRole('link').click()]);
    const bytes = readFileSync(await download.path());
    // A tip closes when the page scrolls beneath it.
    const code = row.locator('code');
    const tip = async (): Promise<string | null> => {
      await code.blur();
      await code.scrollIntoViewIfNeeded();
      await code.focus();
      const words = await page
        .getByRole('tooltip')
        .textContent({ timeout: 1_500 })
        .catch(() => null);
      return words?.replace('SHA-256 ', '') ?? null;
    };
    await expect.poll(tip, { timeout: 15_000 }).toBe(createHash('sha256').update(bytes).digest('hex'));
    // That an ebook has no cover is advice, no fault.
    // The picture of the manuscript has few pixels, and the cover, a small one without words, is no real one: that is said.
    expect(await row.textContent()).not.toMatch(
      /blocker|caution(?! picture-1 is drawn smaller| Lanternquay requires a cover| The (?:title|author), )/,
    );
    return bytes;
  }
  it('makes a paperback that passes every check', async () => {
    await station(page, id, 'editions');
    const checked = await checkPdf(new Uint8Array(await make('paperback')));
    expect(checked.ok && checked.value.map((f) => f.rule)).toEqual(['pdf/soft-picture']);
  });
  it('makes the same pages for the screen, by the standard and the paper that are chosen', async () => {
    const screen = await getDocument({ data: new Uint8Array(await make('paperback/screen')) }).promise;
    expect((await screen.getOutline()).length).toBeGreaterThan(0);
    expect((await screen.getMarkInfo())?.Marked).toBe(true);
    const row = page.locator('tr[data-edition="paperback"]');
    const spine = row.getByText(/^spine/);
    const before = await spine.textContent();
    await choose(row.getByLabel('Paper of the paperback'), 'White, 80 g/m²');
    await expect.poll(() => spine.textContent()).not.toBe(before);
    await choose(row.getByLabel(/^Standard of the printer/), 'PDF/X-4');
    await saved(page);
    const print = (await serverBook(id)).book as unknown as {
      editions: { standard: string; paper: string }[];
    };
    expect(print.editions[0]).toMatchObject({ standard: 'x-4', paper: 'white-80' });
  });
  it('gives the folios of the print edition that is chosen, or none', async () => {
    const list = page.locator('tr[data-edition="ebook"]').getByLabel('Page list of the ebook');
    expect(await list.textContent()).toContain('folios of the paperback');
    await choose(list, 'no page list');
    await saved(page);
    const ebook = async (): Promise<unknown> =>
      (
        (await serverBook(id)).book as unknown as { editions: { form: string; pageList?: string | null }[] }
      ).editions.find((e) => e.form === 'reflow')?.pageList;
    expect(await ebook()).toBeNull();
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await expect.poll(() => list.textContent()).toContain('folios of the paperback');
    await saved(page);
    expect(await ebook()).toBe('paperback');
  });
  it('makes an ebook that passes every check and opens in the epubjs library with the same contents', async () => {
    const bytes = await make('ebook');
    expect(faultsOf(new Uint8Array(bytes))).toEqual([]);
    // epubjs (and the zip library it asks for) run in a bare page; the book goes in as bytes.
    const bare = await browser.newPage();
    await bare.addScriptTag({ path: 'node_modules/jszip/dist/jszip.min.js' });
    await bare.addScriptTag({ path: 'node_modules/epubjs/dist/epub.min.js' });
    const labels = await bare.evaluate(async (base64) => {
      const book = (
        window as unknown as {
          ePub(): {
            open(b: ArrayBuffer): Promise<unknown>;
            loaded: { navigation: Promise<{ toc: { label: string; subitems: { label: string }[] }[] }> };
          };
        }
      ).ePub();
      await book.open(Uint8Array.from(atob(base64), (c) => c.charCodeAt(0)).buffer);
      return (await book.loaded.navigation).toc
        .flatMap((t) => [t.label, ...t.subitems.map((s) => s.label)])
        .map((l) => l.trim());
    }, bytes.toString('base64'));
    expect(labels).toEqual([
      'Part I: Water',
      'Chapter One: The Carts',
      'Chapter Two',
      'Acknowledgements',
      'About the Author',
    ]);
    await bare.close();
  });
});

it.each(['order', 'manuscript', 'design', 'proof', 'record', 'editions'])(
  'the station %s passes axe-core and fits the window',
  async (name) => {
    await station(page, id, name);
    await page.waitForTimeout(300);
    expect(await new AxeBuilder(page).violations()).toEqual([]);
    expect(
      await page.evaluate(() => [
        document.documentElement.scrollHeight <= innerHeight,
        document.documentElement.scrollWidth <= innerWidth,
      ]),
    ).toEqual([true, true]);
  },
);
it('a long book does not widen the window', async () => {
  const long = await bringIn(page, 'Long.docx', await unstyledManuscript(60));
  await station(page, long, 'order');
  expect(await pagesInStrip(page)).toBeGreaterThan(100);
  expect(
    await page.evaluate(() => [
      document.documentElement.scrollWidth <= innerWidth,
      document.body.scrollWidth <= innerWidth,
      (document.querySelector('main') as HTMLElement).scrollWidth <= innerWidth,
    ]),
  ).toEqual([true, true, true]);
  expect(await page.getByRole('button', { name: 'Add a chapter' }).isVisible()).toBe(true);
  const box = await page.getByRole('button', { name: 'Add a chapter' }).boundingBox();
  expect(box!.x + box!.width).toBeLessThanOrEqual(1280);
});
it('the list of titles passes axe-core', async () => {
  await page.goto(`${address()}/titles`);
  await page.waitForSelector('table');
  expect(await new AxeBuilder(page).violations()).toEqual([]);
});
it('answers only to its own address and its own pages', async () => {
  expect(
    (
      await fetch(`${address()}/api/titles`, {
        method: 'POST',
        headers: { Origin: 'http://elsewhere.example', 'Content-Type': 'application/json' },
        body: '{"title":"x"}',
      })
    ).status,
  ).toBe(403);
});
it('no page threw an error', () => expect(errors).toEqual([]));
