'use client';
/**
 * Changing what paragraphs are. The blocks under the selection are taken apart into paragraphs, those selected are put
 * together again in the new style, and those around them as they were: a quotation can lose its middle paragraph.
 */
import type { ListNumbers } from '@pagina/core/base';
import { Fragment, type Node } from 'prosemirror-model';
import { TextSelection, type EditorState, type Transaction } from 'prosemirror-state';
import { isPictured, schema } from '@pagina/core/book';

const n = schema.nodes;

export const STYLES = {
  text: 'Text',
  subhead1: 'Subhead 1',
  subhead2: 'Subhead 2',
  subhead3: 'Subhead 3',
  quotation: 'Quotation',
  attribution: 'Attribution',
  letter: 'Letter',
  verse: 'Verse',
  centre: 'Displayed, centred',
  right: 'Displayed, ranged right',
  inset: 'Displayed, indented both sides',
  list: 'List',
  numbered: 'Numbered list',
  monospace: 'Monospace',
} as const;
export type Style = keyof typeof STYLES;

/** A paragraph on its own, with what it is now. */
interface Unit {
  style: Style;
  content: Fragment;
  id: string;
  /** Of a verse line or a deeper list. */
  indent: number;
  /** Begins a stanza. */
  stanza: boolean;
  /** Goes on in the item of the paragraph before it. */
  goesOn: boolean;
  /** Its own list is numbered. */
  ordered: boolean;
  /** Number that its list begins with, and how its own list counts. */
  start: number;
  numbers: ListNumbers;
  /** Its own list is one of terms. */
  terms: boolean;
  selected: boolean;
}

/** Blocks that are more than paragraphs are not taken apart. */
const WHOLE = new Set(['break', 'pageBreak', 'figure', 'table', 'noteBody', 'picturePage']);

function unitsOf(block: Node, at: number, from: number, to: number): Unit[] | null {
  if (WHOLE.has(block.type.name)) return null;
  const units: Unit[] = [];
  const add = (node: Node, pos: number, style: Style, more: Partial<Unit> = {}): void => {
    const selected = pos < to + 1 && pos + node.nodeSize > from;
    units.push({
      style,
      content: node.content,
      id: node.attrs.id as string,
      indent: 0,
      stanza: false,
      goesOn: false,
      ordered: false,
      start: 1,
      numbers: 'figures',
      terms: false,
      selected,
      ...more,
    });
  };
  const name = block.type.name;
  if (name === 'paragraph') add(block, at, 'text');
  else if (name === 'subhead') add(block, at, `subhead${block.attrs.level as 1 | 2 | 3}`);
  else if (name === 'monospace') add(block, at, 'monospace');
  else {
    const own: Style =
      name === 'passage'
        ? (block.attrs.align as Style)
        : name === 'list'
          ? block.attrs.ordered
            ? 'numbered'
            : 'list'
          : (name as Style);
    const lists: Node[] = [];
    const walk = (parent: Node, base: number): void => {
      if (parent.type === n.list) lists.push(parent);
      parent.forEach((child, offset, i) => {
        const pos = base + offset;
        if (child.isTextblock)
          add(child, pos, child.type === n.attribution ? 'attribution' : own, {
            indent: child.type === n.verseLine ? Number(child.attrs.indent) : Math.max(0, lists.length - 1),
            stanza: child.type === n.verseLine && i === 0,
            goesOn: parent.type === n.item && i > 0,
            ordered: lists.at(-1)?.attrs.ordered === true,
            start: Number(block.attrs.start ?? 1),
            numbers: (lists.at(-1)?.attrs.numbers as ListNumbers | undefined) ?? 'figures',
            terms: lists.at(-1)?.attrs.terms === true,
          });
        else walk(child, pos + 1);
      });
      if (parent.type === n.list) lists.pop();
    };
    walk(block, at + 1);
  }
  return units;
}

/** Text alone, with line breaks as line ends; null when a note would be lost. */
function bareText(content: Fragment): string | null {
  let text: string | null = '';
  content.forEach((c) => {
    if (c.type.name === 'note') text = null;
    else if (text !== null) text += c.isText ? (c.text as string) : '\n';
  });
  return text;
}

/** Lines of a paragraph, cut at its forced line breaks. */
function cutLines(content: Fragment): Fragment[] {
  const lines: Node[][] = [[]];
  content.forEach((c) => {
    if (c.type.name === 'lineBreak') lines.push([]);
    else (lines.at(-1) as Node[]).push(c);
  });
  return lines.map((l) => Fragment.fromArray(l));
}

/** Units of one style side by side become one block. */
function built(units: readonly Unit[]): Node[] | null {
  const out: Node[] = [];
  for (let i = 0; i < units.length;) {
    const { style } = units[i] as Unit;
    let end = i + 1;
    while (end < units.length && (units[end] as Unit).style === style) end++;
    const same = units.slice(i, end);
    const paragraphs = same.map((u) => n.paragraph!.create({ id: u.id }, u.content));
    i = end;
    if (style === 'text') out.push(...paragraphs);
    else if (style.startsWith('subhead'))
      out.push(...same.map((u) => n.subhead!.create({ id: u.id, level: Number(style.slice(7)) }, u.content)));
    else if (style === 'attribution') {
      const before = out.at(-1);
      const [u, ...more] = same;
      if (
        !u ||
        !before ||
        (before?.type !== n.quotation && before?.type !== n.verse) ||
        before.lastChild?.type === n.attribution
      )
        return null;
      out[out.length - 1] = before.copy(
        before.content.addToEnd(n.attribution!.create({ id: u.id }, u.content)),
      );
      out.push(...more.map((x) => n.paragraph!.create({ id: x.id }, x.content)));
    } else if (style === 'verse') {
      const stanzas: Node[][] = [];
      for (const u of same) {
        if (u.stanza || stanzas.length === 0) stanzas.push([]);
        cutLines(u.content).forEach((line, k) =>
          (stanzas.at(-1) as Node[]).push(
            n.verseLine!.create({ id: k === 0 ? u.id : '', indent: u.indent }, line),
          ),
        );
      }
      out.push(
        n.verse!.create(
          { id: '' },
          stanzas.map((lines) => n.stanza!.create({ id: '' }, lines)),
        ),
      );
    } else if (style === 'list' || style === 'numbered') out.push(listOf(same, 0));
    else if (style === 'monospace') {
      const texts = same.map((u) => bareText(u.content));
      if (texts.includes(null)) return null;
      const text = texts.join('\n');
      out.push(n.monospace!.create({ id: same[0]?.id }, text ? schema.text(text) : null));
    } else if (style === 'quotation' || style === 'letter')
      out.push(n[style]!.create({ id: '' }, paragraphs));
    else out.push(n.passage!.create({ id: '', align: style }, paragraphs));
  }
  return out;
}

