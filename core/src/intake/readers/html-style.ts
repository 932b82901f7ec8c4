/** What of CSS says what a text is: rules of a style element or file by tag and class, and style attributes. */
import { generate, parse, walk, type CssNode, type Declaration } from 'css-tree';

/** Only what a manuscript keeps; sizes in points. */
export interface Look {
  italic?: boolean;
  bold?: boolean;
  smallCaps?: boolean;
  strike?: boolean;
  underline?: boolean;
  monospace?: boolean;
  script?: 'super' | 'sub' | 'none';
  align?: 'left' | 'centre' | 'right' | 'justify';
  size?: number;
  breakBefore?: boolean;
  breakAfter?: boolean;
  indented?: boolean;
  hidden?: boolean;
}

const ALIGN: Record<string, Look['align']> = {
  left: 'left',
  start: 'left',
  center: 'centre',
  right: 'right',
  end: 'right',
  justify: 'justify',
};
export const BASE_SIZE = 12;
const UNITS: Record<string, number> = {
  pt: 1,
  px: 0.75,
  em: BASE_SIZE,
  rem: BASE_SIZE,
  '%': BASE_SIZE / 100,
};
const NAMED: Record<string, number> = { small: 10, medium: 12, large: 14, 'x-large': 18, 'xx-large': 24 };
const MONO = /courier|consolas|mono|menlo|typewriter/i;

const lengthOf = (value: string): number | undefined => {
  const m = /^(-?[\d.]+)(pt|px|rem|em|%)$/.exec(value);
  return m ? Number(m[1]) * (UNITS[m[2] as string] as number) : NAMED[value];
};

function lookOf(declarations: readonly Declaration[]): Look {
  const look: Look = {};
  for (const d of declarations) {
    const value = generate(d.value).trim().toLowerCase();
    switch (d.property.toLowerCase()) {
      case 'font-style':
        look.italic = /italic|oblique/.test(value);
        break;
      case 'font-weight':
        look.bold = /bold/.test(value) || Number(value) >= 600;
        break;
      case 'font-variant':
      case 'font-variant-caps':
        look.smallCaps = value.includes('small-caps');
        break;
      case 'font-family':
        look.monospace = MONO.test(value);
        break;
      case 'font-size':
        look.size = lengthOf(value);
        break;
      case 'text-align':
        look.align = ALIGN[value];
        break;
      case 'text-decoration':
      case 'text-decoration-line':
        look.strike = value.includes('line-through');
        look.underline = value.includes('underline');
        break;
      case 'vertical-align':
        look.script = value === 'super' ? 'super' : value === 'sub' ? 'sub' : 'none';
        break;
      case 'margin-left':
      case 'padding-left':
        look.indented = (lengthOf(value) ?? 0) >= 15;
        break;
      case 'page-break-before':
      case 'break-before':
        look.breakBefore = /always|page|recto|verso|left|right/.test(value);
        break;
      case 'page-break-after':
      case 'break-after':
        look.breakAfter = /always|page|recto|verso/.test(value);
        break;
      case 'display':
        look.hidden = value === 'none';
        break;
      case 'mso-hide':
        look.hidden = value === 'all';
    }
  }
  for (const k of Object.keys(look) as (keyof Look)[]) if (look[k] === undefined) delete look[k];
  return look;
}

const declarationsIn = (node: CssNode): Declaration[] => {
  const found: Declaration[] = [];
  walk(node, (n) => {
    if (n.type === 'Declaration') found.push(n);
  });
  return found;
};

export function styleAttribute(text: string): Look {
  try {
    return lookOf(declarationsIn(parse(text, { context: 'declarationList', onParseError: () => undefined })));
  } catch {
    return {};
  }
}

/** Looks by selector: "p", ".verse", "p.verse". Longer selectors say where, not what, and are left out. */
export class StyleSheet {
  private readonly looks = new Map<string, Look>();

  add(css: string): void {
    try {
      walk(parse(css.replace(/<!--|-->/g, ''), { onParseError: () => undefined }), (node) => {
        if (node.type !== 'Rule' || node.prelude.type !== 'SelectorList') return;
        const look = lookOf(declarationsIn(node.block));
        if (Object.keys(look).length === 0) return;
        for (const s of generate(node.prelude).split(',')) {
          const key = s.trim().toLowerCase();
          if (/^[a-z0-9]*(\.[\w-]+)?$/.test(key)) this.looks.set(key, { ...this.looks.get(key), ...look });
        }
      });
    } catch {
      // A broken style sheet says nothing.
    }
  }

  of(tag: string, classes: readonly string[]): Look {
    let look: Look = { ...this.looks.get(tag) };
    for (const c of classes) {
      const name = c.toLowerCase();
      look = { ...look, ...this.looks.get(`.${name}`), ...this.looks.get(`${tag}.${name}`) };
    }
    return look;
  }
}
