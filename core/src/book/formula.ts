/**
 * Formulas. A book keeps one twice: as a line of signs, which is text like any other, and beside it as presentation MathML,
 * which ebooks show in its place while the line is as it was read.
 */
import type { Mark, Node } from 'prosemirror-model';
import { mathml, readMathml, row, textIn, TOKENS, type MathNode } from './mathml';
import { schema } from './schema';

/** A stretch of the line of signs. */
export interface Signs {
  text: string;
  italic: boolean;
  script: '' | 'super' | 'sub';
}

/** Signs between two things, which stand with a space on both sides. */
const BETWEEN =
  /^[=+\u2212\u00b1\u2213\u00d7\u00f7\u2264\u2265\u2260\u2248\u2261\u2190-\u21ff\u2208\u2209\u2282-\u2287<>\u221d\u222a\u2229\u2227\u2228\u22c5\u00b7~\u223c]$/;
/** Signs before something that is summed, multiplied or joined up over a range. */
const LARGE = /^[\u220f-\u2211\u222b-\u2233\u22c0-\u22c3]$/;
const OPENING = /^[([{\u27e8|\u2308\u230a]$/;
const CLOSING = /^[)\]}\u27e9!%\u2309\u230b]$/;
const APPLY = '\u2061';
const UNSEEN = /^[\u2061-\u2064]$/;
/** Accents that stand on one letter. */
const ACCENTS: Record<string, string> = {
  '^': '\u0302',
  '\u02c6': '\u0302',
  '\u0302': '\u0302',
  '~': '\u0303',
  '\u02dc': '\u0303',
  '\u0303': '\u0303',
  '\u00af': '\u0304',
  '\u203e': '\u0304',
  '\u0304': '\u0304',
  '\u0305': '\u0304',
  '.': '\u0307',
  '\u02d9': '\u0307',
  '\u0307': '\u0307',
  '\u00a8': '\u0308',
  '\u0308': '\u0308',
  '\u20d7': '\u20d7',
  '\u2192': '\u20d7',
};

/** A formula on one line, as it is set in running text: fractions with a stroke, with brackets where they are needed. */
export function lineOf(formula: MathNode): Signs[] {
  return merged(signs(formula, ''));
}
function signs(n: MathNode, script: Signs['script']): Signs[] {
  const sign = (text: string, italic = false): Signs => ({ text, italic, script });
  const [a, b, c] = n.children as [MathNode, MathNode, MathNode];
  const raised = (of: MathNode, how: 'super' | 'sub'): Signs[] =>
    script === ''
      ? signs(of, how)
      : [sign(how === 'super' ? '^' : '_'), ...(isOne(of) ? signs(of, script) : bracketed(of, script))];
  const base = (of: MathNode): Signs[] => (isOne(of) ? signs(of, script) : bracketed(of, script));
  switch (n.name) {
    case 'mi': {
      const text = textIn(n);
      return [sign(text, [...text].length === 1 && n.attrs.mathvariant !== 'normal' && /\p{L}/u.test(text))];
    }
    case 'mn':
    case 'mtext':
      return [sign(textIn(n))];
    case 'mo':
      return [sign(textIn(n).replace(/^-$/, '\u2212'))];
    case 'mfrac': {
      const stroke = n.attrs.linethickness === '0' ? ' over ' : '/';
      const over = hasBetween(a) ? bracketed(a, script) : signs(a, script);
      return [...over, sign(stroke), ...base(b)];
    }
    case 'msqrt':
      return [sign('\u221a'), ...base(row(n.children as MathNode[]))];
    case 'mroot':
      return [
        ...(script === '' ? signs(b, 'super') : [...signs(b, script), sign(' ')]),
        sign('\u221a'),
        ...base(a),
      ];
    case 'msup':
      return [...base(a), ...raised(b, 'super')];
    case 'msub':
      return [...base(a), ...raised(b, 'sub')];
    case 'msubsup':
      return [...base(a), ...raised(b, 'sub'), ...raised(c, 'super')];
    case 'munderover':
      return [...signs(a, script), ...raised(b, 'sub'), ...raised(c, 'super')];
    case 'munder':
      return [...signs(a, script), ...raised(b, 'sub')];
    case 'mover': {
      const accent = ACCENTS[textIn(b).trim()];
      const below = textIn(a);
      if (accent && [...below].length === 1)
        return signs(a, script).map((s) => ({ ...s, text: (s.text + accent).normalize('NFC') }));
      return [...base(a), ...raised(b, 'super')];
    }
    case 'mmultiscripts': {
      const all = n.children as MathNode[];
      const cut = all.findIndex((x) => x.name === 'mprescripts');
      const scripts = (list: MathNode[]): Signs[] =>
        list.flatMap((x, i) => (x.name === 'none' ? [] : raised(x, i % 2 === 0 ? 'sub' : 'super')));
      return [
        ...(cut < 0 ? [] : scripts(all.slice(cut + 1))),
        ...base(a),
        ...scripts(all.slice(1, cut < 0 ? undefined : cut)),
      ];
    }
    case 'mtable':
      return (n.children as MathNode[]).flatMap((r, i) => [
        ...(i > 0 ? [sign('; ')] : []),
        ...(r.children as MathNode[]).flatMap((cell, k) => [
          ...(k > 0 ? [sign(', ')] : []),
          ...signs(cell, script),
        ]),
      ]);
    default:
      return inRow(n.children as MathNode[], script);
  }
}

