/** Inline clean-up while reading: nothing a reader would see, everything a typesetter stumbles over. */
import { Fragment, type Node } from 'prosemirror-model';
import { schema } from '../../book';

/** How often each kind of debris was removed. */
export type TidyCount = Record<string, number>;

/**
 * Runs of spaces become one, tabs and spaces at a paragraph's start go, soft hyphens and zero-width signs go, neighbours
 * with the same marks are joined. Monospace text is left as it is.
 */
export function tidyInline(nodes: readonly Node[], count: TidyCount): Node[] {
  const add = (what: string, n = 1): void => void (count[what] = (count[what] ?? 0) + n);
  const out: Node[] = [];
  let lastChar = '\n';
  for (const node of nodes) {
    if (!node.isText) {
      out.push(node);
      lastChar = node.type.name === 'lineBreak' ? '\n' : 'x';
      continue;
    }
    let text = node.text as string;
    if (!node.marks.some((m) => m.type.name === 'monospaced')) {
      const debris = text.match(/[\u00ad\u200b\u2060\ufeff]/g)?.length ?? 0;
      if (debris) {
        add('soft-hyphens', debris);
        text = text.replace(/[\u00ad\u200b\u2060\ufeff]/g, '');
      }
      if (/\t/.test(text)) {
        add('tabs');
        text = text.replace(/\s*\t\s*/g, ' ');
      }
      if (/^[ \u00a0]/.test(text) && /[\s\n]/.test(lastChar)) {
        add(lastChar === '\n' ? 'spaces-as-indent' : 'double-spaces');
        text = text.replace(/^[ \u00a0]+/, '');
      }
      const runs = text.match(/ {2,}/g)?.length ?? 0;
      if (runs) {
        add('double-spaces', runs);
        text = text.replace(/ {2,}/g, ' ');
      }
    }
    if (text === '') continue;
    lastChar = text.at(-1) as string;
    out.push(schema.text(text, node.marks));
  }
  const last = out.at(-1);
  if (last?.isText && /\s$/.test(last.text as string)) {
    const trimmed = (last.text as string).trimEnd();
    out.pop();
    if (trimmed) out.push(schema.text(trimmed, last.marks));
  }
  // Fragment.fromArray joins neighbours with the same marks.
  const joined: Node[] = [];
  Fragment.fromArray(out).forEach((n) => void joined.push(n));
  return joined;
}
