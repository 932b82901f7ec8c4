/** A page in Debian's Chromium, and the few things every browser test does. */
import { chromium, type Browser, type Locator, type Page } from 'playwright-core';
import { expect, inject } from 'vitest';
import { AxeBuilder } from './axe';

export const address = (): string => inject('address');

export async function openBrowser(): Promise<{ browser: Browser; page: Page; errors: string[] }> {
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, acceptDownloads: true });
  // A busy machine may take long; what never comes fails all the same.
  page.setDefaultTimeout(30_000);
  const errors: string[] = [];
  page.on('pageerror', (e) => errors.push(e.message));
  return { browser, page, errors };
}

/** Waits for the intake sheet of a manuscript that was brought in, and accepts it. */
export async function acceptIntake(page: Page): Promise<void> {
  await page.waitForURL(/\/order$/, { timeout: 30_000 });
  await page.getByRole('button', { name: 'Accept the order' }).click();
  await page.waitForSelector('tr[data-section]');
}

/** Brings a manuscript in through the page and answers the title's id when its running order is there. */
export async function bringIn(page: Page, name: string, bytes: Uint8Array): Promise<string> {
  await page.goto(`${address()}/titles`);
  await page.setInputFiles('input[aria-label="Manuscript file"]', {
    name,
    mimeType: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
    buffer: Buffer.from(bytes),
  });
  await acceptIntake(page);
  return new URL(page.url()).pathname.split('/')[2] as string;
}

export async function station(page: Page, id: string, name: string): Promise<void> {
  await page.goto(`${address()}/titles/${id}/${name}`);
  await page.waitForSelector('[data-pages]:not([data-pages="0"])', { timeout: 30_000 });
}
/** Brings a section's text into sight and answers its editor. */
export async function textOf(page: Page, heading: string) {
  await page.locator('[data-section] h2', { hasText: heading }).first().scrollIntoViewIfNeeded();
  const editor = page.getByRole('textbox', { name: heading });
  await editor.waitFor();
  return editor;
}
/** Waits until all is saved: two frames first, so that the page has shown what was just done. */
export async function saved(page: Page): Promise<void> {
  await page.evaluate(
    () => new Promise<void>((done) => requestAnimationFrame(() => requestAnimationFrame(() => done()))),
  );
  await page.waitForSelector('[data-saving="saved"]');
}
/** Chooses the text of a block. The editor hears of a selection a moment after the browser has made it. */
export async function chooseText(page: Page, block: Locator): Promise<void> {
  await block.selectText();
  await expect.poll(() => page.textContent('[data-counts]')).toMatch(/words? chosen/);
}

/** Opens a list of choices, short or searched, and takes the one of that name. */
export async function choose(control: Locator, name: string): Promise<void> {
  await control.click();
  await control.page().getByRole('option', { name, exact: true }).click();
}

/** Moves a slider to a value by arrow keys. */
export async function slideTo(slider: Locator, value: number): Promise<void> {
  await slider.focus();
  for (let steps = 0; steps < 200; steps++) {
    const now = Number(await slider.getAttribute('aria-valuenow'));
    if (now === value) return;
    await slider.press(now < value ? 'ArrowRight' : 'ArrowLeft');
  }
  throw new Error(`the slider never came to ${value}`);
}

export const pagesInStrip = async (page: Page): Promise<number> =>
  Number(await page.getAttribute('[data-pages]', 'data-pages'));
export const kinds = (page: Page): Promise<(string | null)[]> =>
  page.$$eval('tr[data-section]', (rows) => rows.map((r) => r.getAttribute('data-kind')));
export const serverBook = async (
  id: string,
): Promise<{
  revision: number;
  book: {
    indexSee: { term: string; to: string }[];
    sections: {
      id: string;
      kind: string;
      title: string;
      parent: string | null;
      numbered: boolean;
      content: unknown;
    }[];
    record: Record<string, unknown>;
    editions: { id: string; name: string; isbn: string; form: string }[];
    pictures: { id: string; type: string }[];
    cover: { device: string | null };
  };
}> => (await (await fetch(`${address()}/api/titles/${id}`)).json()) as never;

export { AxeBuilder };

interface Desk {
  accounts: Record<string, string>;
}
/** What the desk of the stand-in outlets says, after something was said to it: days that pass, or bad weather at one. */
export async function desk(page: Page, say?: object): Promise<Desk> {
  const { desk: at } = (await (await page.request.get(`${address()}/api/imprint`)).json()) as {
    desk: string;
  };
  const answer = await (say
    ? page.request.post(`${at}/desk`, { data: say })
    : page.request.get(`${at}/desk`));
  return (await answer.json()) as Desk;
}
/** Enters the key of the account at an outlet, as its own page shows it. */
export async function connect(page: Page, outlet: string): Promise<void> {
  const { accounts } = await desk(page);
  await page.goto(`${address()}/imprint`);
  const row = page.locator(`[data-connection="${outlet}"]`);
  await row.getByRole('button', { name: /^Enter/ }).click();
  await row.getByLabel(/^Key of your account/).fill(accounts[outlet]!);
  await row.getByRole('button', { name: 'Save' }).click();
  await row.getByText('✓ connected').waitFor();
}
