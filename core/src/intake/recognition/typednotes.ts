/** Notes typed at the foot of a page: "* The shilling of the marsh …" below a text that has "a shilling,*". */
import { countWords } from '../../base';
import { schema } from '../../book';
import {
  isEmpty,
  isText,
  rawParagraph,
  withoutFirst,
  type RawBlock,
  type RawNote,
  type RawParagraph,
} from '../raw';

const NOTE = /^\s*(\*{1,3}|\u2020{1,2}|\u2021{1,2}|\u00a7|\[\d{1,3}\])\s*(?=\S)/u;
/** Words between a call and its note at most: a page or two. */
const REACH = 900;

export interface TypedNotes {
  blocks: readonly RawBlock[];
  notes: RawNote[];
  /** Blocks that became notes. */
  taken: ReadonlySet<number>;
}

/** `furniture` are the blocks that are heads and page numbers: a note stands above one, or at the end of a page. */
export function typedNotes(
  blocks: readonly RawBlock[],
  known: readonly RawNote[],
  furniture: ReadonlySet<number>,
): TypedNotes {
  const taken = new Set<number>();
  const notes: RawNote[] = [];
  const changed = new Map<number, RawParagraph>();
  // A file that says what its sections are has real notes; its asterisks are text.
  if (blocks.some((b) => isText(b) && b.opens !== '')) return { blocks, notes, taken };
  blocks.forEach((b, at) => {
    if (!isText(b) || b.outline > 0 || b.list || furniture.has(at)) return;
    const mark = NOTE.exec(b.text);
    if (!mark || countWords(b.text, 2) < 2 || !endsPage(blocks, at, furniture)) return;
    const call = callBefore(blocks, changed, at, mark[1] as string);
    if (!call) return;
    const id = `t${known.length + notes.length + 1}`;
    changed.set(call.at, withCall(call.p, call.index, (mark[1] as string).length, id));
    const inline = withoutFirst(b.inline, mark[0].length);
    notes.push({
      id,
      paragraphs: [rawParagraph({ inline, text: b.text.slice(mark[0].length), language: b.language })],
    });
    taken.add(at);
  });
  if (taken.size === 0) return { blocks, notes, taken };
  return { blocks: blocks.map((b, i) => changed.get(i) ?? b), notes, taken };
}

/** Nothing but other notes and blank lines stands between it and the head or the foot of a page. */
function endsPage(blocks: readonly RawBlock[], at: number, furniture: ReadonlySet<number>): boolean {
  for (let i = at + 1; i < blocks.length; i++) {
    const b = blocks[i];
    if (furniture.has(i) || (isText(b) && b.breakBefore)) return true;
    if (!isEmpty(b) && !(isText(b) && NOTE.test(b.text))) return false;
  }
  return true;
}

/** The last place above the note where its mark stands behind a word. */
function callBefore(
  blocks: readonly RawBlock[],
  changed: ReadonlyMap<number, RawParagraph>,
  at: number,
  mark: string,
): { at: number; p: RawParagraph; index: number } | null {
  let words = 0;
  for (let i = at - 1; i >= 0 && words < REACH; i--) {
    const p = changed.get(i) ?? blocks[i];
    if (!isText(p)) continue;
    words += countWords(p.text);
    const index = lastCall(p.text, mark);
    if (index >= 0) return { at: i, p, index };
  }
  return null;
}

function lastCall(text: string, mark: string): number {
  for (let i = text.lastIndexOf(mark); i > 0; i = text.lastIndexOf(mark, i - 1)) {
    const before = text.charAt(i - 1);
    const after = text.charAt(i + mark.length);
    const alone = before !== mark.charAt(0) && after !== mark.charAt(0);
    if (alone && /[\p{L}\p{N}.,;:!?)"'\u2019\u201d]/u.test(before) && !/[\p{L}\p{N}]/u.test(after)) return i;
    if (i === 0) break;
  }
  return -1;
}

/** The paragraph with a call in place of the mark that was typed. */
function withCall(p: RawParagraph, index: number, length: number, ref: string): RawParagraph {
  const inline: RawParagraph['inline'] = [];
  let at = 0;
  for (const n of p.inline) {
    const size = n.isText ? (n.text as string).length : n.type.name === 'lineBreak' ? 1 : 0;
    const from = index - at;
    at += size;
    if (!n.isText || from < 0 || from + length > size) {
      inline.push(n);
      continue;
    }
    const text = n.text as string;
    if (from > 0) inline.push(schema.text(text.slice(0, from), n.marks));
    inline.push(schema.node('note', { ref }));
    if (from + length < text.length) inline.push(schema.text(text.slice(from + length), n.marks));
  }
  return { ...p, inline, text: p.text.slice(0, index) + p.text.slice(index + length) };
}
