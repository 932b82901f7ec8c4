/**
 * Ebooks for those who read with other means: every document of every interior goes through axe-core (Deque) in Chromium,
 * by day, by lamp and by night; contrast is that of WCAG 2.2 SC 1.4.3 as axe-core measures it. Tags of "best-practice" are
 * axe-core's own, of which those about whole web sites are left out.
 */
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Browser, Page } from 'playwright-core';
import type { Node } from 'prosemirror-model';
import { apply, schema, type Book } from '@pagina/core/book';
import { editionAdded, INTERIOR_NAMES } from '@pagina/core/design';
import { makeEbook, makeFixed } from '@pagina/make';
import { everyBlock, section, threeChapters } from '../core/test/fixtures/books';
import { dress } from '../web/src/reader/dress';
import { LIGHTS, type LightId } from '../web/src/reader/settings';
import { AxeBuilder, WCAG } from './axe';
import { bringIn, openBrowser, saved, station } from './browser';

let browser: Browser;
let page: Page;
let picture: Uint8Array;
beforeAll(async () => {
  ({ browser, page } = await openBrowser());
  picture = new Uint8Array(
    await sharp({ create: { width: 300, height: 200, channels: 3, background: '#1c5a52' } })
      .png()
      .toBuffer(),
  );
});
afterAll(async () => {
  await browser.close();
});

const para = (id: string, words: string): Node => schema.node('paragraph', { id }, [schema.text(words)]);
const cell = (id: string, words: string, head = false): Node =>
  schema.node('cell', { id, head }, [para(`${id}p`, words)]);
/** Prices under headings, and by row too. */
const priced = (): Book['sections'][number] => ({
  ...section('tables', 'appendix', [], { title: 'What It Cost' }),
  content: schema.node('doc', null, [
    schema.node('tableCaption', { id: 'cap' }, [schema.text('Salt by the pan')]),
    schema.node('table', { id: 'tab' }, [
      schema.node('row', { id: 'r0' }, [
        cell('a0', 'Year', true),
        cell('b0', 'Pans', true),
        cell('c0', 'Price', true),
      ]),
      schema.node('row', { id: 'r1' }, [cell('a1', '1850', true), cell('b1', '40'), cell('c1', '3s.')]),
      schema.node('row', { id: 'r2' }, [cell('a2', '1851', true), cell('b2', '46'), cell('c2', '2s. 9d.')]),
    ]),
    schema.node('monospace', { id: 'mono' }, [schema.text('pans = 40')]),
    schema.node('paragraph', { id: 'fr' }, [
      schema.text('They call it '),
      schema.text('la fleur de sel', [schema.mark('language', { tag: 'fr' })]),
      schema.text(', see '),
      schema.text('the first chapter', [schema.mark('link', { kind: 'place', target: 'c1' })]),
      schema.text('.'),
    ]),
  ]),
});
const everything = (): Book => {
  const three = threeChapters();
  return {
    ...three,
    record: { ...three.record, imprint: 'Slack Water Press' },
    sections: [
      section('t', 'title-page', []),
      section('toc', 'contents', []),
      ...three.sections,
      everyBlock(),
      priced(),
    ],
    pictures: [{ id: 'p1', name: 'p1.png', type: 'image/png', width: 300, height: 200 }],
  };
};
async function serve(b: Book): Promise<string[]> {
  const made = await makeEbook(b, 'ebook', { pictures: () => picture, print: { edition: 'paperback' } });
  if (!made.ok) throw new Error(made.refusal.message);
  return serveParts(made.value.bytes);
}
async function serveParts(bytes: Uint8Array): Promise<string[]> {
  const files = unzipSync(bytes);
  await page.unroute('**/*');
  await page.route('http://book.invalid/**', (route) => {
    const path = decodeURIComponent(new URL(route.request().url()).pathname.slice(1));
    const type = /xhtml$/.test(path) ? 'application/xhtml+xml' : /css$/.test(path) ? 'text/css' : 'image/png';
    const part = files[path];
    return part
      ? route.fulfill({ body: Buffer.from(part), contentType: type })
      : route.fulfill({ status: 404, body: '' });
  });
  return Object.keys(files).filter((n) => n.endsWith('.xhtml'));
}
/** axe-core's "best-practice" about web sites: an ebook's document is a part of a publication. */
const ABOUT_SITES = /^(region|landmark-one-main|page-has-heading-one|bypass|skip-link)/;

