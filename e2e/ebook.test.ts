/** Files of ebooks as a reader's screen shows them: Chromium lays them out, and says where things stand. */
import { unzipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import { freshSection, schema, type Book, type Section, type SectionKind } from '@pagina/core/book';
import { INTERIOR_NAMES } from '@pagina/core/design';
import { makeEbook } from '@pagina/make';
import { book, prose, section } from '../core/test/fixtures/books';
import { openBrowser } from './browser';

let browser: Browser;
let page: Page;
beforeAll(async () => {
  ({ browser, page } = await openBrowser());
  await page.setViewportSize({ width: 375, height: 667 });
});
afterAll(async () => {
  await browser.close();
});

const texted = (kind: SectionKind, title: string): Section =>
  freshSection(kind, kind, {
    title,
    content: schema.node('doc', null, [
      schema.node('paragraph', { id: `${kind}-p` }, [schema.text(prose(60, kind.length))]),
    ]),
  });
const every = (): Book =>
  book([
    section('h', 'half-title', []),
    section('t', 'title-page', []),
    texted('dedication', ''),
    texted('epigraph', ''),
    section('toc', 'contents', []),
    texted('foreword', 'Foreword'),
    texted('part', 'The First Part'),
    texted('prologue', 'Before'),
    { ...texted('chapter', 'The Tide'), subtitle: 'In which it turns' },
    texted('appendix', 'Tables'),
    texted('glossary', 'Words'),
    texted('about-author', 'About the Author'),
  ]);

/** Serves an ebook's files to the browser as they are. */
async function serve(b: Book): Promise<string[]> {
  const made = await makeEbook(b, 'ebook', { pictures: () => null, print: null });
  if (!made.ok) throw new Error(made.refusal.message);
  const files = unzipSync(made.value.bytes);
  await page.unroute('**/*');
  await page.route('http://book.invalid/**', (route) => {
    const path = decodeURIComponent(new URL(route.request().url()).pathname.slice(1));
    const bytes = files[path];
    const type = /xhtml$/.test(path) ? 'application/xhtml+xml' : /css$/.test(path) ? 'text/css' : 'image/png';
    return bytes
      ? route.fulfill({ body: Buffer.from(bytes), contentType: type })
      : route.fulfill({ status: 404, body: '' });
  });
  return Object.keys(files).filter((n) => /^EPUB\/text\/s\d+\.xhtml$/.test(n));
}
/** White above the first line of text, in lines of the text's own leading. */
const whiteAbove = (): Promise<number> =>
  page.evaluate(() => {
    const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
    for (let n = walker.nextNode(); n; n = walker.nextNode()) {
      if ((n.textContent ?? '').trim() === '') continue;
      const range = document.createRange();
      range.selectNodeContents(n);
      const box = range.getClientRects()[0];
      if (!box || box.height === 0) continue;
      const probe = document.body.appendChild(document.createElement('p'));
      probe.textContent = 'x';
      const line = probe.getBoundingClientRect().height;
      probe.remove();
      // A rule or an ornament above a heading's words is no white.
      const heading = n.parentElement?.closest('h1');
      const inked =
        heading &&
        (parseFloat(getComputedStyle(heading).borderTopWidth) > 0 ||
          getComputedStyle(heading, '::before').content !== 'none');
      return Math.min(box.top, inked ? heading.getBoundingClientRect().top : Infinity) / line;
    }
    return Infinity;
  });

describe('a reflowable ebook', () => {
  it.each(INTERIOR_NAMES)('opens its pages at the head of the screen (%s)', async (name) => {
    const b = every();
    const files = await serve({ ...b, editions: b.editions.map((e) => ({ ...e, interior: name })) });
    expect(files.length).toBeGreaterThan(9);
    for (const file of files) {
      await page.goto(`http://book.invalid/${file}`);
      expect(await whiteAbove(), file).toBeLessThanOrEqual(1.2);
    }
  });
  it('has numbers in its style sheet that a person can read', async () => {
    for (const name of INTERIOR_NAMES) {
      const b = every();
      await serve({ ...b, editions: b.editions.map((e) => ({ ...e, interior: name })) });
      await page.goto('http://book.invalid/EPUB/text/s001.xhtml');
      const css = await page.evaluate(async () => (await fetch('../style.css')).text());
      expect(css.match(/\d\.\d{4,}/g), name).toBeNull();
    }
  });
});
