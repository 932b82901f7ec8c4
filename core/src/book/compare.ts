/**
 * Two texts compared word by word: paragraphs first, then the words of those that changed. The longest common
 * subsequence is found by the diff library (Myers 1986).
 */
import { diffArrays } from 'diff';
import type { Node } from 'prosemirror-model';
import { countWords } from '../base';
import { wordsOfLeaf } from './ids';

export interface Run {
  how: 'same' | 'in' | 'out';
  text: string;
}
export interface ComparedParagraph {
  how: 'same' | 'changed' | 'in' | 'out';
  runs: Run[];
  /** Id of the block: in the newer text, or in the older one where it is gone. */
  block: string;
}
export interface Comparison {
  paragraphs: ComparedParagraph[];
  wordsIn: number;
  wordsOut: number;
  /** The same words throughout, but set in other styles or marks. */
  restyled: boolean;
}

interface Line {
  text: string;
  id: string;
}

/** What a reader sees, line by line. Breaks and pictures are lines too. */
export function linesOfText(doc: Node): Line[] {
  const lines: Line[] = [];
  doc.descendants((n) => {
    const id = (n.attrs.id as string | undefined) ?? '';
    if (n.type.name === 'break') lines.push({ text: '❦', id });
    else if (n.type.name === 'figure')
      lines.push({ text: `▣ ${n.attrs.picture as string} ${n.textContent}`, id });
    else if (n.type.name === 'picturePage') lines.push({ text: `▣ ${n.attrs.picture as string}`, id });
    else if (n.isTextblock)
      lines.push({
        text: n.textBetween(0, n.content.size, '', wordsOfLeaf),
        id,
      });
    return !n.isTextblock;
  });
  return lines;
}

/** Beyond this many differences two stretches are simply different. */
const MOST_EDITS = 4_000;
/** Share of words in common from which a paragraph counts as changed rather than replaced. */
const KIN = 0.35;

const words = (text: string): string[] => text.match(/\s+|[\p{L}\p{N}’'-]+|[^\s\p{L}\p{N}]/gu) ?? [];

/** Runs in reading order; between two changes a space alone is part of both, so that a phrase stands together. */
function runsOf(a: string, b: string): Run[] {
  const parts = diffArrays(words(a), words(b), { maxEditLength: MOST_EDITS }) ?? [
    { value: [a], removed: true, added: false },
    { value: [b], removed: false, added: true },
  ];
  const runs: Run[] = [];
  let [out, come] = ['', ''];
  const flush = (): void => {
    if (out) runs.push({ how: 'out', text: out });
    if (come) runs.push({ how: 'in', text: come });
    [out, come] = ['', ''];
  };
  parts.forEach((p, i) => {
    const text = p.value.join('');
    if (p.removed) out += text;
    else if (p.added) come += text;
    else if (i > 0 && i < parts.length - 1 && text.trim() === '' && (out || come)) {
      out += text;
      come += text;
    } else {
      flush();
      runs.push({ how: 'same', text });
    }
  });
  flush();
  return runs;
}

/** A text with all its styles and marks, but not the ids of its blocks. */
const settingOf = (doc: Node): string =>
  JSON.stringify(doc.toJSON(), (key, value: unknown) => (key === 'id' || key === 'ref' ? undefined : value));

export function compareTexts(older: Node, newer: Node): Comparison {
  if (older.eq(newer) || settingOf(older) === settingOf(newer))
    return { paragraphs: [], wordsIn: 0, wordsOut: 0, restyled: false };
  return compareLines(linesOfText(older), linesOfText(newer));
}

/** Texts that come paragraph by paragraph. `restyled` where all words are the same. */
export function compareLines(a: readonly Line[], b: readonly Line[]): Comparison {
  const paragraphs: ComparedParagraph[] = [];
  const parts = diffArrays(
    a.map((l) => l.text),
    b.map((l) => l.text),
    { maxEditLength: MOST_EDITS },
  ) ?? [
    { value: a.map((l) => l.text), removed: true, added: false },
    { value: b.map((l) => l.text), removed: false, added: true },
  ];
  let [i, k] = [0, 0];
  let gone: Line[] = [];
  const whole = (l: Line, how: 'in' | 'out'): void =>
    void paragraphs.push({ how, runs: [{ how, text: l.text }], block: l.id });
  const flush = (come: readonly Line[]): void => {
    come.forEach((l, n) => {
      const was = gone[n];
      const runs = was ? runsOf(was.text, l.text) : [];
      const common = runs.filter((r) => r.how === 'same').reduce((c, r) => c + r.text.length, 0);
      if (was && common >= KIN * Math.max(was.text.length, l.text.length))
        paragraphs.push({ how: 'changed', runs, block: l.id });
      else {
        if (was) whole(was, 'out');
        whole(l, 'in');
      }
    });
    for (const l of gone.slice(come.length)) whole(l, 'out');
    gone = [];
  };
  for (const p of parts) {
    const n = p.value.length;
    if (p.removed) {
      if (gone.length > 0) flush([]);
      gone = a.slice(i, i + n);
      i += n;
    } else if (p.added) {
      flush(b.slice(k, k + n));
      k += n;
    } else {
      flush([]);
      for (const l of b.slice(k, k + n))
        paragraphs.push({ how: 'same', runs: [{ how: 'same', text: l.text }], block: l.id });
      i += n;
      k += n;
    }
  }
  flush([]);
  const count = (how: Run['how']): number =>
    paragraphs.reduce(
      (n, p) =>
        n +
        countWords(
          p.runs
            .filter((r) => r.how === how)
            .map((r) => r.text)
            .join(' '),
        ),
      0,
    );
  const [wordsIn, wordsOut] = [count('in'), count('out')];
  return { paragraphs, wordsIn, wordsOut, restyled: paragraphs.every((p) => p.how === 'same') };
}