function inRow(children: readonly MathNode[], script: Signs['script']): Signs[] {
  const out: Signs[] = [];
  const space = (): void => {
    if (out.length > 0 && !/ $/.test(out.at(-1)?.text ?? '')) out.push({ text: ' ', italic: false, script });
  };
  children.forEach((child, i) => {
    const text = textIn(child).replace(/^-$/, '\u2212');
    const isSign = child.name === 'mo';
    const before = children[i - 1];
    const afterThing = before !== undefined && (before.name !== 'mo' || CLOSING.test(textIn(before)));
    if (isSign && UNSEEN.test(text)) {
      const next = children[i + 1];
      const opens = next && OPENING.test([...textIn(next)][0] ?? '');
      if (text === APPLY && !opens) space();
      return;
    }
    const between = isSign && BETWEEN.test(text) && script === '' && i < children.length - 1 && afterThing;
    if (between || (i > 0 && isName(child) && afterThing)) space();
    out.push(...signs(child, script));
    const next = children[i + 1];
    if (isName(child) && next && next.name !== 'mo' && !OPENING.test(textIn(next).charAt(0))) space();
    if (between || (isSign && /^[,;]$/.test(text) && script === '')) space();
    if (LARGE.test(textIn(child.children[0] ?? '')) && child.name !== 'mo') space();
  });
  return out;
}

/** The name of a function, such as "sin". */
const isName = (n: MathNode): boolean => n.name === 'mi' && [...textIn(n)].length > 1;
const bracketed = (n: MathNode, script: Signs['script']): Signs[] => [
  { text: '(', italic: false, script },
  ...signs(n, script),
  { text: ')', italic: false, script },
];
/** Whether a part needs no brackets to be seen as one. */
const isOne = (n: MathNode): boolean =>
  TOKENS.has(n.name) ||
  /^(?:msqrt|munder|mover|munderover)$/.test(n.name) ||
  (/^m(?:sup|sub|subsup)$/.test(n.name) && isOne(n.children[0] as MathNode)) ||
  (n.name === 'mrow' &&
    (n.children.length === 1
      ? isOne(n.children[0] as MathNode)
      : OPENING.test(textIn(n.children[0] ?? '')) && CLOSING.test(textIn(n.children.at(-1) ?? ''))));
const hasBetween = (n: MathNode): boolean =>
  n.name === 'mfrac' ||
  (n.name === 'mrow' &&
    !isOne(n) &&
    (n.children as MathNode[]).some(
      (c) => c.name === 'mfrac' || (c.name === 'mo' && !UNSEEN.test(textIn(c))),
    ));

function merged(list: readonly Signs[]): Signs[] {
  const out: Signs[] = [];
  for (const s of list) {
    const last = out.at(-1);
    if (last && last.italic === s.italic && last.script === s.script) last.text += s.text;
    else if (s.text !== '') out.push({ ...s });
  }
  return out;
}

/** The text of a formula for a paragraph, with the formula kept beside it. */
export function formulaText(formula: MathNode, marks: readonly Mark[] = []): Node[] {
  const line = lineOf(formula);
  const words = line.map((s) => s.text).join('');
  const mark = schema.mark('formula', { mathml: mathml(formula, words, false), words });
  return line.map(({ text, italic, script }) => {
    let own = mark.addToSet(marks as Mark[]);
    if (italic) own = schema.mark('emphasis').addToSet(own) as Mark[];
    if (script !== '') own = schema.mark(script).addToSet(own) as Mark[];
    return schema.text(text, own);
  });
}

/** A formula of a paragraph that its text still says. */
export interface FormulaPlace {
  /** Offsets in the paragraph. */
  from: number;
  to: number;
  mathml: string;
  /** Marks around it that are not the formula's own. */
  marks: readonly Mark[];
}

/** The formulas of a paragraph whose lines of signs nobody changed; one that has a paragraph to itself is displayed. */
export function formulasIn(block: Node): FormulaPlace[] {
  const found: { from: number; to: number; text: string; mark: Mark; marks: readonly Mark[] }[] = [];
  block.forEach((n, offset) => {
    const mark = n.marks.find((m) => m.type.name === 'formula');
    if (!mark || !n.isText) return;
    const text = n.text as string;
    const last = found.at(-1);
    if (last && last.to === offset && last.mark.eq(mark)) {
      last.text += text;
      last.to += text.length;
    } else {
      const marks = n.marks.filter((m) => /^(?:link|strike|underline|language)$/.test(m.type.name));
      found.push({ from: offset, to: offset + text.length, text, mark, marks });
    }
  });
  return found.flatMap(({ from, to, text, mark, marks }) => {
    const { mathml: xml, words } = mark.attrs as { mathml: string; words: string };
    const formula = text === words ? readMathml(xml) : null;
    if (!formula) return [];
    const alone = block.textContent.trim() === words.trim();
    return [{ from, to, mathml: mathml(formula, words, alone), marks }];
  });
}
