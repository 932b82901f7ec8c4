/** Formulas of word files (ECMA-376 part 1, §22.1) as presentation MathML. */
import { cleanFormula, DEEPEST_FORMULA, math, row, type MathNode } from '../../book';

const part = (n: MathNode | undefined, name: string): MathNode | undefined =>
  n?.children.find((c): c is MathNode => typeof c !== 'string' && c.name === name);
const textOf = (n: MathNode | string): string =>
  typeof n === 'string' ? n : n.children.map(textOf).join('');
const isOn = (n: MathNode | undefined): boolean =>
  n !== undefined && !/^(?:0|off|false)$/.test(n.attrs.val ?? '1');

/** Levels of OMML that are read; it has two or three of them for each of MathML. What is deeper is left to the account. */
export const DEEPEST_OMML = 4 * DEEPEST_FORMULA;

/** The formula of an `oMath`, its elements and attributes by their local names; null for an empty one. */
export const formulaOf = (oMath: MathNode): MathNode | null => cleanFormula(math('math', inside(oMath)));

/** What an element holds, as one. */
const one = (n: MathNode | undefined): MathNode => row(n ? inside(n) : []);
const inside = (n: MathNode): MathNode[] => n.children.flatMap((c) => (typeof c === 'string' ? [] : made(c)));

function made(n: MathNode): MathNode[] {
  const { name } = n;
  const properties = part(n, `${name}Pr`);
  const said = (key: string, otherwise: string): string =>
    part(properties, key)?.attrs.val ?? (part(properties, key) ? '' : otherwise);
  const e = part(n, 'e');
  switch (name) {
    case 'r':
      return run(n);
    case 'f': {
      const [over, under] = [one(part(n, 'num')), one(part(n, 'den'))];
      const type = said('type', 'bar');
      if (type === 'lin') return [math('mrow', [over, math('mo', ['/']), under])];
      return [math('mfrac', [over, under], type === 'noBar' ? { linethickness: '0' } : {})];
    }
    case 'sSup':
      return [math('msup', [one(e), one(part(n, 'sup'))])];
    case 'sSub':
      return [math('msub', [one(e), one(part(n, 'sub'))])];
    case 'sSubSup':
      return [math('msubsup', [one(e), one(part(n, 'sub')), one(part(n, 'sup'))])];
    case 'sPre':
      return [math('mmultiscripts', [one(e), math('mprescripts'), one(part(n, 'sub')), one(part(n, 'sup'))])];
    case 'rad': {
      const degree = one(part(n, 'deg'));
      const none = isOn(part(properties, 'degHide')) || textOf(degree).trim() === '';
      return [none ? math('msqrt', [one(e)]) : math('mroot', [one(e), degree])];
    }
    case 'nary': {
      const sign = math('mo', [said('chr', '\u222b') || '\u222b']);
      const [sub, sup] = [
        isOn(part(properties, 'subHide')) ? null : one(part(n, 'sub')),
        isOn(part(properties, 'supHide')) ? null : one(part(n, 'sup')),
      ];
      const over = said('limLoc', 'subSup') === 'undOvr';
      const limits =
        sub && sup
          ? math(over ? 'munderover' : 'msubsup', [sign, sub, sup])
          : sub
            ? math(over ? 'munder' : 'msub', [sign, sub])
            : sup
              ? math(over ? 'mover' : 'msup', [sign, sup])
              : sign;
      return [limits, one(e)];
    }
    case 'd': {
      const fence = (sign: string): MathNode[] => (sign ? [math('mo', [sign], { fence: 'true' })] : []);
      const parts = n.children.filter((c): c is MathNode => typeof c !== 'string' && c.name === 'e');
      const between = said('sepChr', '|');
      return [
        math('mrow', [
          ...fence(said('begChr', '(')),
          ...parts.flatMap((p, i) => [
            ...(i > 0 && between ? [math('mo', [between], { separator: 'true' })] : []),
            one(p),
          ]),
          ...fence(said('endChr', ')')),
        ]),
      ];
    }
    case 'func':
      return [one(part(n, 'fName')), math('mo', ['\u2061']), one(e)];
    case 'limLow':
      return [math('munder', [one(e), one(part(n, 'lim'))])];
    case 'limUpp':
      return [math('mover', [one(e), one(part(n, 'lim'))])];
    case 'acc':
      return [math('mover', [one(e), math('mo', [said('chr', '\u0302') || '\u0302'])], { accent: 'true' })];
    case 'bar':
      return [
        said('pos', 'bot') === 'top'
          ? math('mover', [one(e), math('mo', ['\u00af'])], { accent: 'true' })
          : math('munder', [one(e), math('mo', ['_'])]),
      ];
    case 'groupChr': {
      const sign = math('mo', [said('chr', '\u23df') || '\u23df'], { stretchy: 'true' });
      return [math(said('pos', 'bot') === 'top' ? 'mover' : 'munder', [one(e), sign])];
    }
    case 'm':
    case 'eqArr': {
      const rows = n.children.filter(
        (c): c is MathNode => typeof c !== 'string' && c.name === (name === 'm' ? 'mr' : 'e'),
      );
      const cells = (r: MathNode): MathNode[] =>
        name === 'm' ? r.children.filter((c): c is MathNode => typeof c !== 'string' && c.name === 'e') : [r];
      return [
        math(
          'mtable',
          rows.map((r) =>
            math(
              'mtr',
              cells(r).map((c) => math('mtd', inside(c))),
            ),
          ),
        ),
      ];
    }
    default:
      // Boxes, phantoms and whatever else holds parts: the parts; properties hold none.
      return /Pr$/.test(name) ? [] : inside(n);
  }
}

/** Letters, numbers and signs of a run; letters are variables unless the run says that they are upright (§22.1.2.111). */
function run(n: MathNode): MathNode[] {
  const properties = part(n, 'rPr');
  const text = n.children
    .filter((c): c is MathNode => typeof c !== 'string' && c.name === 't')
    .map(textOf)
    .join('');
  if (isOn(part(properties, 'nor'))) return text.trim() === '' ? [] : [math('mtext', [text])];
  const style = part(properties, 'sty')?.attrs.val ?? 'i';
  const variant = { p: 'normal', b: 'bold', bi: 'bold-italic' }[style];
  const out: MathNode[] = [];
  for (const [token = ''] of text.matchAll(
    /(?<!\p{L})(?:arg|cosh?|cot|det|exp|gcd|lim|ln|log|max|min|sinh?|tanh?)(?!\p{L})|\p{N}+(?:[.,]\p{N}+)*|\p{L}\p{M}*|[^\s]/gu,
  )) {
    const last = out.at(-1);
    if (/^\p{N}/u.test(token)) out.push(math('mn', [token]));
    else if (!/^\p{L}/u.test(token)) out.push(math('mo', [token]));
    else if (style === 'p' && last?.name === 'mi' && text.includes(textOf(last) + token))
      last.children = [textOf(last) + token];
    else out.push(math('mi', [token], variant ? { mathvariant: variant } : {}));
  }
  // Upright letters in a row are one name, as "sin" is, and are upright by themselves.
  for (const m of out) if (m.name === 'mi' && [...textOf(m)].length > 1) m.attrs = {};
  return out;
}
