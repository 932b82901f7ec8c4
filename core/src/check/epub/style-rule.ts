/** Rules that look at style sheets node by node, and the addresses in them. */
import * as csstree from 'css-tree';
import type { Breach, Rule } from '../rules';
import { lineAt, type EpubSheet, type EpubSubject } from './subject';

export const place = (sheet: EpubSheet, offset: number): { file: string; line: number; column: number } => ({
  file: sheet.path,
  ...lineAt(sheet.text, sheet.offset + offset),
});

export const of = (sheet: EpubSheet, node: csstree.CssNode): { file: string; line: number; column: number } =>
  place(sheet, node.loc?.start.offset ?? 0);

/** A rule that looks at each node of each sheet. */
export const each = (
  rule: Omit<Rule<EpubSubject>, 'look'>,
  look: (
    node: csstree.CssNode,
    sheet: EpubSheet,
    s: EpubSubject,
    within: csstree.WalkContext,
  ) => string | null,
): Rule<EpubSubject> => ({
  ...rule,
  *look(s): Iterable<Breach> {
    for (const sheet of s.sheets) {
      const found: Breach[] = [];
      csstree.walk(sheet.tree, function (node) {
        const message = look(node, sheet, s, this);
        if (message) found.push({ message, ...of(sheet, node) });
      });
      yield* found;
    }
  },
});

export interface Address {
  value: string;
  node: csstree.CssNode;
  imported: boolean;
  face: boolean;
}

export const addresses = new WeakMap<EpubSheet, Address[]>();

export function addressesIn(sheet: EpubSheet): Address[] {
  let known = addresses.get(sheet);
  if (known) return known;
  known = [];
  const found = known;
  csstree.walk(sheet.tree, function (node) {
    const rule = this.atrule?.name.toLowerCase();
    if (node.type === 'Url')
      found.push({ value: node.value, node, imported: rule === 'import', face: rule === 'font-face' });
    if (
      node.type === 'Atrule' &&
      node.name.toLowerCase() === 'import' &&
      node.prelude?.type === 'AtrulePrelude'
    ) {
      const first = node.prelude.children.first;
      if (first?.type === 'String')
        found.push({ value: first.value, node: first, imported: true, face: false });
    }
  });
  addresses.set(sheet, found);
  return found;
}