describe('every document of an ebook', () => {
  it.each(INTERIOR_NAMES)(
    'passes axe-core, and keeps its contrast by day, lamp and night (%s)',
    async (interior) => {
      const b = everything();
      const files = await serve({ ...b, editions: b.editions.map((e) => ({ ...e, interior })) });
      expect(files.length).toBeGreaterThan(7);
      for (const file of files) {
        for (const light of Object.keys(LIGHTS) as LightId[]) {
          await page.goto(`http://book.invalid/${file}`);
          const look = dress(
            {
              screen: 'room',
              beside: 'none',
              moves: 'scrolled',
              face: 'own',
              type: 100,
              leading: 'own',
              margins: 'medium',
              light,
              notes: 'over',
            },
            { width: 600, height: 800, columns: 1, gap: 0, padding: 20 },
            LIGHTS[light].paper,
          );
          await page.addStyleTag({ content: look });
          const tags = light === 'day' ? [...WCAG, 'best-practice'] : WCAG;
          const found = (await new AxeBuilder(page).violations(tags)).filter((v) => !ABOUT_SITES.test(v));
          expect(found.join('; '), `${file} by ${light}`).toBe('');
        }
      }
    },
  );
  it('passes axe-core where its pages have a fixed size', async () => {
    const added = editionAdded(everything(), 'fixed', 'fixed');
    if (!added.ok) throw new Error(added.refusal.message);
    const applied = apply(everything(), added.value);
    if (!applied.ok) throw new Error(applied.refusal.message);
    const made = await makeFixed(applied.value.book, 'fixed', { pictures: () => picture });
    if (!made.ok) throw new Error(made.refusal.message);
    for (const file of await serveParts(made.value.bytes)) {
      await page.goto(`http://book.invalid/${file}`);
      const found = (await new AxeBuilder(page).violations([...WCAG, 'best-practice'])).filter(
        (v) => !ABOUT_SITES.test(v),
      );
      expect(found.join('; '), file).toBe('');
    }
  });
  it('has tables whose cells find their headings in Chromium’s own tree for screen readers', async () => {
    await serve(everything());
    const files = await serve(everything());
    for (const file of files) {
      await page.goto(`http://book.invalid/${file}`);
      if ((await page.locator('table', { hasText: 'Pans' }).count()) === 0) continue;
      const session = await page.context().newCDPSession(page);
      const { nodes } = (await session.send('Accessibility.getFullAXTree')) as {
        nodes: { role?: { value: string }; name?: { value: string } }[];
      };
      const of = (role: string): string[] =>
        nodes.filter((n) => n.role?.value === role).map((n) => n.name?.value ?? '');
      expect(of('columnheader')).toEqual(['Year', 'Pans', 'Price']);
      expect(of('rowheader')).toEqual(['1850', '1851']);
      expect(of('table')).toEqual(['Salt by the pan']);
      return;
    }
    throw new Error('no document has the table');
  });
  it('is read in the order in which it is written: what Chromium reads out is the text in its order', async () => {
    const files = await serve(everything());
    for (const file of files) {
      await page.goto(`http://book.invalid/${file}`);
      const session = await page.context().newCDPSession(page);
      const { nodes } = (await session.send('Accessibility.getFullAXTree')) as {
        nodes: {
          nodeId: string;
          childIds?: string[];
          ignored?: boolean;
          role?: { value: string };
          name?: { value: string };
        }[];
      };
      const byId = new Map(nodes.map((n) => [n.nodeId, n]));
      const spoken: string[] = [];
      const walk = (id: string): void => {
        const n = byId.get(id);
        if (n?.role?.value === 'StaticText') spoken.push(n.name?.value ?? '');
        else for (const c of n?.childIds ?? []) walk(c);
      };
      walk(nodes[0]?.nodeId ?? '');
      const written = await page.evaluate(() => document.body.innerText);
      const plain = (t: string): string => t.replace(/\s+/g, '').toLowerCase();
      expect(plain(spoken.join('')), file).toBe(plain(written));
    }
  });
});

describe('what an ebook states of its accessibility', () => {
  it('is told with the edition, with what stands in the way and what to do about it', async () => {
    const fresh = await openBrowser();
    const { page: on } = fresh;
    const table = '| Year | Pans |\n| --- | --- |\n| 1850 | 40 |\n| 1851 | 46 |\n';
    const words = 'The pans were kept dry over the winter. '.repeat(40);
    const html = `<html><head><title>Pans</title></head><body><h1>Chapter 1</h1><p>${words}</p><table><tr><td>Year</td><td>Pans</td></tr><tr><td>1850</td><td>40</td></tr></table><p>${words}</p>`;
    const id = await bringIn(on, 'Pans.html', new TextEncoder().encode(html));
    await station(on, id, 'editions');
    const row = on.locator('tr[data-edition="ebook"]');
    const file = (): Promise<string> =>
      row.locator('a[href*="/api/files/"]').evaluateAll((all) => all[0]?.getAttribute('href') ?? '');
    const make = async (): Promise<void> => {
      const before = await file();
      await row.getByRole('button', { name: /^Make/ }).click();
      await expect.poll(async () => ['', before].includes(await file()), { timeout: 30_000 }).toBe(false);
    };
    await make();
    await on.getByRole('button', { name: 'Accessibility of the ebook' }).click();
    const told = on.getByRole('dialog', { name: 'Accessibility of the ebook' });
    await told.getByText('States no conformance.').waitFor();
    await told
      .getByText('1 table has no headings. In Manuscript, make the first row or column one of headings.')
      .waitFor();
    expect((await new AxeBuilder(on).violations()).join('; ')).toBe('');
    await on.keyboard.press('Escape');
    const good = await bringIn(
      on,
      'Good.md',
      new TextEncoder().encode(
        `---\ntitle: Good\nauthor: Ada Quill\n---\n\n# Chapter 1\n\n${words}\n\n${table}`,
      ),
    );
    await station(on, good, 'editions');
    await make();
    await on.getByRole('button', { name: 'Accessibility of the ebook' }).click();
    await told
      .getByText(
        /^States conformance with EPUB Accessibility 1\.1 - WCAG 2\.2 Level AA\. Certified by Ada Quill\.$/,
      )
      .waitFor();
    await on.keyboard.press('Escape');
    await row.getByLabel('State conformance with EPUB Accessibility').click();
    await saved(on);
    await make();
    await on.getByRole('button', { name: 'Accessibility of the ebook' }).click();
    await told.getByText('States no conformance.').waitFor();
    await told
      .getByText('Nothing stands in the way of stating conformance. Turn it on above, then make it again.')
      .waitFor();
    expect(fresh.errors).toEqual([]);
    await fresh.browser.close();
  });
});
