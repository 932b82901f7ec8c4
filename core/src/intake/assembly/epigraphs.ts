/** An epigraph at a section's head: words set apart, and below them a line that says whose they are. */
import { Fragment, type Node } from 'prosemirror-model';
import { countWords } from '../../base';
import { schema } from '../../book';

const MOST_BLOCKS = 8;
const MOST_WORDS = 160;
const DASH = /^\s*[\u2013\u2014-]\s*\S/;

/** Whether every letter of a paragraph stands in italics, or it begins as a quotation. */
function setApart(n: Node): boolean {
  if (/^[\u201c\u2018\u00ab"]/.test(n.textContent.trim())) return true;
  let plain = false;
  n.forEach((c) => {
    plain ||=
      c.isText && (c.text as string).trim() !== '' && !c.marks.some((m) => m.type.name === 'emphasis');
  });
  return !plain && n.content.size > 0;
}

const isSource = (n: Node): boolean => DASH.test(n.textContent) && countWords(n.textContent) <= 16;

/**
 * The blocks of a section with a quotation in place of an epigraph at its head, if one stands there. Pictures above it
 * stay above. No word is changed.
 */
export function withEpigraph(blocks: readonly Node[], newId: () => string): Node[] {
  const start = blocks.findIndex((b) => b.type.name !== 'figure');
  const said: Node[] = [];
  for (let i = start; i >= 0 && i < Math.min(blocks.length, start + MOST_BLOCKS); i++) {
    const b = blocks[i] as Node;
    const displayed = b.type.name === 'passage' || b.type.name === 'quotation';
    if (b.type.name === 'break') continue;
    if (b.type.name !== 'paragraph' && !displayed) break;
    const paragraphs: Node[] = [];
    if (displayed) b.forEach((p) => void paragraphs.push(p));
    else paragraphs.push(b);
    for (const [k, p] of paragraphs.entries()) {
      if (said.length > 0 && isSource(p) && k === paragraphs.length - 1) {
        const source = schema.node('attribution', { id: p.attrs.id as string }, p.content);
        const quotation = schema.node('quotation', { id: newId() }, Fragment.fromArray([...said, source]));
        return [...blocks.slice(0, start), quotation, ...blocks.slice(i + 1)];
      }
      if (p.type.name !== 'paragraph' || (!displayed && !setApart(p))) return [...blocks];
      said.push(p);
    }
    if (said.reduce((n, p) => n + countWords(p.textContent), 0) > MOST_WORDS) break;
  }
  return [...blocks];
}

/** A quotation whose last paragraph says whose it is has an attribution. */
export function withAttribution(quotation: Node): Node {
  const last = quotation.lastChild;
  if (quotation.childCount < 2 || last?.type.name !== 'paragraph' || !isSource(last)) return quotation;
  const source = schema.node('attribution', { id: last.attrs.id as string }, last.content);
  return quotation.copy(quotation.content.replaceChild(quotation.childCount - 1, source));
}
