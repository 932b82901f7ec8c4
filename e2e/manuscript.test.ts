/** The manuscript in full: styles, marks, notes, links, tables, pictures, paste, hidden signs, counts. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import sharp from 'sharp';
import { png } from '../core/test/fixtures/manuscript';
import {
  AxeBuilder,
  bringIn,
  choose,
  chooseText,
  openBrowser,
  saved,
  serverBook,
  slideTo,
  station,
  textOf,
} from './browser';

let browser: Browser;
let page: Page;
let errors: string[];
let id: string;
const manuscript = [
  '## Chapter 1: The Boat',
  'She lay on her side.',
  'The paint had gone.',
  'Nobody came for her.',
  'The rope held.',
  '## Chapter 2: The Tide',
  'It came twice a day.',
].join('\n\n');

beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
  id = await bringIn(page, 'boat.md', Buffer.from(manuscript));
  await station(page, id, 'manuscript');
});
afterAll(async () => {
  await browser?.close();
  expect(errors).toEqual([]);
});

interface Json {
  type: string;
  text?: string;
  attrs?: Record<string, unknown>;
  marks?: { type: string; attrs?: Record<string, unknown> }[];
  content?: Json[];
}
const content = async (section = 0): Promise<Json[]> => {
  await saved(page);
  return (
    ((await serverBook(id)).book.sections.filter((s) => s.kind === 'chapter')[section]?.content as Json)
      .content ?? []
  );
};
const types = async (): Promise<string[]> => (await content()).map((b) => b.type);
const boat = () => textOf(page, 'The Boat');
const caret = async (n: number, where: 'Home' | 'End' = 'End'): Promise<void> => {
  await (await boat()).locator('p').nth(n).click();
  // The editor settles its focus some 20 ms after a click, which no hand is quick enough to meet.
  await page.waitForTimeout(80);
  await page.keyboard.press(where);
  await page.waitForTimeout(40);
};
const style = (name: string): Promise<unknown> => choose(page.getByLabel('Style of the paragraph'), name);
const put = async (name: string): Promise<void> => {
  await page.getByRole('button', { name: 'Insert', exact: true }).click();
  await page.getByRole('menuitem', { name }).click();
};
const undo = async (times: number): Promise<void> => {
  for (let i = 0; i < times; i++) {
    await saved(page);
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await saved(page);
  }
};

describe('styles of paragraphs', () => {
  it('wrap several paragraphs, and free the middle one again', async () => {
    await caret(0, 'Home');
    await page.keyboard.down('Shift');
    for (let i = 0; i < 2; i++) await page.keyboard.press('ArrowDown');
    await page.keyboard.press('End');
    await page.keyboard.up('Shift');
    await style('Quotation');
    expect(await types()).toEqual(['quotation', 'paragraph']);
    expect(await page.textContent('[data-style-name]')).toBe('Text in a quotation');
    await caret(1);
    await style('Text');
    expect(await types()).toEqual(['quotation', 'paragraph', 'quotation', 'paragraph']);
    await undo(2);
    expect(await types()).toEqual(['paragraph', 'paragraph', 'paragraph', 'paragraph']);
  });
  it('are every one that the book has, one after another, without losing a word', async () => {
    const text = async (): Promise<string> => (await boat()).innerText();
    const before = (await text()).replace(/\s+/g, ' ');
    for (const [name, type] of [
      ['Subhead 2', 'subhead'],
      ['Letter', 'letter'],
      ['Verse', 'verse'],
      ['Displayed, centred', 'passage'],
      ['Displayed, ranged right', 'passage'],
      ['Displayed, indented both sides', 'passage'],
      ['List', 'list'],
      ['Numbered list', 'list'],
      ['Monospace', 'monospace'],
      ['Text', 'paragraph'],
    ] as const) {
      await (await boat()).getByText('The paint had gone.').click();
      await style(name);
      expect((await types())[1]).toBe(type);
      expect((await text()).replace(/\s+/g, ' ')).toBe(before);
    }
  });
  it('give a quotation its attribution, and say why not elsewhere', async () => {
    await caret(0);
    await style('Attribution');
    await page.getByText('An attribution goes below a quotation or verse, once.').waitFor();
    await style('Quotation');
    expect((await types())[0]).toBe('quotation');
    await caret(1);
    await style('Attribution');
    const [quotation] = await content();
    expect(quotation?.content?.map((c) => c.type)).toEqual(['paragraph', 'attribution']);
    await undo(2);
  });
  it('make verse line by line, stanza by stanza, and go on as text', async () => {
    await caret(3);
    await page.keyboard.press('Enter');
    await style('Verse');
    await page.keyboard.type('The tide goes out,');
    await page.keyboard.press('Enter');
    await page.keyboard.type('the tide comes in,');
    await page.keyboard.press('Enter');
    await page.keyboard.press('Enter');
    await page.keyboard.type('and so do I.');
    await page.keyboard.press('Enter');
    await page.keyboard.press('Enter');
    await page.keyboard.press('Enter');
    await page.keyboard.type('He put the book away.');
    const verse = (await content()).find((b) => b.type === 'verse');
    expect(verse?.content?.map((s) => s.content?.length)).toEqual([2, 1]);
    expect((await content()).at(-1)?.type).toBe('paragraph');
  });
});

describe('words', () => {
  it('are marked and cleared of their marks', async () => {
    await chooseText(page, (await boat()).locator('p').first());
    await page.keyboard.press('Control+i');
    await page.keyboard.press('Control+b');
    await page.getByRole('button', { name: 'More marks' }).click();
    await page.getByRole('menuitem', { name: 'Struck out' }).click();
    expect((await content())[0]?.content?.[0]?.marks?.map((m) => m.type)).toEqual([
      'emphasis',
      'strong',
      'strike',
    ]);
    await page.getByRole('button', { name: 'More marks' }).click();
    await page.getByRole('menuitem', { name: 'Clear the formatting' }).click();
    expect((await content())[0]?.content?.[0]?.marks).toBeUndefined();
  });
  it('link to the web, to a place in the book and to a book in the shops', async () => {
    const link = async (): Promise<unknown> => {
      const all = (await content())[0]?.content?.flatMap((x) => x.marks ?? []) ?? [];
      return all.find((m) => m.type === 'link')?.attrs;
    };
    await (await boat()).getByText('She lay on her side.').dblclick({ position: { x: 60, y: 10 } });
    await page.keyboard.press('Control+l');
    await page.getByLabel('Address').fill('example.org/boats');
    await page.getByRole('button', { name: 'Apply' }).click();
    expect(await link()).toEqual({ kind: 'web', target: 'https://example.org/boats' });
    await choose(page.getByLabel('Kind of link'), 'To a place in the book');
    await choose(page.getByLabel('Place', { exact: true }), 'The Tide');
    await page.getByRole('button', { name: 'Change', exact: true }).click();
    expect(await link()).toMatchObject({ kind: 'place' });
    await choose(page.getByLabel('Kind of link'), 'To a book in the shops');
    await page.getByLabel('ISBN of the book').fill('978-92-95055-12-5');
    await page.getByRole('button', { name: 'Change', exact: true }).click();
    await page.getByText('This isn’t a valid ISBN.').waitFor();
    await page.getByLabel('ISBN of the book').fill('978-92-95055-12-4');
    await page.getByRole('button', { name: 'Change', exact: true }).click();
    expect(await link()).toEqual({ kind: 'shop', target: '9789295055124' });
    await page.getByRole('button', { name: 'Remove' }).click();
    expect(await link()).toBeUndefined();
  });
  it('are entered in the index and said to be in another language', async () => {
    await (await boat()).getByText('The rope held.').dblclick({ position: { x: 50, y: 10 } });
    await put('Index entry');
    await page.getByLabel('Entry', { exact: true }).fill('ropes: that hold');
    await page.getByRole('button', { name: 'Apply' }).click();
    const marks = async (): Promise<unknown> => (await content())[3]?.content?.flatMap((x) => x.marks ?? []);
    expect(await marks()).toEqual([{ type: 'indexed', attrs: { term: 'ropes: that hold' } }]);
  });
});

describe('notes', () => {
  it('stand in the margin beside their line, are numbered, and go with their call', async () => {
    await caret(0);
    await page.keyboard.press('Control+Alt+n');
    await page.keyboard.type('As boats do.');
    await caret(2);
    await put('Footnote');
    await page.keyboard.type('Not once.');
    const bodies = (await boat()).locator('aside.note');
    expect(await bodies.evaluateAll((all) => all.map((x) => x.getAttribute('data-number')))).toEqual([
      '1',
      '2',
    ]);
    const line = await (await boat()).locator('p').nth(2).boundingBox();
    const note = await bodies.nth(1).boundingBox();
    expect(Math.abs(note!.y - line!.y)).toBeLessThan(30);
    expect(note!.x).toBeGreaterThan(line!.x + line!.width - 1);
    expect((await content()).filter((b) => b.type === 'noteBody').length).toBe(2);
    // Cut and pasted elsewhere, a call brings its note along.
    await caret(0, 'Home');
    await page.keyboard.press('Shift+End');
    await page.keyboard.press('Control+x');
    await expect.poll(async () => (await content()).filter((b) => b.type === 'noteBody').length).toBe(1);
    await caret(3);
    await page.keyboard.press('Control+v');
    await expect.poll(async () => (await content()).filter((b) => b.type === 'noteBody').length).toBe(2);
    expect(await bodies.allInnerTexts()).toEqual(expect.arrayContaining(['As boats do.', 'Not once.']));
  });
});

describe('tables', () => {
  it('are put in, grow and shrink', async () => {
    await caret(1);
    await put('Table');
    const table = (await boat()).locator('table');
    await table.locator('th').first().click();
    await page.keyboard.type('Day');
    const deed = async (of: string, name: string): Promise<void> => {
      await page.getByRole('button', { name: of, exact: true }).click();
      await page.getByRole('menuitem', { name }).click();
    };
    await deed('Row', 'Insert below');
    await deed('Column', 'Insert right');
    expect([
      await table.locator('tr').count(),
      await table.locator('tr').first().locator('th, td').count(),
    ]).toEqual([4, 4]);
    await deed('Column', 'Delete column');
    await table.locator('th').first().click();
    await page.keyboard.type('Day');
    await deed('Row', 'Move down');
    expect(await table.locator('tr').nth(1).innerText()).toContain('Day');
    await deed('Row', 'Move up');
    await table.locator('td').first().click();
    await deed('Cells', 'Align right');
    await expect
      .poll(() =>
        table
          .locator('tr')
          .nth(1)
          .locator('td, th')
          .first()
          .evaluate((e) => getComputedStyle(e).textAlign),
      )
      .toBe('right');
    // Two cells, chosen by dragging over them, become one, and two again.
    const [one, two] = [
      table.locator('tr').nth(1).locator('td').nth(0),
      table.locator('tr').nth(1).locator('td').nth(1),
    ];
    const [from, to] = [(await one.boundingBox())!, (await two.boundingBox())!];
    await page.mouse.move(from.x + 20, from.y + 10);
    await page.mouse.down();
    await page.mouse.move(to.x + to.width / 2, to.y + 10, { steps: 5 });
    await page.mouse.up();
    await deed('Cells', 'Merge cells');
    await expect.poll(() => table.locator('td[colspan="2"]').count()).toBe(1);
    await deed('Cells', 'Split cell');
    await expect.poll(() => table.locator('td[colspan="2"]').count()).toBe(0);
    await page.getByRole('button', { name: 'Caption', exact: true }).click();
    await page.keyboard.type('Table 1. Days');
    await expect.poll(async () => (await content()).some((b) => b.type === 'tableCaption')).toBe(true);
    await table.locator('th, td').first().click();
    await page.getByRole('button', { name: 'Header row' }).click();
    await page.getByRole('button', { name: 'Delete the table' }).click();
    await expect.poll(() => table.count()).toBe(0);
    await expect.poll(async () => (await content()).some((b) => b.type === 'tableCaption')).toBe(false);
  });
});

describe('lists', () => {
  it('count in figures, letters or roman, and from any number', async () => {
    await caret(1);
    await choose(page.getByLabel('Style of the paragraph'), 'Numbered list');
    await choose(page.getByLabel('Marks of the list'), 'roman: i, ii, iii');
    await page.getByLabel('First number of the list').fill('0');
    await page.getByText('A whole number from 1 to 9999.').waitFor();
    await page.getByLabel('First number of the list').fill('4');
    const list = async () => (await content()).find((b) => b.type === 'list')?.attrs;
    await expect.poll(list).toMatchObject({ ordered: true, numbers: 'roman', start: 4 });
    for (let i = 0; i < 4 && (await list()); i++) {
      await page.getByRole('button', { name: 'Undo' }).first().click();
      await page.waitForTimeout(250);
    }
  });
});

describe('the end of a line', () => {
  it('is forced by a key, and another fits the line to the measure', async () => {
    await caret(1);
    await page.keyboard.press('End');
    await page.keyboard.press('Shift+Enter');
    await page.keyboard.type('short');
    await page.keyboard.press('Control+Shift+Enter');
    await page.keyboard.type('and on');
    const breaks = async () =>
      (await content())
        .flatMap((b) => b.content ?? [])
        .filter((x) => x.type === 'lineBreak')
        .map((x) => (x.attrs as { fitted?: boolean } | undefined)?.fitted ?? false);
    await expect.poll(breaks).toEqual([false, true]);
    for (let i = 0; i < 6 && (await breaks()).length > 0; i++) {
      await page.getByRole('button', { name: 'Undo' }).click();
      await saved(page);
    }
    expect(await breaks()).toEqual([]);
  });
});

describe('pictures', () => {
  const picture = { name: 'chart.png', mimeType: 'image/png', buffer: Buffer.from(png(300, 200)) };
  it('come by choice and by drop, with their settings, and keep them when the file is replaced', async () => {
    await caret(1);
    await page.setInputFiles('input[aria-label="Picture to insert"]', picture);
    const image = (await boat()).locator('figure img');
    await image.click();
    await page.getByLabel('Alternative text').fill('A chart of the flats');
    await page.getByLabel('Credit').fill('Harbour office');
    await choose(page.getByLabel('Outline of the picture'), 'oval');
    await slideTo(page.getByLabel('Width, as a share of the measure'), 60);
    const figure = async (): Promise<Record<string, unknown>> =>
      (await content()).find((b) => b.type === 'figure')?.attrs ?? {};
    await expect.poll(figure).toMatchObject({
      alt: 'A chart of the flats',
      credit: 'Harbour office',
      mask: 'oval',
      width: 60,
      place: 'here',
    });
    const first = (await figure()).picture;
    await image.click();
    await page.setInputFiles('input[aria-label="File of the picture"]', {
      ...picture,
      buffer: Buffer.from(png(400, 100, 40)),
    });
    await expect.poll(async () => (await figure()).picture).not.toBe(first);
    expect(await figure()).toMatchObject({ alt: 'A chart of the flats', mask: 'oval', width: 60 });
    await image.click();
    await choose(page.getByLabel('Text beside the picture'), 'at the right of text');
    await expect.poll(figure).toMatchObject({ place: 'here', beside: 'right' });
    await slideTo(page.getByLabel('Width, as a share of the measure'), 80);
    await expect.poll(() => page.getByLabel('Text beside the picture').isDisabled()).toBe(true);
    await choose(page.getByLabel('Position of the picture'), 'over two pages');
    await expect.poll(figure).toMatchObject({ place: 'spread' });
    // Its credit wants room, which there is none over a page's edges.
    await page.getByText('within the margins, to leave room for the caption').waitFor();
    await choose(page.getByLabel('Position of the picture'), 'at the foot of a page');
    await expect.poll(figure).toMatchObject({ place: 'foot' });
    await choose(page.getByLabel('Position of the picture'), 'in the text');
    await slideTo(page.getByLabel('Width, as a share of the measure'), 60);
    const dropped = await page.evaluateHandle(
      (bytes) => {
        const data = new DataTransfer();
        data.items.add(new File([new Uint8Array(bytes)], 'boat.png', { type: 'image/png' }));
        return data;
      },
      [...png(20, 20)],
    );
    const box = (await (await boat()).locator('p').nth(2).boundingBox())!;
    await (
      await boat()
    ).dispatchEvent('drop', { dataTransfer: dropped, clientX: box.x + 30, clientY: box.y + 8 });
    await expect.poll(async () => (await content()).filter((b) => b.type === 'figure').length).toBe(2);
  });
  it('of another kind are turned into one that books carry; several are one step to undo', async () => {
    const webp = await sharp({ create: { width: 90, height: 60, channels: 3, background: '#804020' } })
      .webp()
      .toBuffer();
    const before = await page.locator('.manuscript figure').count();
    await caret(1);
    await page.setInputFiles('input[aria-label="Picture to insert"]', [
      { name: 'a.webp', mimeType: 'image/webp', buffer: webp },
      picture,
    ]);
    await expect.poll(() => page.locator('.manuscript figure').count()).toBe(before + 2);
    await saved(page);
    expect((await serverBook(id)).book.pictures.map((p) => p.type)).toContain('image/jpeg');
    await page.getByRole('button', { name: 'Undo', exact: true }).first().click();
    await expect.poll(() => page.locator('.manuscript figure').count()).toBe(before);
  });
  it('that are decorative need no words', async () => {
    await page.locator('.manuscript figure img').first().click();
    await page.getByRole('checkbox', { name: 'Decorative' }).click();
    expect(await page.getByLabel('Alternative text').isDisabled()).toBe(true);
    await page.getByLabel('Link', { exact: true }).fill('not an address');
    await page.keyboard.press('Enter');
    await page.getByText('A web address can’t contain spaces.').waitFor();
    await page.getByLabel('Link', { exact: true }).fill('example.com/loft');
    await page.keyboard.press('Enter');
    await expect.poll(() => page.getByText('A web address can’t contain spaces.').count()).toBe(0);
    await page.getByRole('checkbox', { name: 'Decorative' }).click();
  });
  it('that are none are refused in a sentence', async () => {
    await page.setInputFiles('input[aria-label="Picture to insert"]', {
      name: 'words.png',
      mimeType: 'image/png',
      buffer: Buffer.from('no picture'),
    });
    await page.getByText(/words\.png: This isn’t a picture that can be opened/).waitFor();
  });
});

describe('what is pasted', () => {
  it('is cleaned of looks, keeps its meaning, and brings its pictures', async () => {
    const data = Buffer.from(png(10, 10)).toString('base64');
    const html = `<html><head><style>p{color:red}</style></head><body><!--x--><p style="mso-hide:all">gone</p>
      <h1 style="font-size:40pt">A  Head</h1><p class=MsoNormal style="color:blue">Plain <span style="font-style:italic">slanted</span>
      and <b style="font-weight:normal">not bold</b>.</p><p>&nbsp;</p><p><img src="data:image/png;base64,${data}" alt="A dot"></p>
      <p>See <a href="https://example.org">there</a><img src="https://example.org/far.png"></p></body></html>`;
    await (await textOf(page, 'The Tide')).locator('p').last().click();
    await page.keyboard.press('End');
    await page.keyboard.press('Enter');
    await page.evaluate((text) => {
      const clipboardData = new DataTransfer();
      clipboardData.setData('text/html', text);
      document.activeElement?.dispatchEvent(
        new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }),
      );
    }, html);
    await page
      .getByText('A picture is stored elsewhere on the web and wasn’t downloaded.', { exact: false })
      .waitFor();
    await expect
      .poll(async () => (await content(1)).find((b) => b.type === 'figure')?.attrs)
      .toMatchObject({ alt: 'A dot', picture: expect.stringMatching(/^pic-/) as unknown });
    const blocks = await content(1);
    expect(blocks.map((b) => b.type)).toEqual(['paragraph', 'subhead', 'paragraph', 'figure', 'paragraph']);
    expect(blocks[1]?.content?.[0]?.text).toBe('A Head');
    expect(blocks[2]?.content?.map((x) => [x.text, x.marks?.map((m) => m.type)])).toEqual([
      ['Plain ', undefined],
      ['slanted', ['emphasis']],
      [' and not bold.', undefined],
    ]);
  });
});

it('shows hidden signs, and counts words and reading time', async () => {
  await page.getByLabel('Hidden characters').check();
  expect(await (await boat()).locator('.sign-space').count()).toBeGreaterThan(5);
  expect(await (await boat()).locator('.sign-end').count()).toBeGreaterThan(3);
  await page.getByLabel('Hidden characters').uncheck();
  expect(await (await boat()).locator('.sign').count()).toBe(0);
  await (await boat()).getByText('The paint had gone.').selectText();
  await expect
    .poll(() => page.textContent('[data-counts]'))
    .toMatch(/^4 words chosen · \d+ in the section · \d+ words, 1 min to read$/);
});

it('stays on its text when a pane is opened beside it', async () => {
  const line = async (): Promise<number> =>
    (await (await textOf(page, 'The Tide')).locator('p').first().boundingBox())!.y;
  await page.locator('[data-section] h2', { hasText: 'The Tide' }).scrollIntoViewIfNeeded();
  await page.waitForTimeout(200);
  const before = await line();
  await page.getByRole('button', { name: 'Versions' }).click();
  await page.getByRole('heading', { name: 'Versions' }).waitFor();
  await page.waitForTimeout(200);
  expect(Math.abs((await line()) - before)).toBeLessThan(60);
  await page.getByRole('button', { name: 'Versions' }).click();
});

it('has no fault that axe can find', async () => {
  expect(await new AxeBuilder(page).violations()).toEqual([]);
});
