/**
 * The controls of the house by keyboard and by what a screen reader is told, against the patterns of the WAI-ARIA Authoring
 * Practices Guide (W3C): which key does what, and which role and state each has.
 */
import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { address, AxeBuilder, openBrowser } from './browser';

let browser: Browser;
let page: Page;
let errors: string[];
beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
  await page.goto(`${address()}/controls`);
  await page.getByRole('heading', { name: 'Controls' }).waitFor();
});
afterAll(async () => {
  expect(errors).toEqual([]);
  await browser.close();
});
const within = (name: string) => page.getByRole('region', { name, exact: true });

it('a select opens by arrow, moves by arrow, chooses by Enter, and leaves by Escape with nothing changed', async () => {
  const select = within('Select').getByRole('combobox', { name: 'Starts' });
  await select.focus();
  await page.keyboard.press('ArrowDown');
  // The primitive moves its highlight a moment after the key: a hand is slower than that, a test is not.
  const highlighted = (name: string): Promise<void> =>
    page.locator('[role=option][data-highlighted]', { hasText: name }).waitFor();
  await highlighted('on a right-hand page');
  await page.keyboard.press('ArrowDown');
  await highlighted('on a left-hand page');
  await page.keyboard.press('Enter');
  await expect.poll(() => select.textContent()).toContain('on a left-hand page');
  await page.keyboard.press('ArrowDown');
  await highlighted('on a left-hand page');
  await page.keyboard.press('End');
  await highlighted('anywhere');
  await page.keyboard.press('Escape');
  await page.getByRole('listbox').waitFor({ state: 'detached' });
  expect(await select.textContent()).toContain('on a left-hand page');
  await expect.poll(() => select.evaluate((el) => el === document.activeElement)).toBe(true);
});
it('a select that is closed takes what is typed', async () => {
  const select = within('Select').getByRole('combobox', { name: 'Starts' });
  await select.focus();
  await page.keyboard.type('any');
  await expect.poll(() => select.textContent()).toContain('anywhere');
});
it('a picker finds by a part of the name and gives the focus back', async () => {
  const picker = within('Picker, for long lists').getByRole('combobox');
  await picker.focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.type('ore');
  // Lowmere has these letters, scattered.
  await page.getByText('No matches.').waitFor();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('cold');
  await expect.poll(() => page.getByRole('option').allTextContents()).toEqual(['Cold Quay']);
  await page.keyboard.press('Enter');
  await expect.poll(() => picker.textContent()).toContain('Cold Quay');
  await expect.poll(() => picker.evaluate((el) => el === document.activeElement)).toBe(true);
});
it('boxes, switches and toggles say whether they are on', async () => {
  const box = page.getByRole('checkbox', { name: /^Shows its number/ });
  expect(await box.isChecked()).toBe(true);
  await box.focus();
  await page.keyboard.press('Space');
  expect(await box.isChecked()).toBe(false);
  const lane = page.getByRole('switch', { name: 'A lane' });
  expect(await lane.getAttribute('aria-checked')).toBe('false');
  await lane.click();
  expect(await lane.getAttribute('aria-checked')).toBe('true');
  expect(await page.getByRole('button', { name: 'Stays pressed' }).getAttribute('aria-pressed')).toBe('true');
});
it('arrow keys choose among radio buttons', async () => {
  await page.getByRole('radio', { name: 'anywhere' }).focus();
  // Held as long as a hand holds it: the primitive moves the choice a moment after the key goes down.
  await page.keyboard.press('ArrowUp', { delay: 60 });
  await expect.poll(() => page.getByRole('radio', { name: 'on a left-hand page' }).isChecked()).toBe(true);
});
it('a slider moves by arrow, Home and End', async () => {
  const slider = page.getByRole('slider', { name: 'Width' });
  await slider.focus();
  await page.keyboard.press('ArrowRight');
  expect(await slider.getAttribute('aria-valuenow')).toBe('65');
  await page.keyboard.press('End');
  expect(await slider.getAttribute('aria-valuenow')).toBe('100');
});
it('a toolbar is one stop of the Tab key, and arrows move within it', async () => {
  const first = page.getByRole('toolbar', { name: 'A toolbar' }).getByRole('button', { name: 'One stop' });
  await first.focus();
  await page.keyboard.press('ArrowRight');
  const second = page
    .getByRole('toolbar', { name: 'A toolbar' })
    .getByRole('button', { name: 'of the Tab key' });
  expect(await second.evaluate((el) => el === document.activeElement)).toBe(true);
  await page.keyboard.press('Tab');
  expect(
    await page
      .getByRole('toolbar', { name: 'A toolbar' })
      .evaluate((el) => el.contains(document.activeElement)),
  ).toBe(false);
});
it('a table is sorted by its heads, up, down, and as it was', async () => {
  const heights = (): Promise<string[]> =>
    within('Table, sorted by its heads').locator('td').allTextContents();
  const head = page.getByRole('button', { name: 'Metres' });
  await head.click();
  expect(await heights()).toEqual(['1.1', '3.9', '4.2']);
  expect(await page.getByRole('columnheader', { name: 'Metres' }).getAttribute('aria-sort')).toBe(
    'ascending',
  );
  await head.click();
  expect(await heights()).toEqual(['4.2', '3.9', '1.1']);
  await head.click();
  expect(await heights()).toEqual(['4.2', '1.1', '3.9']);
});
it('a line says what is wrong with it as it is typed, and cannot be sent then', async () => {
  const line = page.getByLabel('Name of the version');
  await line.fill('ab');
  await page.getByText('At least three letters.').waitFor();
  expect(await line.getAttribute('aria-invalid')).toBe('true');
  expect(await page.getByRole('button', { name: 'Name it' }).isDisabled()).toBe(true);
  await line.fill('abc');
  await page.getByText('At least three letters.').waitFor({ state: 'detached' });
  expect(await page.getByRole('button', { name: 'Name it' }).isEnabled()).toBe(true);
});
it('a question keeps the focus until it is answered', async () => {
  await page.getByRole('button', { name: 'Ask first' }).click();
  const question = page.getByRole('alertdialog', { name: 'Delete the name?' });
  await question.waitFor();
  expect(await question.evaluate((el) => el.contains(document.activeElement))).toBe(true);
  for (let i = 0; i < 3; i++) await page.keyboard.press('Tab');
  expect(await question.evaluate((el) => el.contains(document.activeElement))).toBe(true);
  await page.keyboard.press('Escape');
  await question.waitFor({ state: 'detached' });
});
it('a tip is shown to the keyboard too, and tied to its button', async () => {
  const button = page.getByRole('button', { name: 'Plain', exact: true });
  await page.getByRole('button', { name: 'Make', exact: true }).focus();
  await page.keyboard.press('Tab');
  await page.getByRole('tooltip').waitFor({ state: 'attached' });
  const id = await button.getAttribute('aria-describedby');
  expect(await page.locator(`[id="${id}"]`).textContent()).toBe('Shown when pointed at');
  await page.keyboard.press('Escape');
});
it.each(['light', 'dark'] as const)('has no fault that axe can find, in %s', async (colorScheme) => {
  await page.emulateMedia({ colorScheme });
  expect(await new AxeBuilder(page).violations()).toEqual([]);
});
