/** An ebook read in Proof: the very file that was made, on the screens of its readers. */
import { createHash } from 'node:crypto';
import { unzipSync, zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Browser, Frame, Page } from 'playwright-core';
import { address, AxeBuilder, bringIn, choose, openBrowser, saved, station } from './browser';

let browser: Browser;
let page: Page;
let errors: string[];
let id: string;
const WORDS = 'The tide went out over the flats and the posts stood up out of the mud one by one. ';
const chapter = (n: number): string =>
  `# Chapter ${n}: Tide ${n}\n\nIn chapter ${n} a heron${n === 2 ? '[^1]' : ''} stood. ${WORDS.repeat(30)}\n\n${`${WORDS.repeat(6)}\n\n`.repeat(8)}## Low Water ${n}\n\n${WORDS.repeat(20)} The heron of ${n} flew.\n`;
const MANUSCRIPT = `# Contents\n\n${[1, 2, 3, 4].map(chapter).join('\n')}\n\n[^1]: It was a bittern, as see [the notes](https://herons.invalid/list).\n`;

beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
  id = await bringIn(page, 'Herons.md', new TextEncoder().encode(MANUSCRIPT));
  await station(page, id, 'proof');
});
afterAll(async () => {
  await browser.close();
});
const ready = async (): Promise<void> => {
  await page.waitForSelector('[data-screen="The ebook"][data-ready="true"]');
};
const reading = async (): Promise<string> => (await page.textContent('[data-reading]')) ?? '';
const next = (): Promise<void> => page.getByRole('button', { name: 'Next', exact: true }).click();
/** The frame of the first screen as it is now. */
async function frame(which = 0): Promise<Frame> {
  await ready();
  const handle = await page.locator('iframe').nth(which).elementHandle();
  return (await handle!.contentFrame()) as Frame;
}
const entry = async (name: string | RegExp): Promise<void> => {
  await page.getByRole('list', { name: 'Contents' }).getByRole('button', { name }).click();
};
/** Words that lie within the frame. */
const inSight = async (which = 0): Promise<string> =>
  (await frame(which)).evaluate(() => {
    const words: string[] = [];
    const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
    for (let n = walker.nextNode() as Text | null; n; n = walker.nextNode() as Text | null)
      for (const m of n.data.matchAll(/\S+/g)) {
        const range = document.createRange();
        range.setStart(n, m.index);
        range.setEnd(n, m.index + m[0].length);
        // The last box of a word that begins with a drop capital is that of its line.
        const box = [...range.getClientRects()].at(-1);
        if (
          box &&
          box.left >= -1 &&
          box.right <= innerWidth + 1 &&
          box.top >= -1 &&
          box.bottom <= innerHeight + 2
        )
          words.push(m[0]);
      }
    return words.join(' ');
  });