function listOf(units: readonly Unit[], level: number): Node {
  const ordered = units[0]?.ordered ?? false;
  const items: Node[] = [];
  for (let i = 0; i < units.length; i++) {
    const u = units[i] as Unit;
    const before = items.at(-1);
    if (u.goesOn && before && u.indent === level) {
      items[items.length - 1] = before.copy(
        before.content.addToEnd(n.paragraph!.create({ id: u.id }, u.content)),
      );
      continue;
    }
    const deeper: Unit[] = [];
    while ((units[i + 1]?.indent ?? 0) > level) deeper.push(units[++i] as Unit);
    const children = [n.paragraph!.create({ id: u.id }, u.content)];
    if (deeper.length > 0) children.push(listOf(deeper, level + 1));
    items.push(n.item!.create({ id: '' }, children));
  }
  return n.list!.create(
    {
      id: '',
      ordered,
      start: ordered && level === 0 ? (units[0]?.start ?? 1) : 1,
      numbers: units[0]?.numbers ?? 'figures',
      terms: units[0]?.terms ?? false,
    },
    items,
  );
}

/** The style of the paragraph that the cursor stands in; null in a block that has none to choose. */
export function styleAt(state: EditorState): Style | null {
  const { $from } = state.selection;
  if ($from.depth === 0) return null;
  const block = $from.node(1);
  const units = unitsOf(block, $from.before(1), $from.pos, $from.pos);
  const unit =
    units?.find((u) => u.id === ($from.parent.attrs.id as string)) ?? units?.find((u) => u.selected);
  return unit?.style ?? null;
}

/** A transaction that gives the selected paragraphs the style, or why it cannot be. */
export function restyle(state: EditorState, style: Style): Transaction | string {
  const { $from, $to, from, to } = state.selection;
  if ($from.depth === 0 && $to.depth === 0) return 'Click into a paragraph first.';
  if (isPictured(state.doc)) return 'Words on picture pages are styled under “Lay out the pages”.';
  let first = $from.index(0);
  let last = $to.depth > 0 ? $to.index(0) : $to.indexAfter(0) - 1;
  // An attribution belongs to the block above it.
  if (style === 'attribution' && first > 0) first--;
  const { doc } = state;
  // A neighbour of the same sort takes the paragraphs in.
  if (first > 0 && joins(doc.child(first - 1), style)) first--;
  if (last + 1 < doc.childCount && joins(doc.child(last + 1), style)) last++;
  let start = 0;
  for (let i = 0; i < first; i++) start += doc.child(i).nodeSize;
  const out: Node[] = [];
  let run: Unit[] = [];
  let pos = start;
  const flush = (): boolean => {
    const nodes = built(run);
    run = [];
    if (!nodes) return false;
    out.push(...nodes);
    return true;
  };
  const why =
    style === 'attribution'
      ? 'An attribution goes below a quotation or verse, once.'
      : 'It contains a note, which monospaced text can’t have.';
  for (let i = first; i <= last; i++) {
    const block = doc.child(i);
    const units = unitsOf(block, pos, from, to);
    if (units === null) {
      if (block.type === n.noteBody) return 'A note is plain text.';
      if (!flush()) return why;
      out.push(block);
    } else
      run.push(
        ...units.map((u) =>
          u.selected
            ? {
                ...u,
                style,
                stanza: style === 'verse' && u.stanza,
                goesOn: false,
                ordered: style === 'numbered',
              }
            : u,
        ),
      );
    pos += block.nodeSize;
  }
  if (!flush()) return why;
  const id = $from.parent.attrs.id as string;
  const offset = $from.parentOffset;
  const tr = state.tr.replaceWith(start, pos, out);
  let cursor: number | null = null;
  tr.doc.nodesBetween(start, Math.min(tr.doc.content.size, start + Fragment.fromArray(out).size), (x, p) => {
    if (cursor === null && x.isTextblock && x.attrs.id === id)
      cursor = p + 1 + Math.min(offset, x.content.size);
  });
  tr.setSelection(TextSelection.near(tr.doc.resolve(cursor ?? start + 1)));
  return tr.scrollIntoView();
}

function joins(block: Node, style: Style): boolean {
  const name = block.type.name;
  if (style === 'list' || style === 'numbered')
    return name === 'list' && block.attrs.ordered === (style === 'numbered');
  if (style === 'centre' || style === 'right' || style === 'inset')
    return name === 'passage' && block.attrs.align === style;
  return (
    (style === 'quotation' || style === 'letter' || style === 'verse') &&
    name === style &&
    block.lastChild?.type !== n.attribution
  );
}
