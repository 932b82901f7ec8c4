/**
 * An EPUB opened as it is. What a copy holds is read by fflate; where passages and their sources lie is measured in
 * Chromium; the number of an element is compared with that of Chromium’s own tree.
 */
import { readFileSync } from 'node:fs';
import { unzipSync, zipSync, strToU8, type Zippable } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Browser, FrameLocator, Locator, Page } from 'playwright-core';
import { locate } from '@pagina/core/emend';
import { FOREIGN, foreignEpub } from '../core/test/fixtures/foreign';
import { png } from '../core/test/fixtures/manuscript';
import { acceptIntake, address, AxeBuilder, openBrowser, saved } from './browser';

let browser: Browser;
let page: Page;
let errors: string[];

beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
  await openAsItIs(page, 'Weir.epub', foreignEpub());
});
afterAll(async () => {
  await browser.close();
});

async function openAsItIs(on: Page, name: string, bytes: Uint8Array): Promise<void> {
  await on.goto(`${address()}/titles`);
  await on.setInputFiles('input[aria-label="EPUB file"]', {
    name,
    mimeType: 'application/epub+zip',
    buffer: Buffer.from(bytes),
  });
  await on.waitForURL(/\/ebooks\//);
  await on.waitForSelector('[data-document]');
}
const view = (name: string): Promise<void> =>
  page.getByRole('navigation', { name: 'Views' }).getByRole('link', { name }).click();
const strip = (): Promise<string[]> =>
  page.$$eval('[data-document]', (all) => all.map((b) => b.querySelector('span')?.textContent ?? ''));
const frame = (on = page): FrameLocator => on.frameLocator('main iframe').first();
const show = async (label: string): Promise<void> => {
  await page.locator('[data-document]', { hasText: label }).first().click();
  await page.locator(`main iframe[title="${label}"]`).waitFor();
};
const source = (): Locator => page.getByRole('group', { name: 'Source of the passage' });
const sourceWords = (): Promise<string> => source().locator('.cm-content').innerText();
const menu = async (label: string, item: string): Promise<void> => {
  await page.getByRole('button', { name: label, exact: true }).click();
  await page.getByRole('menuitem', { name: item }).click();
};
async function copy(on = page): Promise<Record<string, Uint8Array>> {
  await saved(on);
  const id = new URL(on.url()).pathname.split('/')[2] ?? '';
  const r = await fetch(`${address()}/api/ebooks/${id}/copy`);
  return unzipSync(new Uint8Array(await r.arrayBuffer()));
}
const textIn = (parts: Record<string, Uint8Array>, path: string): string =>
  new TextDecoder().decode(parts[path]);
async function isAccessible(): Promise<void> {
  // A message that comes or goes is half transparent.
  await expect.poll(() => page.locator('[data-sonner-toast]').count(), { timeout: 15_000 }).toBe(0);
  expect((await new AxeBuilder(page).violations()).join('; ')).toBe('');
}
const FIRST = 'OPS/Text/first chapter.xhtml';

describe('an EPUB opened as it is', () => {
  it('lies on the table, its documents along the strip by the names of its contents', async () => {
    expect(await strip()).toEqual(['The Weir', 'The Mill', 'The Race', 'Notes']);
    await frame().getByText('Then it froze.').waitFor();
    // Its style sheets and pictures are there, in the page and in the strip.
    expect(
      await frame()
        .locator('h1')
        .evaluate((h) => getComputedStyle(h).textAlign),
    ).toBe('center');
    await expect
      .poll(() =>
        frame()
          .locator('img')
          .evaluate((i: HTMLImageElement) => i.naturalWidth),
      )
      .toBe(60);
    await isAccessible();
    await page.waitForSelector('[data-findings="1"]');
  });
  it('has its elements numbered as Chromium numbers them', async () => {
    for (const [label, path] of [
      ['The Weir', FIRST],
      ['The Mill', 'OPS/Text/second.xhtml'],
      ['Notes', 'OPS/Text/notes.xhtml'],
    ] as const) {
      await show(label);
      await frame().locator('body').waitFor();
      const names = await frame()
        .locator(':root')
        .evaluate((r) => [...r.ownerDocument.getElementsByTagName('*')].map((e) => e.nodeName));
      expect(names).toEqual(locate(FOREIGN[path] as string).map((e) => e.name));
    }
  });
  it('opens the source of a passage beneath it, and what is typed there is seen at once', async () => {
    await show('The Weir');
    const passage = frame().getByText('No one came.');
    await frame().getByText('See later').click();
    await source().waitFor();
    expect(await sourceWords()).toBe(
      "<p>See <a href='#later'>later</a> and <a href='second.xhtml#wheel'>the wheel</a>.</p>",
    );
    await expect
      .poll(async () => {
        const [above, editor, below] = await Promise.all([
          frame().getByText('See later').boundingBox(),
          source().boundingBox(),
          frame().locator('h2').boundingBox(),
        ]);
        return (
          above!.y + above!.height <= editor!.y &&
          editor!.y - above!.y - above!.height < 30 &&
          editor!.y + editor!.height <= below!.y
        );
      })
      .toBe(true);
    await page.keyboard.type('Do ');
    await frame().getByText('Do See later').waitFor();
    await saved(page);
    const parts = await copy();
    const was = unzipSync(foreignEpub());
    expect(
      Object.keys(parts).filter((n) => Buffer.compare(parts[n] ?? Buffer.of(), was[n] ?? Buffer.of()) !== 0),
    ).toEqual([FIRST]);
    expect(textIn(parts, FIRST)).toBe((FOREIGN[FIRST] as string).replace('<p>See', '<p>Do See'));
    await source().locator('.cm-content').press('Control+z');
    await expect.poll(sourceWords).toContain('<p>See');
    await frame().getByText('See later').waitFor();
    await source().locator('.cm-content').press('Control+Shift+Z');
    await expect.poll(sourceWords).toContain('<p>Do See');
    await page.getByRole('button', { name: 'Undo', exact: true }).click();
    await expect.poll(sourceWords).toContain('<p>See');
    await source().locator('.cm-content').press('Alt+ArrowDown');
    await expect.poll(sourceWords).toContain('<h2 id=');
    await isAccessible();
    await page.keyboard.press('Escape');
    await source().waitFor({ state: 'detached' });
    expect(await passage.isVisible()).toBe(true);
  });
  it('is gone through by keys alone', async () => {
    await page.locator('main iframe').focus();
    for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
    await source().waitFor();
    const words = await sourceWords();
    await page.keyboard.press('Escape');
    await page.keyboard.press('ArrowUp');
    await page.keyboard.press('Enter');
    await expect.poll(sourceWords).not.toBe(words);
    await page.keyboard.press('Escape');
  });
  it('stays in sight while what is typed is not well-formed, and says where the fault is', async () => {
    await frame().getByText('No one came.').click();
    await source().waitFor();
    await page.keyboard.press('End');
    await page.keyboard.press('Control+End');
    for (let i = 0; i < 4; i++) await page.keyboard.press('Backspace');
    await page.getByText(/This isn’t well-formed, so the page still shows it as it was: line \d+/).waitFor();
    expect(await frame().getByText('No one came.').isVisible()).toBe(true);
    await expect.poll(() => page.locator('[data-findings]').innerText()).toMatch(/blocker/);
    await page.keyboard.type('</p>');
    await page.getByText(/This isn’t well-formed/).waitFor({ state: 'detached' });
    await expect.poll(() => page.locator('[data-findings]').innerText()).toBe('1 caution');
    await page.keyboard.press('Escape');
    expect(textIn(await copy(), FIRST)).toBe(FOREIGN[FIRST]);
  });
  it('has its documents moved by drag and by keys, and the contents follow', async () => {
    await page.locator('[data-document]', { hasText: 'The Race' }).focus();
    await page.keyboard.press('Alt+ArrowLeft');
    await expect.poll(strip).toEqual(['The Weir', 'The Race', 'The Mill', 'Notes']);
    await page.keyboard.press('Alt+ArrowLeft');
    await expect.poll(strip).toEqual(['The Race', 'The Weir', 'The Mill', 'Notes']);
    const [from, to] = await Promise.all(
      ['The Race', 'The Mill'].map((l) => page.locator('[data-document]', { hasText: l }).boundingBox()),
    );
    await page.mouse.move(from!.x + 20, from!.y + 40);
    await page.mouse.down();
    await page.mouse.move(from!.x + 40, from!.y + 42, { steps: 4 });
    await page.mouse.move(to!.x + 26, to!.y + 40, { steps: 8 });
    await page.mouse.up();
    await expect.poll(strip).toEqual(['The Weir', 'The Mill', 'The Race', 'Notes']);
    await view('Navigation');
    await expect
      .poll(() =>
        page
          .getByLabel('Words of the entry')
          .evaluateAll((all) => all.map((i) => (i as HTMLInputElement).value)),
      )
      .toEqual(['The Weir', 'Later', 'The Mill', 'The Race']);
    await view('Documents');
  });
  it('has its documents divided, joined, added, renamed and removed, and all of it undone', async () => {
    await show('The Weir');
    await frame().locator('h2').click();
    await source().getByRole('button', { name: 'Divide here' }).click();
    await expect.poll(strip).toEqual(['The Weir', 'Later', 'The Mill', 'The Race', 'Notes']);
    await frame().getByRole('heading', { name: 'Later & lower' }).waitFor();
    await page.getByRole('button', { name: 'Previous', exact: true }).click();
    await menu('Document', 'Join the next one to it');
    await expect.poll(strip).toEqual(['The Weir', 'The Mill', 'The Race', 'Notes']);
    await frame().getByRole('heading', { name: 'Later & lower' }).waitFor();
    await menu('Document', 'Add a document after it');
    await page.getByLabel('Its title').fill('An Eel');
    await page.getByRole('button', { name: 'Add', exact: true }).click();
    await expect.poll(strip).toEqual(['The Weir', 'An Eel', 'The Mill', 'The Race', 'Notes']);
    await frame().getByRole('heading', { name: 'An Eel' }).waitFor();
    await menu('Document', 'Rename the file');
    await page.getByLabel('Path in the ebook').fill('OPS/eel.xhtml');
    await page.getByRole('button', { name: 'Rename', exact: true }).click();
    await page.locator('[data-document="OPS/eel.xhtml"]').waitFor();
    await expect
      .poll(() =>
        frame()
          .locator('h1')
          .evaluate((h) => getComputedStyle(h).textAlign),
      )
      .toBe('center');
    await page.locator('[data-document="OPS/eel.xhtml"]').press('Delete');
    await expect.poll(strip).toEqual(['The Weir', 'The Mill', 'The Race', 'Notes']);
    for (const step of [
      'Remove a document',
      'Rename',
      'Add a document',
      'Join two documents',
      'Divide a document',
    ]) {
      await page.getByRole('button', { name: 'Undo', exact: true }).click();
      await page.getByText(`Undone: ${step.charAt(0).toLowerCase()}${step.slice(1)}.`).waitFor();
    }
    expect(textIn(await copy(), FIRST)).toBe(FOREIGN[FIRST]);
    expect(textIn(await copy(), 'OPS/book.opf').match(/<opf:item /g)).toHaveLength(9);
  });
  it('has what the package says changed field by field', async () => {
    await view('Package');
    await page.getByLabel('Title', { exact: true }).fill('The Weir, Mended');
    await page.getByLabel('Title', { exact: true }).press('Enter');
    await page.getByLabel('Role of Ada Quill').fill('aut');
    await page.getByLabel('Role of Ada Quill').press('Enter');
    await expect
      .poll(async () => textIn(await copy(), 'OPS/book.opf'))
      .toContain('property="role" scheme="marc:relators">aut<');
    expect(textIn(await copy(), 'OPS/book.opf')).toContain('<dc:title id="t">The Weir, Mended</dc:title>');
    await isAccessible();
    await page.getByRole('button', { name: 'Remove OPS/left over.txt' }).click();
    await expect.poll(async () => (await copy())['OPS/left over.txt']).toBeUndefined();
    await page.waitForSelector('[data-findings="0"]');
    await page.getByRole('button', { name: 'Source', exact: true }).click();
    await page.locator('.cm-content').waitFor();
    expect(await page.locator('.cm-content').innerText()).toContain('The Weir, Mended');
    await page.getByRole('button', { name: 'Back to the fields' }).click();
  });
  it('has entries of the contents changed, moved in, and added', async () => {
    await view('Navigation');
    const words = page.getByLabel('Words of the entry');
    await words.nth(2).fill('The Great Mill');
    await words.nth(2).press('Enter');
    await expect.poll(strip).toContain('The Great Mill');
    await words.nth(3).press('Alt+ArrowRight');
    await expect
      .poll(async () =>
        /The Great Mill<\/a>\s*<ol>\s*<li><a[^>]*>The Race/.test(textIn(await copy(), 'OPS/nav.xhtml')),
      )
      .toBe(true);
    expect(textIn(await copy(), 'OPS/toc.ncx')).toMatch(
      /The Great Mill<[\s\S]*The Race<[\s\S]*<\/navPoint>\s*<\/navPoint>/,
    );
    await page.getByRole('button', { name: 'Add below' }).click();
    await expect.poll(() => words.count()).toBe(5);
    await isAccessible();
  });
  it('has rules of its styles changed by their values, and shows to what they apply', async () => {
    await view('Styles');
    const rule = page.locator('[data-rule="p + p"]');
    await rule.getByText('applies to 4 elements').waitFor();
    await rule.getByLabel('text-indent of p + p').fill('3em');
    await rule.getByLabel('text-indent of p + p').press('Enter');
    await expect
      .poll(async () => textIn(await copy(), 'OPS/Styles/main sheet.css'))
      .toBe((FOREIGN['OPS/Styles/main sheet.css'] as string).replace('1.2em', '3em'));
    await isAccessible();
    await view('Documents');
    await show('The Weir');
    await expect
      .poll(() =>
        frame()
          .getByText('See later')
          .evaluate((p) => parseFloat(getComputedStyle(p).textIndent)),
      )
      .toBeGreaterThan(40);
  });
  it('has pictures described and replaced, and typefaces added and removed', async () => {
    await view('Pictures');
    const described = page.getByLabel('Description of the picture in The Weir');
    await described.fill('A weir in flood');
    await described.press('Enter');
    await expect.poll(async () => textIn(await copy(), FIRST)).toContain('alt="A weir in flood"');
    await page.setInputFiles('input[aria-label="Picture for the cover"]', {
      name: 'new.png',
      mimeType: 'image/png',
      buffer: Buffer.from(png(30, 40)),
    });
    await page.getByText('30 × 40 pixels').waitFor();
    expect(Buffer.from((await copy())['OPS/Images/weïr.png'] ?? [])).toEqual(Buffer.from(png(30, 40)));
    await page.setInputFiles('input[aria-label="Pictures"]', {
      name: 'note.png',
      mimeType: 'image/png',
      buffer: Buffer.from('no picture'),
    });
    await page.getByText('“note.png” isn’t a file that ebooks can hold.').waitFor();
    await isAccessible();
    await page.setInputFiles('input[aria-label="Pictures"]', {
      name: 'Leaf.svg',
      mimeType: 'image/svg+xml',
      buffer: Buffer.from(
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><title>A leaf</title></svg>',
      ),
    });
    const drawing = page.locator('[data-picture$="leaf.svg"]');
    await drawing.getByRole('button', { name: 'Source' }).click();
    await page.getByRole('dialog').locator('.cm-content', { hasText: 'A leaf' }).waitFor();
    await page.keyboard.press('Escape');
    await drawing.getByRole('button', { name: 'Remove' }).click();
    await drawing.waitFor({ state: 'detached' });
    await view('Typefaces');
    await page.getByText('The ebook brings no typefaces').waitFor();
    await page.setInputFiles('input[aria-label="Typefaces"]', 'web/public/type/Literata.ttf');
    await page.getByText('Not declared').waitFor();
    await page.getByRole('button', { name: /^Remove OPS\// }).click();
    await page.getByText('The ebook brings no typefaces').waitFor();
  });
  it('is checked as one types, with each finding at its line', async () => {
    await view('Documents');
    await show('The Race');
    await page.getByRole('button', { name: 'Whole source' }).click();
    const editor = page.locator('.cm-content');
    await editor.waitFor();
    await editor.getByText('second.xhtml').click();
    await editor.press('Home');
    await page.keyboard.press('Control+f');
    await page.locator('.cm-search input').first().pressSequentially('second.xhtml');
    await page.keyboard.press('Enter');
    await page.keyboard.press('Escape');
    await page.keyboard.type('missing.xhtml');
    await page.locator('.cm-lintRange-error').first().waitFor();
    await view('Findings');
    const dead = page.locator('[data-finding="link/dead-file"]');
    await dead.getByText('which isn’t in the ebook').waitFor();
    await dead.getByRole('button', { name: /The Race, line \d+/ }).click();
    await source().waitFor();
    expect(await sourceWords()).toContain('missing.xhtml');
    await source().getByText('which isn’t in the ebook').waitFor();
    await page.getByRole('button', { name: 'Undo', exact: true }).click();
    await expect
      .poll(() => page.locator('[data-findings]').innerText(), { timeout: 10_000 })
      // The entry that was added to the end of the contents leads back to what comes before.
      .toBe('1 caution');
  });
  it('is saved as a copy that says what is different, and is there after a reload', async () => {
    await page.getByRole('button', { name: 'Save a copy' }).click();
    const sheet = page.getByRole('dialog', { name: 'Save a copy' });
    await sheet.getByText('untouched, to the byte').waitFor();
    expect(await sheet.locator('[data-differences]').innerText()).toContain('Removed: OPS/left over.txt');
    const waiting = page.waitForEvent('download');
    await sheet.getByRole('button', { name: 'Save', exact: true }).click();
    const file = await waiting;
    expect(file.suggestedFilename()).toBe('Weir, copy.epub');
    const parts = unzipSync(new Uint8Array(readFileSync(await file.path())));
    expect(textIn(parts, 'OPS/book.opf')).not.toContain('2024-01-02T03:04:05Z');
    expect(Object.keys(parts)[0]).toBe('mimetype');
    await page.reload();
    await expect.poll(strip).toContain('The Great Mill');
  });
  it('keeps what two windows type in one passage', async () => {
    const other = await browser.newPage();
    await other.goto(page.url());
    await frame(other).getByText('No one came.').click();
    await show('The Weir');
    await frame().getByText('No one came.').click();
    await source().waitFor();
    await page.keyboard.type('HERE ');
    await other.keyboard.press('End');
    for (let i = 0; i < 4; i++) await other.keyboard.press('ArrowLeft');
    await other.keyboard.type(' THERE');
    await expect.poll(async () => textIn(await copy(), FIRST)).toMatch(/<p>HERE No one came\. THERE<\/p>/);
    await expect.poll(sourceWords).toContain('HERE No one came. THERE');
    await frame(other).getByText('HERE No one came. THERE').waitFor();
    await other.close();
  });
  it('may be brought in as a title', async () => {
    await page.getByRole('button', { name: 'Save a copy' }).click();
    await page.getByRole('button', { name: 'Bring it in as a title' }).click();
    await acceptIntake(page);
    expect(await page.locator('tr[data-section]').count()).toBeGreaterThan(2);
    await page.goto(`${address()}/titles`);
    const listed = page.getByRole('region', { name: 'EPUBs opened as they are' });
    await listed.getByRole('button', { name: 'Delete Weir.epub' }).click();
    await listed.getByText('Deleted (').click();
    await listed.getByRole('button', { name: 'Restore Weir.epub' }).click();
    await listed.getByRole('link', { name: 'Weir.epub' }).waitFor();
    expect(errors).toEqual([]);
  });
});

describe('an EPUB with faults', () => {
  it('that is none, or is empty, is refused in a sentence', async () => {
    await page.goto(`${address()}/titles`);
    const send = (name: string, bytes: Uint8Array): Promise<void> =>
      page.setInputFiles('input[aria-label="EPUB file"]', {
        name,
        mimeType: 'application/epub+zip',
        buffer: Buffer.from(bytes),
      });
    await send('no.epub', strToU8('This is a letter.'));
    await page.getByText('no.epub: It isn’t an EPUB, or it is too damaged to open.').waitFor();
    await send('none.epub', new Uint8Array());
    await page.getByText('none.epub: The file is empty.').waitFor();
  });
  it('is opened with a broken document, a missing one and a broken package, each with its source to mend', async () => {
    const broken: typeof FOREIGN = { ...FOREIGN, [FIRST]: (FOREIGN[FIRST] as string).replace('</h1>', '') };
    delete broken['OPS/Text/third.xhtml'];
    await openAsItIs(page, 'Broken.epub', foreignEpub(broken));
    await page.getByRole('button', { name: /Open its source at line \d+/ }).click();
    await page.locator('.cm-content').waitFor();
    await page.locator('.cm-lintRange-error').first().waitFor();
    await page.keyboard.press('Control+f');
    await page.locator('.cm-search input').first().pressSequentially('>The Weir');
    // It is open at the heading, where the fault begins.
    await page.keyboard.press('Enter');
    await page.keyboard.press('Escape');
    await page.keyboard.press('End');
    await page.keyboard.type('</h1>');
    await saved(page);
    await page.getByRole('button', { name: 'Back to the page' }).click();
    await frame().getByText('No one came.').waitFor();
    await page.locator('[data-document="OPS/Text/third.xhtml"]').click();
    await page.getByText('but the ebook has no such file').waitFor();
    const opf = {
      ...FOREIGN,
      'OPS/book.opf': (FOREIGN['OPS/book.opf'] as string).replace('</opf:manifest>', ''),
    };
    const open = async (parts: typeof FOREIGN): Promise<void> => {
      await page.goto(`${address()}/titles`);
      await page.setInputFiles('input[aria-label="EPUB file"]', {
        name: 'P.epub',
        mimeType: 'application/epub+zip',
        buffer: Buffer.from(foreignEpub(parts)),
      });
      await page.waitForURL(/\/ebooks\//);
    };
    // What can be read of a broken package is read.
    await open(opf);
    await page.locator('[data-document="OPS/Text/third.xhtml"]').waitFor();
    await view('Findings');
    await page
      .locator('[data-finding="xml/never-closed"]')
      .getByText('“opf:manifest” is opened here')
      .waitFor();
    await open({ ...FOREIGN, 'OPS/book.opf': 'nothing at all' });
    await page.getByText('The reading order of this ebook is empty').waitFor();
    await view('Package');
    await page.getByText('The package can’t be read.').waitFor();
    await page.getByRole('button', { name: 'Source', exact: true }).click();
    await page.locator('.cm-content').waitFor();
    expect(errors).toEqual([]);
  });
  it('is not brought down by a document nested too deep, an empty one, and names that are markup', async () => {
    const deep = `<html xmlns="http://www.w3.org/1999/xhtml"><head><title>Deep</title></head><body>${'<div>'.repeat(5_000)}x${'</div>'.repeat(5_000)}</body></html>`;
    const odd = `Text/it's "<b>".xhtml`;
    const opf = (FOREIGN['OPS/book.opf'] as string)
      .replace('Text/third.xhtml', 'Text/it%27s%20%22%3Cb%3E%22.xhtml')
      .replace('The Weir &amp; the Mill', '&lt;img src="x" onerror="document.title=1">');
    await openAsItIs(
      page,
      '<b>Odd</b>.epub',
      foreignEpub({
        ...FOREIGN,
        'OPS/book.opf': opf,
        'OPS/Text/second.xhtml': deep,
        [FIRST]: '',
        [`OPS/${odd}`]: FOREIGN['OPS/Text/third.xhtml'] as string,
      }),
    );
    await page.getByText('isn’t well-formed XML, so many readers will refuse it').waitFor();
    await page.locator('[data-document="OPS/Text/second.xhtml"]').click();
    await page.getByText('nested hundreds of levels deep').waitFor();
    await page.locator('[data-document]').nth(2).click();
    await frame().getByText('Fast water.').click();
    await source().waitFor();
    await page.keyboard.type('Very ');
    await expect.poll(async () => textIn(await copy(), `OPS/${odd}`)).toContain('Very Fast water.');
    expect(errors).toEqual([]);
  });
  it('has pages of a fixed size whose source opens beneath the page, and runs no script', async () => {
    const fixed: Zippable = {
      mimetype: [strToU8('application/epub+zip'), { level: 0 }],
      'META-INF/container.xml': strToU8(FOREIGN['META-INF/container.xml'] as string),
      'OPS/book.opf': strToU8(
        '<package xmlns="http://www.idpf.org/2007/opf" version="3.0" unique-identifier="u"><metadata xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:identifier id="u">x</dc:identifier><dc:title>Fixed</dc:title><dc:language>en</dc:language><meta property="rendition:layout">pre-paginated</meta></metadata><manifest><item id="a" href="a.xhtml" media-type="application/xhtml+xml"/></manifest><spine><itemref idref="a"/></spine></package>',
      ),
      'OPS/a.xhtml': strToU8(
        '<html xmlns="http://www.w3.org/1999/xhtml"><head><title>A</title><meta name="viewport" content="width=400, height=300"/><script>document.title = "ran"; parent.document.title = "ran";</script></head><body style="margin:0"><p style="position:absolute;left:40px;top:60px">Fixed words</p></body></html>',
      ),
    };
    await openAsItIs(page, 'Fixed.epub', zipSync(fixed));
    await frame().getByText('Fixed words').click();
    await source().waitFor();
    const [leaf, editor] = await Promise.all([
      page.locator('main iframe').boundingBox(),
      source().boundingBox(),
    ]);
    expect(editor!.y).toBeGreaterThanOrEqual(leaf!.y + leaf!.height);
    expect(await page.title()).not.toBe('ran');
    await page.keyboard.type('More ');
    await frame().getByText('More Fixed words').waitFor();
    expect(errors).toEqual([]);
  });
});