describe('an ebook in Proof', () => {
  it('is made from there when it has not been yet, and opens', async () => {
    await page.getByRole('combobox', { name: 'Edition' }).click();
    await page.getByRole('option', { name: 'Ebook', exact: true }).click();
    await page.getByText('hasn’t been made yet').waitFor();
    await page.getByRole('button', { name: 'Make the ebook' }).click();
    // Without a title there can be no file: why is said here.
    await page.getByRole('main').getByRole('alert').getByText(/title/).waitFor();
    await page.goto(`${address()}/titles/${id}/record`);
    await page.getByLabel('Title', { exact: true }).fill('Herons');
    await page.getByLabel('Title', { exact: true }).blur();
    await saved(page);
    await page.goto(`${address()}/titles/${id}/proof`);
    await page.getByRole('button', { name: 'Make the ebook' }).click();
    await page.waitForSelector('[data-ready="true"]', { timeout: 60_000 });
    expect(await new AxeBuilder(page).violations()).toEqual([]);
  });

  it('shows the documents of the file as they are, byte for byte', async () => {
    const { products } = (await (await page.request.get(`${address()}/api/titles/${id}`)).json()) as {
      products: { sha256: string; edition: string }[];
    };
    const { sha256 } = products.find((p) => p.edition === 'ebook')!;
    const file = unzipSync(
      new Uint8Array(await (await page.request.get(`${address()}/api/files/${sha256}`)).body()),
    );
    const at = new URL((await frame()).url()).pathname.split('/ebook/')[1]!;
    const served = await page.request.get(`${address()}/api/files/${sha256}/ebook/${at}`);
    expect(new Uint8Array(await served.body())).toEqual(file[at]);
    expect(served.headers()['content-type']).toContain('application/xhtml+xml');
  });

  it('is turned from the first screen to the last, with every word in sight once and no line cut', async () => {
    await page.getByRole('button', { name: 'Contents', exact: true }).click();
    await entry(/Tide 2/);
    await expect.poll(reading).toContain('Tide 2 · screen 1 of');
    const screens = Number(/of (\d+)/.exec(await reading())![1]);
    expect(screens).toBeGreaterThan(5);
    let seen = '';
    for (let n = 1; n <= screens; n++) {
      await expect.poll(reading).toContain(`screen ${n} of ${screens}`);
      seen += ` ${await inSight()}`;
      if (n < screens) await next();
    }
    const whole = await (
      await frame()
    ).evaluate(() => {
      const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
      const words: string[] = [];
      for (let n = walker.nextNode(); n; n = walker.nextNode())
        words.push(...(n.textContent ?? '').split(/\s+/).filter(Boolean));
      return words.join(' ');
    });
    expect(seen.trim()).toBe(whole);
    await next();
    await expect.poll(reading).toContain('Tide 3 · screen 1 of');
    await page.getByRole('button', { name: 'Previous', exact: true }).click();
    await expect.poll(reading).toContain(`screen ${screens} of ${screens}`);
  });

  it('every line of the contents lands at its heading', async () => {
    for (const n of [4, 1, 3]) {
      await entry(new RegExp(`Tide ${n}`));
      await expect.poll(reading).toContain(`Tide ${n} · screen 1`);
      expect(await inSight()).toContain(`Tide ${n}`);
    }
  });

  it('goes to a folio of the printed edition', async () => {
    await page.getByRole('radio', { name: 'Pages', exact: true }).last().click();
    const folios = page.getByRole('list', { name: 'Pages' }).getByRole('button');
    const last = (await folios.last().innerText()).trim();
    expect(Number(last)).toBeGreaterThan(8);
    await folios.last().click();
    await expect.poll(reading).toContain(`folio ${last}`);
    await page.getByRole('radio', { name: 'Contents', exact: true }).click();
  });

  it('keeps its place when the type grows, when the screen changes, and when one comes back', async () => {
    await entry(/Tide 3/);
    await expect.poll(reading).toContain('Tide 3 · screen 1');
    for (let i = 0; i < 3; i++) await next();
    await expect.poll(reading).toContain('screen 4');
    const at = (await inSight()).split(' ').slice(0, 5).join(' ');
    // The next screen but two, so that the words are not those of every other.
    await page.getByRole('button', { name: 'Type' }).click();
    for (let i = 0; i < 3; i++) await page.getByRole('button', { name: 'Larger type' }).click();
    await page.keyboard.press('Escape');
    await expect.poll(() => inSight()).toContain(at);
    const place = await reading();
    await choose(page.getByRole('combobox', { name: 'Screen', exact: true }), 'Tablet');
    await expect.poll(() => inSight()).toContain(at);
    await choose(page.getByRole('combobox', { name: 'Screen', exact: true }), 'Phone');
    await expect.poll(reading).toBe(place);
    await page.reload();
    await ready();
    await expect.poll(reading).toBe(place);
  });

  it('lies on two screens that go together', async () => {
    await page.getByRole('button', { name: 'Contents', exact: true }).click();
    await choose(page.getByRole('combobox', { name: 'Second screen' }), 'Six-inch e-paper');
    await page.waitForSelector('[data-screen$="second screen"][data-ready="true"]');
    await entry(/Tide 1/);
    await expect.poll(() => inSight(1)).toContain('chapter 1 a heron');
    for (let i = 0; i < 3; i++) await next();
    const first = (await inSight()).split(' ').slice(0, 4).join(' ');
    await expect.poll(() => inSight(1)).toContain(first);
    // Turned on the second, the first follows.
    await page.locator('iframe').nth(1).click();
    await page.keyboard.press('ArrowRight');
    const second = (await inSight(1)).split(' ').slice(0, 4).join(' ');
    await expect.poll(() => inSight(0)).toContain(second);
    await choose(page.getByRole('combobox', { name: 'Second screen' }), 'No second screen');
  });

  it('lays a note over the page, follows it, and comes back', async () => {
    await entry(/Tide 2/);
    await expect.poll(reading).toContain('Tide 2 · screen 1');
    let f = await frame();
    await f.locator('a[role="doc-noteref"]').click();
    const note = f.getByRole('dialog', { name: 'Note' });
    expect(await note.innerText()).toContain('It was a bittern');
    await page.keyboard.press('Escape');
    await expect.poll(() => note.count()).toBe(0);
    await f.locator('a[role="doc-noteref"]').click();
    await note.getByRole('button', { name: 'Go to the note' }).click();
    await expect.poll(() => inSight()).toContain('It was a bittern');
    f = await frame();
    await f.getByRole('link', { name: 'the notes' }).click();
    await page.getByText('This link leads out of the book: https://herons.invalid/list').waitFor();
    await page.getByRole('button', { name: 'Back', exact: true }).click();
    await expect.poll(reading).toContain('Tide 2 · screen 1');
  });

  it('finds words all over the book, and marks them', async () => {
    await page.getByRole('button', { name: 'Find', exact: true }).click();
    await page.getByLabel('Words to find').fill('HERON');
    const count = MANUSCRIPT.match(/heron/gi)!.length - 1;
    await page.getByText(`${count} matches`, { exact: true }).waitFor();
    await page.keyboard.press('Enter');
    await page.keyboard.press('Enter');
    await page.keyboard.press('Enter');
    await expect.poll(() => reading()).toContain('Tide 2');
    const marked = await (
      await frame()
    ).evaluate(() => [...(CSS.highlights.get('found') ?? [])].map(String).join());
    expect(marked).toBe('heron');
    await page.getByLabel('Words to find').fill('(no such [thing');
    await page.getByText('Not found in the book.').waitFor();
    await page.keyboard.press('Escape');
  });

  it('is read by day, by lamp and at night, and by keys alone', async () => {
    const colours = async () =>
      (await frame()).evaluate(() => {
        const p = getComputedStyle(document.querySelector('p')!);
        return [getComputedStyle(document.documentElement).backgroundColor, p.color];
      });
    const day = await colours();
    await page.getByRole('radio', { name: 'Night' }).click();
    await expect.poll(colours).not.toEqual(day);
    expect(await colours()).toEqual(['rgb(21, 20, 18)', 'rgb(207, 200, 187)']);
    await page.getByRole('radio', { name: 'Day' }).click();
    await page.locator('iframe').click();
    await page.keyboard.press('Home');
    await expect.poll(reading).toMatch(/screen 1 of/);
    await expect
      .poll(() => page.getByRole('button', { name: 'Previous', exact: true }).isDisabled())
      .toBe(true);
    await page.locator('iframe').click();
    await page.keyboard.press('End');
    await expect.poll(() => page.getByRole('button', { name: 'Next', exact: true }).isDisabled()).toBe(true);
    await expect
      .poll(() => page.getByRole('slider', { name: 'Place in the book' }).getAttribute('aria-valuenow'))
      .toBe('1000');
    await page.getByRole('slider', { name: 'Place in the book' }).focus();
    await page.keyboard.press('Home');
    await expect
      .poll(() => page.getByRole('button', { name: 'Previous', exact: true }).isDisabled())
      .toBe(true);
    await page.keyboard.press('End');
    await expect.poll(() => page.getByRole('button', { name: 'Next', exact: true }).isDisabled()).toBe(true);
  });

  it('is scrolled as well, and keeps its place', async () => {
    await page.getByRole('button', { name: 'Contents', exact: true }).click();
    await entry(/Low Water|Tide 3/);
    await page.getByRole('radio', { name: 'Scroll' }).click();
    const f = await frame();
    await f.evaluate(() => scrollTo(0, 900));
    await expect.poll(reading).toMatch(/Tide 3 · screen [2-9]/);
    const at = await f.evaluate(() => scrollY);
    await page.getByRole('radio', { name: 'Lamp' }).click();
    await page.getByRole('radio', { name: 'Day' }).click();
    expect(Math.abs((await f.evaluate(() => scrollY)) - at)).toBeLessThan(40);
    await page.getByRole('radio', { name: 'Pages', exact: true }).first().click();
  });

  it('follows the strip, and the strip follows it', async () => {
    await page.getByRole('button', { name: /^Page \d+, .*Tide 4/ }).click();
    await expect.poll(reading).toContain('Tide 4');
    await entry(/Tide 2/);
    await expect
      .poll(() =>
        page
          .locator('section[aria-label="The book, page by page"] button.outline-2')
          .getAttribute('aria-label'),
      )
      .toContain('Tide 2');
    expect(errors).toEqual([]);
  });
});

