/** An interior as it is set: a design on a page, with every margin known. */
import type { Mp } from '../base';
import type { Edition, Numbering } from '../book';
import { PARTS, settingAt, withSetting, type Design, type Part } from './design';
import { INTERIORS } from './interiors/index';
import { plainMargins } from './margins';
import type { Trim } from './trims';

export interface Interior extends Design {
  name: string;
  trim: { width: Mp; height: Mp };
  margins: { inside: Mp; outside: Mp; top: Mp; bottom: Mp };
}

const DEFAULT = 'Harrow';
/** An interior of the house by name; the plain one for a name that is not known any more. */
const designNamed = (name: string): Design => INTERIORS[name] ?? (INTERIORS[DEFAULT] as Design);

/** What an edition says of its design. */
export type DesignChoice = Pick<Edition, 'interior' | 'design'>;

/**
 * The design of an edition: its interior, parts taken from others, and its own settings last. A setting that this
 * version does not know, or that is out of its range, is passed over.
 */
export function designOf({ interior, design: own }: DesignChoice): Design {
  let design = designNamed(interior);
  for (const part of PARTS) {
    const from = own.from[part];
    if (from !== undefined && INTERIORS[from]) design = { ...design, [part]: INTERIORS[from][part] };
  }
  for (const [path, value] of Object.entries(own.set)) design = withSetting(design, path, value) ?? design;
  return design;
}

/** What an edition says of its design without what it sets itself at these paths or parts. */
export function designWithout(choice: DesignChoice, ...paths: string[]): Edition['design'] {
  const set = Object.entries(choice.design.set).filter(
    ([p]) => !paths.some((path) => p === path || p.startsWith(`${path}.`)),
  );
  return { ...choice.design, set: Object.fromEntries(set) };
}

/** An edition's choice with a setting changed; a value that the interior has itself is not kept. Null where it does not fit. */
export function withChoice(choice: DesignChoice, path: string, value: unknown): Edition['design'] | null {
  const without = designWithout(choice, path);
  const plain = designOf({ ...choice, design: without });
  if (!withSetting(plain, path, value)) return null;
  const own = JSON.stringify(settingAt(plain, path)) === JSON.stringify(value);
  return own ? without : { ...without, set: { ...without.set, [path]: value } };
}

/** An edition's choice with a part taken whole from another interior; its own settings of that part are given up. */
export function withPart(choice: DesignChoice, part: Part, from: string): Edition['design'] {
  const { set } = designWithout(choice, part);
  const { [part]: _before, ...others } = choice.design.from;
  return { ...choice.design, from: from === choice.interior ? others : { ...others, [part]: from }, set };
}

/** An edition's choice with many settings changed at once; those that do not fit are passed over. */
export const withMany = (
  choice: DesignChoice,
  settings: Readonly<Record<string, unknown>>,
): Edition['design'] =>
  Object.entries(settings).reduce(
    (design, [path, value]) => withChoice({ ...choice, design }, path, value) ?? design,
    choice.design,
  );

/** Text of this size and more is large print (common practice). */
const LARGE_PRINT: Mp = 16_000;
/** Lines that would be smaller than the text, or lost beside it, if they did not grow with it. */
const GROWN = [
  'opening.number.size',
  'opening.title.size',
  'opening.subtitle.size',
  'subheads.first.size',
  'subheads.second.size',
  'subheads.third.size',
  'pictures.caption.size',
  'heads.line.size',
];
/** Settings for large print: the text at 16 points or more on open leading, small text in proportion, ragged lines. */
function largePrint(design: Design): Record<string, unknown> {
  const { text, quotation, notes } = design;
  const size = Math.max(LARGE_PRINT, text.size);
  const grown = (n: Mp): Mp => Math.round((n * size) / text.size / 100) * 100;
  return {
    'text.size': size,
    'text.leading': Math.round((size * 1.25) / 100) * 100,
    'text.set': 'ragged',
    'text.hyphens': false,
    'quotation.size': grown(quotation.size),
    'notes.size': grown(notes.size),
    'notes.leading': grown(notes.leading),
    ...Object.fromEntries(GROWN.map((path) => [path, grown(settingAt(design, path) as Mp)])),
  };
}

/** Whether an edition is set in large print. Earlier versions did not note what it stood in for: all its settings tell. */
export function isLargePrint(choice: DesignChoice): boolean {
  const { before, set } = choice.design;
  if (before !== undefined) return true;
  const { size, set: lines, hyphens } = designOf(choice).text;
  return 'text.size' in set && size >= LARGE_PRINT && lines === 'ragged' && !hyphens;
}

/** An edition's design in large print; what it had set itself is kept for when that is taken off. */
export function withLargePrint(choice: DesignChoice): Edition['design'] {
  const large = largePrint(designOf(choice));
  const before = Object.fromEntries(Object.entries(choice.design.set).filter(([path]) => path in large));
  return { ...withMany(choice, large), before };
}
export function withoutLargePrint(choice: DesignChoice): Edition['design'] {
  const { before, ...design } = designWithout(choice, ...Object.keys(largePrint(designOf(choice))));
  return { ...design, set: { ...design.set, ...before } };
}

export function interiorOf(choice: DesignChoice, trim: Trim): Interior {
  const design = designOf(choice);
  const { page } = design;
  const plain = plainMargins(trim);
  return {
    name: choice.interior,
    ...design,
    trim: { width: trim.width, height: trim.height },
    margins: {
      inside: page.inside ?? plain.inside,
      outside: page.outside ?? plain.outside,
      top: page.top ?? plain.top,
      bottom: page.bottom ?? plain.bottom,
    },
  };
}

/** How an edition numbers: as the book says, else as its interior does. */
export function numberingWith(numbering: Numbering, { opening }: Design): Numbering {
  if (numbering.chapters !== 'usual' || opening.numberForm === 'usual') return numbering;
  return {
    ...numbering,
    chapters: opening.numberForm,
    chapterWord: numbering.chapterWord && opening.numberWord,
  };
}

/** Grid rows of the type area: as many full leadings as stand between the margins; never none. */
export const rowsOf = (i: Interior): number =>
  Math.max(1, Math.floor((i.trim.height - i.margins.top - i.margins.bottom) / i.text.leading));
export const measureOf = (i: Interior): Mp => i.trim.width - i.margins.inside - i.margins.outside;
