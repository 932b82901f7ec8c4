/** Changes of text found by a search or a rule, shown before they are made: one shape for all of them. */
import type { Node } from 'prosemirror-model';
import type { Shows } from '../order';

/** Something that is no text stands at its place in a block's text as this (a note, a forced line break). */
export const ATOM = '\ufffc';
/** Marks of text that no rule may touch. */
export const UNTOUCHED: ReadonlySet<string> = new Set(['monospaced', 'formula']);

/**
 * Web and mail addresses: what stands in them is no punctuation of the text, and no word. Lengths are those of RFC 5321
 * §4.5.3.1 and RFC 1035 §2.3.4, so that no text is looked through again and again.
 */
const ADDRESS = /(?:\bhttps?:\/\/|\bwww\.)\S+|\b[\w.+-]{1,64}@[\w-]{1,63}(?:\.[\w-]{1,63})+/giu;

/** Stretches of a text that are addresses. */
export const addressesIn = (text: string): [from: number, to: number][] =>
  [...text.matchAll(ADDRESS)].map((m) => [m.index, m.index + m[0].length]);

export interface TextEdit {
  /** '' for the record. */
  section: string;
  /** '' for a field. */
  block: string;
  /** The field that is edited in place of a block: a section's title, or a path in the record (`FieldText`). */
  field?: string;
  /** Offsets in the block's content, or in the field. */
  from: number;
  to: number;
  was: string;
  by: string;
  /** What stands around it, for the eye. */
  before: string;
  after: string;
  /** The words stay, and take one mark in place of another. */
  remark?: { off: string; on: string };
  /** The words stay, and the index points to them by this entry. */
  index?: string;
  /** The words become a reference to a place of the book. */
  refer?: { target: string; shows: Shows; capital: boolean };
  /** The block goes as a whole; it must be empty. */
  whole?: boolean;
}

const CONTEXT = 32;
/** What stands around a stretch of a text, without what is no text. */
export const around = (text: string, from: number, to: number): { before: string; after: string } => ({
  before: text.slice(Math.max(0, from - CONTEXT), from).replaceAll(ATOM, ''),
  after: text.slice(to, to + CONTEXT).replaceAll(ATOM, ''),
});

/** The end of what stands before a stretch, begun with a whole word; as much of it as has room. */
export function lastWords(before: string, most: number): string {
  if (before.length <= most) return before;
  const end = before.slice(-most);
  if (/\s/.test(before.charAt(before.length - most - 1))) return end.trimStart();
  // The word that was cut goes, unless it runs into the stretch.
  return /\s/.test(end.trimEnd()) ? end.replace(/^\S*\s+/, '') : end;
}
/** The beginning of what stands behind a stretch, ended with a whole word. */
export function firstWords(after: string, most: number): string {
  if (after.length <= most) return after;
  const begun = after.slice(0, most);
  if (/\s/.test(after.charAt(most))) return begun.trimEnd();
  return /\s/.test(begun.trimStart()) ? begun.replace(/\s+\S*$/, '') : begun;
}

/** A block's text, with a sign for each thing that isn’t text, so that offsets agree with the block's content. */
export const blockText = (node: Node): string => node.textBetween(0, node.content.size, '', ATOM);
