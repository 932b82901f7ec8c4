/** Files of ebooks as a reader's screen shows them: Chromium lays them out, and says where things stand. */
import { unzipSync } from 'fflate';
import sharp from 'sharp';
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

/** The contents as the epubjs library reads them, and how many documents it goes through from the first to the last. */
async function openedByEpubjs(bytes: Uint8Array): Promise<{ labels: string[]; documents: number }> {
  const bare = await browser.newPage();
  await bare.addScriptTag({ path: 'node_modules/jszip/dist/jszip.min.js' });
  await bare.addScriptTag({ path: 'node_modules/epubjs/dist/epub.min.js' });
  const opened = await bare.evaluate(async (base64) => {
    interface Entry {
      label: string;
      subitems: Entry[];
    }
    interface Opened {
      open(b: ArrayBuffer): Promise<unknown>;
      loaded: { navigation: Promise<{ toc: Entry[] }>; spine: Promise<unknown> };
      spine: { spineItems: unknown[] };
    }
    const book_ = (window as unknown as { ePub(): Opened }).ePub();
    await book_.open(Uint8Array.from(atob(base64), (c) => c.charCodeAt(0)).buffer);
    const all = (list: Entry[]): string[] => list.flatMap((t) => [t.label.trim(), ...all(t.subitems)]);
    await book_.loaded.spine;
    return {
      labels: all((await book_.loaded.navigation).toc),
      documents: book_.spine.spineItems.length,
    };
  }, Buffer.from(bytes).toString('base64'));
  await bare.close();
  return opened;
}

