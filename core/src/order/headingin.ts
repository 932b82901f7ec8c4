/** A heading that stands in a section's text as its first lines: its number and title, and the blocks without them. */
import type { Node } from 'prosemirror-model';
import { countWords, labelOf } from '../base';
import { onOneLine, type Section } from '../book';

export interface HeadingIn {
  fields: Partial<Pick<Section, 'title' | 'subtitle' | 'numbered'>>;
  /** What is left of the blocks. */
  rest: Node[];
}

const LONGEST = 14;

/** Null where the first line is text: longer than titles are, or ended as sentences are. */
export function headingIn(blocks: readonly Node[]): HeadingIn | null {
  const first = lineOf(blocks[0]);
  if (!first) return null;
  const label = labelOf(first.text);
  const numbered =
    label !== null && (label.level !== null || label.title === '' || countWords(label.title) <= LONGEST);
  if (!numbered && !isTitle(first.text)) return null;
  const rest = without(blocks);
  const title = numbered ? label.title : first.text;
  if (!numbered || title !== '') return { fields: { title, ...(numbered ? { numbered } : {}) }, rest };
  // The title may stand on the line below its number, set apart as that is.
  const below = lineOf(rest[0]);
  const apart = below !== null && (below.apart || rest[0]?.type.name === 'subhead') && isTitle(below.text);
  return apart
    ? { fields: { title: below.text, numbered }, rest: without(rest) }
    : { fields: { title: '', numbered }, rest };
}

const isTitle = (text: string): boolean =>
  text !== '' && countWords(text) <= LONGEST && !/[.,;:!?\u2026]["\u201d\u2019]?$/.test(text);

/** The first line of a block, and whether it is set apart from running text. */
function lineOf(block: Node | undefined): { text: string; apart: boolean } | null {
  if (!block) return null;
  const line = HOLDERS.has(block.type.name) ? block.firstChild : block;
  if (!line || !/^(paragraph|subhead)$/.test(line.type.name)) return null;
  const text = onOneLine(line);
  let strong = line.content.size > 0;
  line.forEach((n) => {
    strong &&= !n.isText || n.marks.some((m) => m.type.name === 'strong');
  });
  return { text, apart: block !== line || strong || line.type.name === 'subhead' };
}

const HOLDERS: ReadonlySet<string> = new Set(['passage', 'quotation', 'letter']);

/** The blocks without their first line. */
function without(blocks: readonly Node[]): Node[] {
  const [first, ...rest] = blocks;
  if (!first || !HOLDERS.has(first.type.name)) return rest;
  const left = first.content.cut(first.firstChild?.nodeSize ?? 0);
  const holds = left.childCount > 0 && left.child(0).type.name === 'paragraph';
  return holds ? [first.copy(left), ...rest] : rest;
}
