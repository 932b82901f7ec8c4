/** A style sheet as its rules: what each is about, and its declarations with the place of their values. */
import * as csstree from 'css-tree';
import { resolve } from '../package';
import type { TextEdit } from './container';
import type { Span } from './located';

export interface StyleDeclaration extends Span {
  property: string;
  value: string;
  important: boolean;
}
export interface StyleRule extends Span {
  /** The selector, or `@font-face` and the like. */
  selector: string;
  /** What it stands within, such as `@media print`; '' for none. */
  within: string;
  declarations: StyleDeclaration[];
}

/** Rules in the order of the sheet (CSS Syntax 3). What cannot be read is left out. */
export function styleRules(css: string): StyleRule[] {
  const rules: StyleRule[] = [];
  const slice = (n: csstree.CssNode | null | undefined): string =>
    n?.loc ? css.slice(n.loc.start.offset, n.loc.end.offset).trim() : '';
  const declarations = (block: csstree.Block): StyleDeclaration[] =>
    block.children.toArray().flatMap((d) => {
      const span = d.type === 'Declaration' ? d.value.loc : undefined;
      if (d.type !== 'Declaration' || !span) return [];
      const raw = css.slice(span.start.offset, span.end.offset);
      const value = raw.trim();
      const from = span.start.offset + raw.indexOf(value);
      return [
        { property: d.property, value, important: d.important !== false, from, to: from + value.length },
      ];
    });
  const walk = (list: csstree.CssNode[], within: string): void => {
    for (const n of list) {
      if (!n.loc) continue;
      const span = { from: n.loc.start.offset, to: n.loc.end.offset };
      if (n.type === 'Rule')
        rules.push({ ...span, selector: slice(n.prelude), within, declarations: declarations(n.block) });
      if (n.type !== 'Atrule' || !n.block) continue;
      const own = `@${n.name}${n.prelude ? ` ${slice(n.prelude)}` : ''}`;
      const inner = n.block.children.toArray();
      if (inner.some((c) => c.type === 'Rule' || c.type === 'Atrule')) walk(inner, own);
      else rules.push({ ...span, selector: own, within, declarations: declarations(n.block) });
    }
  };
  try {
    const tree = csstree.parse(css, { positions: true, parseValue: false });
    if (tree.type === 'StyleSheet') walk(tree.children.toArray(), '');
  } catch {
    // What stands in such a sheet is seen in its source.
  }
  return rules;
}

export interface FaceRule {
  family: string;
  weight: string;
  style: string;
  /** Parts that it names as its sources. */
  sources: string[];
  rule: StyleRule;
}
/** What the `@font-face` rules of a sheet declare (CSS Fonts 4 §4). `path`: that of the sheet. */
export const faceRules = (path: string, css: string): FaceRule[] =>
  styleRules(css).flatMap((rule) => {
    if (rule.selector !== '@font-face') return [];
    const of = (property: string): string =>
      rule.declarations.find((d) => d.property === property)?.value ?? '';
    const addresses = [...of('src').matchAll(/url\(\s*["']?([^"')]+)["']?\s*\)/g)];
    return [
      {
        family: of('font-family').replace(/^["']|["']$/g, ''),
        weight: of('font-weight') || 'normal',
        style: of('font-style') || 'normal',
        sources: addresses.flatMap((m) => resolve(path, m[1] ?? '')?.path ?? []),
        rule,
      },
    ];
  });

/** Declares a typeface otherwise; null where the sheet doesn’t declare it, or declares it so already. */
export function declareFace(
  path: string,
  css: string,
  source: string,
  property: 'font-family' | 'font-weight' | 'font-style',
  value: string,
): TextEdit | null {
  const face = faceRules(path, css).find((f) => f.sources.includes(source));
  if (!face || value.trim() === '') return null;
  const written = property === 'font-family' ? JSON.stringify(value.trim()) : value.trim();
  const known = face.rule.declarations.find((d) => d.property === property);
  const open = css.indexOf('{', face.rule.from) + 1;
  const edit: TextEdit = known
    ? { op: 'edit', path, at: known.from, removed: known.value, inserted: written }
    : { op: 'edit', path, at: open, removed: '', inserted: ` ${property}: ${written};` };
  return edit.removed === edit.inserted ? null : edit;
}
