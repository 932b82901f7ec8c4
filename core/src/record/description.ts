/**
 * What a book is described with in shops: paragraphs and lists, in them emphasis and strong emphasis, which is what shops
 * accept (common practice). A description without any of that is kept as plain text with a paragraph a line; any other as
 * HTML of these few elements. Each says by itself which it is, since plain text that holds such a tag is kept as HTML too.
 */
import { Schema, type Mark, type Node } from 'prosemirror-model';
import { defaultTreeAdapter as tree, parseFragment, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { escapeXml } from '../base';

export const descriptionSchema = new Schema({
  nodes: {
    doc: { content: 'block+' },
    paragraph: { group: 'block', content: 'inline*', parseDOM: [{ tag: 'p' }], toDOM: () => ['p', 0] },
    bulletList: {
      group: 'block',
      content: 'item+',
      parseDOM: [{ tag: 'ul' }],
      toDOM: () => ['ul', 0],
    },
    numberedList: {
      group: 'block',
      content: 'item+',
      parseDOM: [{ tag: 'ol' }],
      toDOM: () => ['ol', 0],
    },
    // Shops take no lists within lists, so an item is a single paragraph.
    item: { content: 'paragraph', defining: true, parseDOM: [{ tag: 'li' }], toDOM: () => ['li', 0] },
    text: { group: 'inline' },
    lineBreak: {
      group: 'inline',
      inline: true,
      selectable: false,
      parseDOM: [{ tag: 'br' }],
      toDOM: () => ['br'],
    },
  },
  marks: {
    strong: { parseDOM: [{ tag: 'strong' }, { tag: 'b' }], toDOM: () => ['strong', 0] },
    emphasis: { parseDOM: [{ tag: 'em' }, { tag: 'i' }], toDOM: () => ['em', 0] },
  },
});

const TAG = /<\/?(?:p|br|em|strong|i|b|ul|ol|li)(?=[\s/>])[^>]*>/i;
/** Whether a description is kept as HTML. */
export const isMarkedUp = (text: string): boolean => TAG.test(text);

const paragraph = (inline: readonly Node[] = []): Node =>
  descriptionSchema.node('paragraph', null, inline as Node[]);
const lineOf = (text: string): Node => paragraph(text ? [descriptionSchema.text(text)] : []);

/** As it is edited; an empty one has an empty paragraph. */
export function descriptionDoc(text: string): Node {
  const blocks = isMarkedUp(text)
    ? blocksIn(parseFragment(text).childNodes)
    : text
        .split(/\n+/)
        .map((p) => p.trim())
        .filter(Boolean)
        .map(lineOf);
  return descriptionSchema.node('doc', null, blocks.length > 0 ? blocks : [paragraph()]);
}

const MARKS: Readonly<Record<string, 'strong' | 'emphasis'>> = {
  b: 'strong',
  strong: 'strong',
  em: 'emphasis',
  i: 'emphasis',
};
const SILENT = new Set(['script', 'style', 'template', 'title', 'head']);
/** Elements of a line; all others are blocks, of which some are known and the rest give their words as paragraphs. */
const IN_LINE = new Set(['b', 'strong', 'em', 'i', 'br', 'span', 'a', 'u', 'small', 'font', 'sub', 'sup']);

function inlineIn(nodes: readonly Tree.ChildNode[], marks: readonly Mark[]): Node[] {
  return nodes.flatMap((n): Node[] => {
    if (tree.isTextNode(n)) {
      const text = n.value.replace(/[\t\n\f\r ]+/g, ' ');
      return text ? [descriptionSchema.text(text, marks)] : [];
    }
    if (!tree.isElementNode(n) || SILENT.has(n.tagName)) return [];
    if (n.tagName === 'br') return [descriptionSchema.node('lineBreak')];
    const name = MARKS[n.tagName];
    return inlineIn(n.childNodes, name ? descriptionSchema.marks[name].create().addToSet(marks) : marks);
  });
}

/** A paragraph without the spaces and line breaks at its ends; null for an empty one. */
function trimmed(inline: readonly Node[]): Node | null {
  const nodes = [...inline];
  const bare = (at: 0 | -1, end: RegExp): void => {
    for (let n = nodes.at(at); n; n = nodes.at(at)) {
      const text = n.text?.replace(end, '') ?? '';
      const rest = text ? [descriptionSchema.text(text, n.marks)] : [];
      if (text === n.text) return;
      nodes.splice(at, 1, ...rest);
      if (rest.length > 0) return;
    }
  };
  bare(0, /^ +/);
  bare(-1, / +$/);
  return nodes.length > 0 ? paragraph(nodes) : null;
}

function blocksIn(nodes: readonly Tree.ChildNode[]): Node[] {
  const blocks: Node[] = [];
  let line: Tree.ChildNode[] = [];
  const close = (): void => {
    const whole = trimmed(inlineIn(line, []));
    if (whole) blocks.push(whole);
    line = [];
  };
  for (const n of nodes) {
    if (tree.isTextNode(n) || (tree.isElementNode(n) && IN_LINE.has(n.tagName))) line.push(n);
    else if (tree.isElementNode(n) && !SILENT.has(n.tagName)) {
      close();
      blocks.push(...(n.tagName === 'ul' || n.tagName === 'ol' ? listOf(n) : blocksIn(n.childNodes)));
    }
  }
  close();
  return blocks;
}

/** Each paragraph in a list is an item of it, whatever stood around it. */
function listOf(list: Tree.Element): Node[] {
  const items = blocksIn(list.childNodes).flatMap((b) =>
    b.type.name === 'paragraph' ? [b] : b.children.map((i) => i.firstChild as Node),
  );
  if (items.length === 0) return [];
  const type = list.tagName === 'ol' ? 'numberedList' : 'bulletList';
  return [
    descriptionSchema.node(
      type,
      null,
      items.map((p) => descriptionSchema.node('item', null, [p])),
    ),
  ];
}

/** Blocks and items that have words. */
const blocksOf = (parent: Node): Node[] => parent.children.filter((b) => b.textContent.trim() !== '');
const isPlain = (block: Node): boolean =>
  block.type.name === 'paragraph' && block.children.every((n) => n.isText && n.marks.length === 0);

/** As the record keeps it. */
export function descriptionText(doc: Node): string {
  const blocks = blocksOf(doc);
  const plain = plainOf(blocks);
  return blocks.every(isPlain) && !isMarkedUp(plain) ? plain : blocks.map(htmlOf).join('');
}

const wordsOf = (p: Node): string =>
  p.children
    .map((n) => n.text ?? '\n')
    .join('')
    .trim();
const plainOf = (blocks: readonly Node[]): string =>
  blocks
    .map((b) =>
      b.type.name === 'paragraph'
        ? wordsOf(b)
        : blocksOf(b)
            .map(
              (item, i) =>
                `${b.type.name === 'numberedList' ? `${i + 1}.` : '•'} ${wordsOf(item.firstChild as Node)}`,
            )
            .join('\n'),
    )
    .join('\n\n');

const TAGS: Readonly<Record<string, string>> = { strong: 'strong', emphasis: 'em' };
const inlineHtml = (p: Node): string =>
  p.children
    .map((n) =>
      n.isText
        ? n.marks.reduceRight(
            (inner, m) => `<${TAGS[m.type.name]}>${inner}</${TAGS[m.type.name]}>`,
            escapeXml(n.text ?? '').replace(/&quot;/g, '"'),
          )
        : '<br/>',
    )
    .join('');
function htmlOf(block: Node): string {
  if (block.type.name === 'paragraph') return `<p>${inlineHtml(block)}</p>`;
  const tag = block.type.name === 'numberedList' ? 'ol' : 'ul';
  const items = blocksOf(block).map((item) => `<li>${inlineHtml(item.firstChild as Node)}</li>`);
  return `<${tag}>${items.join('')}</${tag}>`;
}

/** Without markup: paragraphs apart by an empty line, items of a list by a sign or a number. */
export const plainDescription = (text: string): string => plainOf(blocksOf(descriptionDoc(text)));

/** As HTML that is XHTML too; '' for an empty one. */
export const descriptionHtml = (text: string): string => blocksOf(descriptionDoc(text)).map(htmlOf).join('');

/** The stretches of text in a description between which its markup is; a plain one is a single stretch. */
export function stretchesOf(text: string): string[] {
  if (!isMarkedUp(text)) return text === '' ? [] : [text];
  const found: string[] = [];
  descriptionDoc(text).descendants((n) => void (n.text === undefined || found.push(n.text)));
  return found;
}
/** A description whose stretches are changed; its markup stays. */
export function withStretches(text: string, change: (stretch: string, index: number) => string): string {
  if (!isMarkedUp(text)) return text === '' ? text : change(text, 0);
  let index = 0;
  const changed = (node: Node): Node[] => {
    if (node.isText) {
      const next = change(node.text ?? '', index++);
      return next ? [descriptionSchema.text(next, node.marks)] : [];
    }
    return [node.isLeaf ? node : node.type.create(node.attrs, node.children.flatMap(changed))];
  };
  return descriptionText(changed(descriptionDoc(text))[0] as Node);
}
