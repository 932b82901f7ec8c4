/**
 * Notes typed in a list under "Notes", called by raised figures or by "[1]" in the text. They become notes when the numbers
 * of the list and those of the calls are the same ones in the same order.
 */
import { countWords, labelOf } from '../../base';
import { schema } from '../../book';
import {
  isEmpty,
  isText,
  kindByWords,
  withoutFirst,
  type RawBlock,
  type RawNote,
  type RawParagraph,
} from '../raw';

export interface GatheredNotes {
  blocks: readonly RawBlock[];
  notes: RawNote[];
  taken: ReadonlySet<number>;
  /** Numbers that stood before the notes, by the block that they stood in. */
  marks: ReadonlyMap<number, string>;
}

const ENTRY = /^\s*(?:\[(\d{1,3})\]|\((\d{1,3})\)|(\d{1,3})[.):]?)\s+(?=\S)/;
const BRACKET = /\[(\d{1,3})\]/g;

interface Entry {
  number: number;
  /** Its paragraphs: the first with its number, and those that go on. */
  at: number[];
  mark: string;
}
interface Call {
  number: number;
  at: number;
  /** Which inline node, and where in its text. */
  node: number;
  from: number;
  length: number;
}

export function gatheredNotes(
  blocks: readonly RawBlock[],
  known: readonly RawNote[],
  aside: ReadonlyMap<number, unknown>,
): GatheredNotes {
  const none = { blocks, notes: [], taken: new Set<number>(), marks: new Map<number, string>() };
  const head = blocks.findLastIndex(
    (b) => isText(b) && b.text.length < 40 && kindByWords(b.text) === 'notes',
  );
  if (head < 0) return none;
  const entries = entriesAfter(blocks, head, aside);
  const calls = callsBefore(blocks, head);
  const same =
    entries.length > 0 &&
    entries.length === calls.length &&
    entries.every((e, i) => e.number === calls[i]?.number);
  if (!same) return none;
  const taken = new Set(entries.flatMap((e) => e.at));
  const marks = new Map(entries.map((e) => [e.at[0] as number, e.mark]));
  const id = (i: number): string => `g${known.length + i + 1}`;
  const notes = entries.map((e, i): RawNote => ({
    id: id(i),
    kind: 'end',
    paragraphs: e.at.map((at, k) => {
      const p = blocks[at] as RawParagraph;
      const length = k === 0 ? (ENTRY.exec(p.text)?.[0].length ?? 0) : 0;
      return { ...p, list: null, inline: withoutFirst(p.inline, length), text: p.text.slice(length) };
    }),
  }));
  const changed = new Map<number, RawParagraph>();
  calls.forEach(
    (c, i) =>
      void changed.set(c.at, withCall(changed.get(c.at) ?? (blocks[c.at] as RawParagraph), calls, i, id(i))),
  );
  return { blocks: blocks.map((b, i) => changed.get(i) ?? b), notes, taken, marks };
}

/** The entries below the heading: numbers that run on, or begin again below a line that names a chapter. */
function entriesAfter(
  blocks: readonly RawBlock[],
  head: number,
  aside: ReadonlyMap<number, unknown>,
): Entry[] {
  const out: Entry[] = [];
  let next = 1;
  for (let at = head + 1; at < blocks.length; at++) {
    const b = blocks[at];
    if (isEmpty(b) || aside.has(at)) continue;
    if (!isText(b) || b.pictures.length > 0) return out;
    const m = ENTRY.exec(b.text);
    const number = m ? Number(m[1] ?? m[2] ?? m[3]) : 0;
    if (m && (number === next || number === 1)) {
      out.push({ number, at: [at], mark: m[0].trim() });
      next = number + 1;
      continue;
    }
    const short = countWords(b.text, 10) <= 10;
    if (short && (b.bold || b.outline > 0 || labelOf(b.text)?.level)) {
      // The next heading of the book ends the list; the name of a chapter begins its own numbers.
      if (!labelOf(b.text)?.level && kindByWords(b.text)) return out;
      continue;
    }
    const last = out.at(-1);
    if (!last || b.breakBefore) return out;
    last.at.push(at);
  }
  return out;
}

/** Calls in the text above, in order. */
function callsBefore(blocks: readonly RawBlock[], head: number): Call[] {
  const raised: Call[] = [];
  const bracketed: Call[] = [];
  for (let at = 0; at < head; at++) {
    const b = blocks[at];
    if (!isText(b)) continue;
    b.inline.forEach((n, node) => {
      if (!n.isText) return;
      const text = n.text as string;
      if (n.marks.some((m) => m.type.name === 'super') && /^\s*\d{1,3}\s*$/.test(text))
        raised.push({ number: Number(text), at, node, from: 0, length: text.length });
      for (const m of text.matchAll(BRACKET))
        bracketed.push({ number: Number(m[1]), at, node, from: m.index, length: m[0].length });
    });
  }
  return raised.length >= bracketed.length ? raised : bracketed;
}

/** The paragraph with a note in place of the mark; places of later calls in the same paragraph are moved along. */
function withCall(p: RawParagraph, calls: Call[], which: number, ref: string): RawParagraph {
  const c = calls[which] as Call;
  const node = p.inline[c.node];
  if (!node?.isText) return p;
  const text = node.text as string;
  const before = text.slice(0, c.from);
  const after = text.slice(c.from + c.length);
  const parts = [
    ...(before ? [schema.text(before, node.marks)] : []),
    schema.node('note', { ref }),
    ...(after ? [schema.text(after, node.marks)] : []),
  ];
  for (const later of calls.slice(which + 1)) {
    if (later.at !== c.at) continue;
    if (later.node === c.node) later.from -= c.from + c.length;
    if (later.node >= c.node) later.node += parts.length - 1;
  }
  const inline = [...p.inline.slice(0, c.node), ...parts, ...p.inline.slice(c.node + 1)];
  return {
    ...p,
    inline,
    text: inline.map((n) => n.text ?? (n.type.name === 'lineBreak' ? '\n' : '')).join(''),
  };
}
