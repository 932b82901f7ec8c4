/**
 * Presentation MathML (MathML 3 §3; of MathML Core what readers draw): read from anywhere, kept to what makes a formula, and
 * written anew.
 */
import { parseXml } from '../base';

/** An element of a formula: its name, attributes and what is in it. */
export interface MathNode {
  name: string;
  attrs: Record<string, string>;
  children: (MathNode | string)[];
}
export const MATHML = 'http://www.w3.org/1998/Math/MathML';
/** Levels that a formula may have one in the other; what a hand writes has ten at most. */
export const DEEPEST_FORMULA = 60;

export const TOKENS = new Set(['mi', 'mn', 'mo', 'mtext']);
/** Elements that are kept, with their attributes. */
const KEPT: Record<string, readonly string[]> = {
  mi: ['mathvariant'],
  mn: [],
  mo: ['stretchy', 'fence', 'separator', 'form'],
  mtext: [],
  mrow: [],
  mfrac: ['linethickness'],
  msqrt: [],
  mroot: [],
  msup: [],
  msub: [],
  msubsup: [],
  munder: ['accentunder'],
  mover: ['accent'],
  munderover: [],
  mmultiscripts: [],
  mprescripts: [],
  none: [],
  mtable: [],
  mtr: [],
  mtd: [],
};
/** How many children an element has to have; others may have any number. */
const ARITY: Record<string, number> = {
  mfrac: 2,
  mroot: 2,
  msup: 2,
  msub: 2,
  msubsup: 3,
  munder: 2,
  mover: 2,
  munderover: 3,
};

export const math = (
  name: string,
  children: (MathNode | string)[] = [],
  attrs: Record<string, string> = {},
): MathNode => ({ name, attrs, children });
export const row = (children: MathNode[]): MathNode =>
  children.length === 1 ? (children[0] as MathNode) : math('mrow', children);

/** A formula with nothing in it but what is kept; null for one that is empty, nested without end or not to be made sense of. */
export function cleanFormula(given: MathNode): MathNode | null {
  const clean = (n: MathNode, depth: number): MathNode[] | null => {
    if (depth > DEEPEST_FORMULA) return null;
    // Text that stands in no element of its own, as no standard allows, is text.
    const elements = n.children.flatMap((c): MathNode[] =>
      typeof c !== 'string' ? [c] : c.trim() === '' ? [] : [math('mtext', [c])],
    );
    const all = (list: readonly MathNode[]): MathNode[] | null => {
      const out: MathNode[] = [];
      for (const c of list) {
        const made = clean(c, depth + 1);
        if (!made) return null;
        out.push(...made);
      }
      return out;
    };
    const name = n.name === 'ms' ? 'mtext' : n.name;
    if (TOKENS.has(name)) {
      const text = textIn(n).replace(/\s+/g, ' ');
      return text.trim() === '' ? [] : [math(name, [name === 'mtext' ? text : text.trim()], kept(n, name))];
    }
    switch (name) {
      case 'maction':
        return all(elements.slice(0, 1));
      case 'annotation':
      case 'annotation-xml':
      case 'mspace':
      case 'mphantom':
        return [];
      case 'mfenced': {
        const { open = '(', close = ')', separators = ',' } = n.attrs;
        const parts = elements.map((e) => all([e]));
        if (parts.some((p) => p === null)) return null;
        const between = parts.flatMap((p, i) => [
          ...(i > 0 && separators.trim() ? [math('mo', [separators.trim().charAt(0)])] : []),
          ...(p as MathNode[]),
        ]);
        return [math('mrow', [...fence(open), ...between, ...fence(close)])];
      }
    }
    const need = ARITY[name];
    if (need === undefined) {
      const children = all(elements);
      if (!children) return null;
      if (name === 'mtable') return [math(name, children.map(within('mtr', within('mtd'))))];
      if (name === 'mtr') return [math(name, children.map(within('mtd')))];
      if (name === 'mmultiscripts' && (children.length === 0 || children[0]?.name === 'mprescripts'))
        return children.filter((c) => c.name !== 'mprescripts');
      return name in KEPT ? [math(name, children, kept(n, name))] : children;
    }
    const children: MathNode[] = [];
    for (const e of elements) {
      const made = all([e]);
      if (!made) return null;
      children.push(row(made));
    }
    // With too few parts, or too many, nobody knows what it is: its signs stand in a row.
    return children.length === need ? [math(name, children, kept(n, name))] : children;
  };
  const made = clean({ ...given, name: 'mrow' }, 0);
  const whole = made?.[0];
  return whole && textIn(whole).trim() !== '' ? whole : null;
}
/** Puts an element into one of another name, unless it is one. */
const within =
  (name: string, inner: (n: MathNode) => MathNode = (n) => n) =>
  (n: MathNode): MathNode =>
    n.name === name ? n : math(name, [inner(n)]);
const fence = (sign: string): MathNode[] => (sign === '' ? [] : [math('mo', [sign], { fence: 'true' })]);
const kept = (n: MathNode, name: string): Record<string, string> =>
  Object.fromEntries(
    (KEPT[name] ?? []).flatMap((key) => {
      const value = n.attrs[key];
      return value !== undefined && /^[\w.-]{1,40}$/.test(value) ? [[key, value]] : [];
    }),
  );

export const textIn = (n: MathNode | string): string =>
  typeof n === 'string' ? n : n.children.map(textIn).join('');

/** The formula that a string of MathML says; null for what is none. */
export function readMathml(xml: string): MathNode | null {
  const { root } = parseXml(xml);
  return root?.name === 'math' ? cleanFormula(root) : null;
}

const escape = (text: string): string =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

/** `words` is what is read aloud where a formula cannot be. */
export function mathml(formula: MathNode, words: string, display: boolean): string {
  const write = (n: MathNode | string): string => {
    if (typeof n === 'string') return escape(n);
    const attrs = Object.entries(n.attrs).map(([key, value]) => ` ${key}="${escape(value)}"`);
    const open = `${n.name}${attrs.join('')}`;
    return n.children.length === 0 ? `<${open}/>` : `<${open}>${n.children.map(write).join('')}</${n.name}>`;
  };
  return `<math xmlns="${MATHML}"${display ? ' display="block"' : ''} alttext="${escape(words)}">${write(formula)}</math>`;
}
