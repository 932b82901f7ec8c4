/**
 * Formulas of a word file: drawn as ebooks draw them, and given up or put back by hand. Where the parts of a formula lie is
 * asked of the browser, which draws MathML by MathML Core on its own.
 */
import {
  Document,
  Math as Formula,
  MathFraction,
  MathRadical,
  MathRun,
  MathSuperScript,
  Packer,
  Paragraph,
  TextRun,
} from 'docx';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Browser, Locator, Page } from 'playwright-core';
import { AxeBuilder, bringIn, openBrowser, saved, station, textOf } from './browser';

let browser: Browser;
let page: Page;
let errors: string[];
const run = (text: string): MathRun => new MathRun(text);

beforeAll(async () => {
  ({ browser, page, errors } = await openBrowser());
  const formula = new Formula({
    children: [
      run('h='),
      new MathFraction({
        numerator: [new MathSuperScript({ children: [run('c')], superScript: [run('2')] })],
        denominator: [new MathRadical({ children: [run('8')] })],
      }),
    ],
  });
  const words = 'The rope hangs between two posts and is a little longer than the way between them. ';
  const file = new Document({
    sections: [
      {
        children: [
          new Paragraph({ text: 'Chapter 1: The Rope', heading: 'Heading1' }),
          new Paragraph(words.repeat(4)),
          new Paragraph({
            children: [
              new TextRun('Its height is '),
              formula,
              new TextRun(' as one finds by hanging it up.'),
            ],
          }),
          new Paragraph(words.repeat(4)),
        ],
      },
    ],
  });
  const id = await bringIn(page, 'Rope.docx', new Uint8Array(await Packer.toBuffer(file)));
  await station(page, id, 'manuscript');
});
afterAll(async () => {
  await browser.close();
});
const bar = (): Locator => page.getByRole('group', { name: 'Formula' });
const line = (): Locator => page.locator('.manuscript .formula');
async function box(part: string): Promise<{ x: number; y: number; width: number; height: number }> {
  const found = await bar().locator(part).first().boundingBox();
  if (!found) throw new Error(`${part} is not drawn`);
  return found;
}

describe('a formula', () => {
  it('is a line of signs in the text, and drawn in its bar as ebooks draw it', async () => {
    const text = await textOf(page, 'The Rope');
    await expect.poll(() => text.getByText('Its height is').innerText()).toContain('h = c2/√8');
    await line().last().click();
    const [over, under, base, power] = [
      await box('mfrac > :first-child'),
      await box('mfrac > :last-child'),
      await box('msup > :first-child'),
      await box('msup > :last-child'),
    ];
    expect(over.y + over.height).toBeLessThanOrEqual(under.y + 1);
    expect(power.x).toBeGreaterThanOrEqual(base.x + base.width - 1);
    expect(power.y + power.height).toBeLessThan(base.y + base.height);
    expect(power.height).toBeLessThan(base.height * 1.2);
    expect(await new AxeBuilder(page).violations()).toEqual([]);
  });
  it('gives way to its signs once they are changed, and is put back', async () => {
    await line().last().click();
    await page.keyboard.press('End');
    await page.getByText('Its height is').click();
    await line().first().click();
    await page.keyboard.press('ArrowRight');
    await page.keyboard.type('9');
    await expect.poll(() => bar().innerText()).toContain('The signs were changed');
    await bar().getByRole('button', { name: 'Put the formula back' }).click();
    await expect.poll(() => page.getByText('Its height is').innerText()).toContain('h = c2/√8');
    await expect.poll(() => bar().innerText()).toContain('Ebooks show');
  });
  it('is made text by hand, and a formula again by Undo', async () => {
    await bar().getByRole('button', { name: 'Make it text' }).click();
    await expect.poll(() => line().count()).toBe(0);
    await page.keyboard.press('Control+z');
    await expect.poll(() => line().count()).toBeGreaterThan(0);
    await saved(page);
    expect(errors).toEqual([]);
  });
});
