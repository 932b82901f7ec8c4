/**
 * The barcode of an ISBN: EAN-13 (ISO/IEC 15420) at full size, a module 0.33 mm wide, with the light margins that readers
 * need (11 modules before, 7 after), and the printed price as a five-digit add-on.
 */
import { inches, mm, type Money, type Mp } from '../base';
import { bareIsbn, isbnFault } from '../record';
import type { Box } from '../pdf';
import type { Pen } from './pen';

const MODULE: Mp = mm(0.33);
const BAR: Mp = mm(20);
const LIGHT = 11;
const BLACK = '#000000';
const WHITE = '#ffffff';

/** First digit of the price add-on by currency (common practice of the book trade); amounts beyond 99.98 are not told. */
const CURRENCIES: Record<string, string> = { USD: '5', CAD: '6', GBP: '0', AUD: '3', NZD: '4' };
const MOST = 9_998;
/** "90000": no price is told. */
const NO_PRICE = '90000';

export function priceAddOn(price: Money | null): string | null {
  if (!price) return null;
  const digit = CURRENCIES[price.currency];
  return digit !== undefined && price.minor <= MOST ? digit + String(price.minor).padStart(4, '0') : NO_PRICE;
}

/** The price that such digits tell; null for none, or one in a currency that isn't known. */
export function priceOfAddOn(addOn: string): Money | null {
  const currency = Object.keys(CURRENCIES).find((c) => CURRENCIES[c] === addOn[0]);
  return currency && /^\d{5}$/.test(addOn) ? { minor: Number(addOn.slice(1)), currency } : null;
}

/** What the encoder answers for a symbol of bars: widths in modules by turns bar and space, heights and feet of the bars. */
interface Bars {
  sbs: number[];
  bhs: number[];
  bbs: number[];
}

/** Draws bars and digits on white within `box`; false when the ISBN isn’t valid. */
export async function drawBarcode(pen: Pen, isbn: string, price: Money | null, box: Box): Promise<boolean> {
  pen.part('barcode', box);
  pen.fill(box, WHITE);
  if (isbnFault(isbn)) return false;
  const addOn = priceAddOn(price);
  const digits = bareIsbn(isbn);
  const bars = await encoded(digits + (addOn ? ` ${addOn}` : ''));
  const width = bars.sbs.reduce((a, b) => a + b, 0);
  // An add-on leaves less light around: it then sets the module, within what readers take (80 % of full size).
  const module = Math.min(MODULE, Math.floor(box.width / (width + LIGHT + 7)));
  const height = Math.round((BAR * module) / MODULE);
  const left = box.x + Math.round((box.width - width * module) / 2 + ((LIGHT - 7) * module) / 2);
  const size = Math.round(module * 8.4);
  const head = size + inches(0.05);
  const foot = box.y + head + Math.round((box.height - head - size * 1.15 - height) / 2) + height;
  let x = left;
  bars.sbs.forEach((n, i) => {
    if (i % 2 === 0) {
      const bar = (bars.bhs[i / 2] as number) * height;
      const down = -(bars.bbs[i / 2] as number) * height;
      pen.fill({ x, y: Math.round(foot + down - bar), width: n * module, height: Math.round(bar) }, BLACK);
    }
    x += n * module;
  });
  const manner = { size, lining: true };
  const figure = (text: string, middle: number, baseline: Mp): void => {
    const set = pen.set([text], { manner, measure: module * 14, leading: size, align: 'left' });
    pen.words(set, left + Math.round(middle * module) - (set.width >> 1), baseline, BLACK);
  };
  [...digits].forEach((d, i) => figure(d, middleOf(i), foot + Math.round(size * 0.8) + module));
  const after = EAN13 + (bars.sbs[EAN13_BARS * 2 - 1] ?? 0);
  // The add-on's figures stand over its bars.
  [...(addOn ?? '')].forEach((d, i) =>
    figure(d, after + 7.5 + 9 * i, foot - Math.round(height * 0.85) - module * 2),
  );
  const words = pen.set([`ISBN ${isbn.trim()}`], {
    manner,
    measure: box.width,
    leading: size,
    align: 'centre',
  });
  pen.words(words, box.x, foot - height - module * 4, BLACK);
  return true;
}

/** Modules and bars of the symbol without an add-on. */
const EAN13 = 95;
const EAN13_BARS = 30;
/** The middle of a figure in modules: the first before the bars, six between the guards on either side. */
const middleOf = (i: number): number => (i === 0 ? -7.5 : i <= 6 ? 6.5 + 7 * (i - 1) : 53.5 + 7 * (i - 7));

/** The encoder knows a hundred symbols: it is fetched by those who draw one. */
async function encoded(text: string): Promise<Bars> {
  const { default: bwipjs } = await import('bwip-js/generic');
  const [bars] = bwipjs.raw('ean13', text, {}) as unknown as [Bars];
  return bars;
}