/** Serves an ebook's files to the browser as they are. */
async function serve(b: Book, pictures: (id: string) => Uint8Array | null = () => null): Promise<string[]> {
  const made = await makeEbook(b, 'ebook', { pictures, print: null });
  if (!made.ok) throw new Error(made.refusal.message);
  const files = unzipSync(made.value.bytes);
  await page.unroute('**/*');
  await page.route('http://book.invalid/**', (route) => {
    const path = decodeURIComponent(new URL(route.request().url()).pathname.slice(1));
    const bytes = files[path];
    const type = /xhtml$/.test(path)
      ? 'application/xhtml+xml'
      : /css$/.test(path)
        ? 'text/css'
        : /ttf$/.test(path)
          ? 'font/ttf'
          : 'image/png';
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
  it('brings the typefaces of its design where that is wanted, and its pages are read in them', async () => {
    const b = every();
    const own = { interior: 'Harrow', faces: 'own' } as const;
    const files = await serve({ ...b, editions: b.editions.map((e) => ({ ...e, ...own })) });
    for (const file of files) {
      await page.goto(`http://book.invalid/${file}`);
      const loaded = await page.evaluate(async () => {
        await document.fonts.ready;
        return [...document.fonts].map((f) => `${f.family} ${f.status}`);
      });
      expect(loaded.length).toBeGreaterThanOrEqual(4);
      // What the page shows has been fetched and understood; other cuts wait until they are needed.
      expect(loaded.filter((f) => f.endsWith(' error'))).toEqual([]);
      expect(
        loaded.some((f) => f.endsWith(' loaded')),
        file,
      ).toBe(true);
    }
    const cuts = await page.evaluate(async () => {
      const all = await Promise.all([...document.fonts].map((f) => f.load()));
      return all.map((f) => f.status);
    });
    expect(new Set(cuts)).toEqual(new Set(['loaded']));
    // The same words in the reader's own face are of another width.
    const [own_, other] = await page.evaluate(() => {
      const width = (family: string): number => {
        const span = document.body.appendChild(document.createElement('span'));
        span.textContent = 'Hamburgefonstiv — “Überfahrt”';
        span.style.cssText = `font: 40px ${family}; position: absolute; white-space: nowrap`;
        const { width: w } = span.getBoundingClientRect();
        span.remove();
        return w;
      };
      return [width(getComputedStyle(document.body).fontFamily), width('monospace')];
    });
    expect(own_).not.toBe(other);
  });
  it.each(['#000', '#fff'])(
    'shows the picture of a break by day and by night: %s on its contrary',
    async (ink) => {
      const drawn = await sharp({ create: { width: 200, height: 100, channels: 3, background: '#fff' } })
        .composite([
          {
            input: { create: { width: 100, height: 40, channels: 3, background: '#000' } },
            left: 50,
            top: 30,
          },
        ])
        .jpeg()
        .toBuffer();
      const content = schema.node('doc', null, [
        schema.node('paragraph', { id: 'a' }, [schema.text('Before.')]),
        schema.node('break', { id: 'b', ornament: true }),
        schema.node('paragraph', { id: 'c' }, [schema.text('After.')]),
      ]);
      const b = book([{ ...section('x', 'chapter', []), content }]);
      await serve(
        {
          ...b,
          pictures: [{ id: 'sign', name: 'sign', type: 'image/jpeg', width: 200, height: 100 }],
          editions: b.editions.map((e) => ({
            ...e,
            design: { from: {}, set: { 'breaks.picture': 'sign' } },
          })),
        },
        (id) => (id === 'sign' ? new Uint8Array(drawn) : null),
      );
      await page.goto('http://book.invalid/EPUB/text/s001.xhtml');
      await page.addStyleTag({
        content: `html { background: ${ink === '#000' ? '#fff' : '#000'}; color: ${ink} }`,
      });
      const shot = await page.locator('hr').screenshot();
      const { channels } = await sharp(shot).stats();
      // The sign covers a part of the rule in the ink of the text, and the ground is left as it is.
      expect(channels[0]!.max - channels[0]!.min).toBeGreaterThan(200);
      const { data, info } = await sharp(shot).greyscale().raw().toBuffer({ resolveWithObject: true });
      const middle = data[Math.floor(info.height / 2) * info.width + Math.floor(info.width / 2)]!;
      expect(ink === '#fff' ? middle > 200 : middle < 55).toBe(true);
      const corner = data[0]!;
      expect(ink === '#fff' ? corner < 55 : corner > 200).toBe(true);
    },
  );
  it.each(['3.3', '2.0.1'] as const)(
    'opens in the epubjs library, long chapters in several files too (EPUB %s)',
    async (version) => {
      const b = every();
      const long = section(
        'long',
        'chapter',
        Array.from({ length: 500 }, (_, i) => prose(160, i)),
        { title: 'The Long One' },
      );
      const made = await makeEbook(
        {
          ...b,
          sections: [...b.sections.slice(0, -1), long, b.sections.at(-1)!],
          editions: b.editions.map((e) => ({ ...e, version })),
        },
        'ebook',
        { pictures: () => null, print: null },
      );
      if (!made.ok) throw new Error(made.refusal.message);
      const { labels, documents } = await openedByEpubjs(made.value.bytes);
      expect(labels).toEqual([
        'Foreword',
        'Part I: The First Part',
        'Before',
        'Chapter One: The Tide',
        'Tables',
        'Words',
        'Chapter Two: The Long One',
        'About the Author',
      ]);
      // Thirteen sections, of which one is in two files or more.
      expect(documents).toBeGreaterThan(13);
    },
  );
  it.each(INTERIOR_NAMES)('runs over the edge of no screen, in no typeface (%s)', async (name) => {
    const word = 'https://example.org/a-very-long-address/that-goes-on-and-on/without-an-end/at-all.html';
    const para = (id: string, words: string) => schema.node('paragraph', { id }, [schema.text(words)]);
    const cell = (id: string, words: string) => schema.node('cell', { id: `c${id}` }, [para(id, words)]);
    const content = schema.node('doc', null, [
      para('a', `${prose(40, 1)} ${word} ${prose(20, 2)}`),
      schema.node('figure', { id: 'f', picture: 'wide', alt: 'A map' }, [schema.text('The flats')]),
      schema.node('tableCaption', { id: 'tc' }, [schema.text('What it cost')]),
      schema.node(
        'table',
        { id: 't' },
        [1, 2, 3].map((r) =>
          schema.node(
            'row',
            { id: `r${r}` },
            [1, 2, 3, 4].map((c) => cell(`${r}-${c}`, prose(r * c, c))),
          ),
        ),
      ),
      schema.node('monospace', { id: 'm' }, [schema.text(`${'abcdefgh '.repeat(14)}\n${'x'.repeat(120)}`)]),
      schema.node('verse', { id: 'v' }, [
        schema.node('stanza', { id: 'st' }, [
          schema.node('verseLine', { id: 'l', indent: 3 }, [schema.text(prose(16, 4))]),
        ]),
      ]),
      schema.node('break', { id: 'br', ornament: true }),
      schema.node('quotation', { id: 'q' }, [
        para('qp', prose(30, 5)),
        schema.node('attribution', { id: 'qa' }, [schema.text(word)]),
      ]),
    ]);
    const wide = await sharp({ create: { width: 2400, height: 900, channels: 3, background: '#1c5a52' } })
      .png()
      .toBuffer();
    const b = every();
    const files = await serve(
      {
        ...b,
        sections: [
          ...b.sections,
          { ...section('all', 'chapter', [], { title: 'Everything at Once' }), content },
        ],
        pictures: [{ id: 'wide', name: 'wide', type: 'image/png', width: 2400, height: 900 }],
        editions: b.editions.map((e) => ({ ...e, interior: name })),
      },
      (id) => (id === 'wide' ? new Uint8Array(wide) : null),
    );
    for (const [width, height] of [
      [320, 568],
      [758, 1024],
      [1280, 800],
    ] as const) {
      await page.setViewportSize({ width, height });
      for (const file of [...files, 'EPUB/nav.xhtml']) {
        await page.goto(`http://book.invalid/${file}`);
        const wrong = await page.evaluate(async () => {
          const found: string[] = [];
          for (const family of ['serif', 'monospace']) {
            document.body.style.fontFamily = family;
            await document.fonts.ready;
            if (document.documentElement.scrollWidth > innerWidth) {
              const over = [...document.querySelectorAll('body *')].filter(
                (e) => e.getBoundingClientRect().right > innerWidth + 1,
              );
              found.push(`${family}: ${over.map((e) => e.localName).join(' ')}`);
            }
            for (const img of document.images)
              if (!img.complete || img.naturalWidth === 0 || img.clientWidth < 40)
                found.push(`lost ${img.src}`);
          }
          return found;
        });
        expect(wrong, `${file} at ${width}`).toEqual([]);
      }
    }
    await page.goto('http://book.invalid/EPUB/nav.xhtml');
    const entries = await page.$$eval('#toc a', (l) =>
      l.map((a) => [(a as HTMLAnchorElement).href, a.textContent!.replace(/^.*: /, '')] as const),
    );
    expect(entries.length).toBeGreaterThan(5);
    for (const [href, words] of entries) {
      await page.goto(href);
      expect(await page.evaluate(() => document.body.innerText.toLowerCase())).toContain(words.toLowerCase());
    }
    await page.setViewportSize({ width: 375, height: 667 });
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