it('an ebook from elsewhere runs nothing, sends nothing, and fetches nothing but its own parts', async () => {
  const text = `<html xmlns="http://www.w3.org/1999/xhtml"><head><title>T</title>
<script>document.title = 'ran'; parent.document.title = 'ran'</script><link rel="stylesheet" href="http://127.0.0.1:9/x.css"/></head>
<body onload="document.title = 'ran'"><p>Words</p><img id="own" src="p.png" alt=""/><img src="/api/titles" alt=""/><img src="http://127.0.0.1:9/x.png" alt=""/>
<form action="/api/titles" method="post"><button id="send">Send</button></form><a id="js" href="javascript:void(document.title='ran')">x</a></body></html>`;
  const enc = (s: string): Uint8Array => new TextEncoder().encode(s);
  const png = Uint8Array.from(
    atob('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=='),
    (c) => c.charCodeAt(0),
  );
  const bytes = zipSync({
    mimetype: enc('application/epub+zip'),
    'META-INF/container.xml': enc(
      '<container xmlns="urn:oasis:names:tc:opendocument:xmlns:container"><rootfiles><rootfile full-path="o.opf"/></rootfiles></container>',
    ),
    'o.opf': enc(
      '<package xmlns="http://www.idpf.org/2007/opf" version="3.0"><metadata/><manifest><item id="a" href="a b.xhtml" media-type="application/xhtml+xml"/><item id="p" href="p.png" media-type="image/png"/></manifest><spine><itemref idref="a"/></spine></package>',
    ),
    'a b.xhtml': enc(text),
    'p.png': png,
  });
  // A manuscript that was sent is kept like any other file.
  const fresh = await browser.newPage();
  await fresh.goto(`${address()}/titles`);
  await fresh.setInputFiles('input[aria-label="Manuscript file"]', {
    name: 'Hostile.epub',
    mimeType: 'application/epub+zip',
    buffer: Buffer.from(bytes),
  });
  const sha = createHash('sha256').update(bytes).digest('hex');
  const base = `${address()}/api/files/${sha}/ebook`;
  await expect.poll(async () => (await fresh.request.get(base)).status()).toBe(200);
  const bare = await browser.newPage();
  const answered: string[] = [];
  bare.on('response', (r) => void answered.push(r.url().split('/').at(-1) as string));
  await bare.goto(`${base}/a%20b.xhtml`);
  expect(await bare.title()).toBe('T');
  expect(await bare.evaluate(() => (document.getElementById('own') as HTMLImageElement).naturalWidth)).toBe(
    1,
  );
  await bare.locator('#js').click();
  await bare.locator('#send').click();
  await bare.waitForTimeout(300);
  expect(await bare.title()).toBe('T');
  expect(bare.url()).toBe(`${base}/a%20b.xhtml`);
  expect(answered).toEqual(['a%20b.xhtml', 'p.png']);
  expect((await bare.request.get(`${base}/none.xhtml`)).status()).toBe(404);
  expect((await bare.request.get(`${base}/..%2f..%2fpackage.json`)).status()).toBe(404);
  await bare.close();
  await fresh.close();
});
