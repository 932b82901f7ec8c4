/** What belongs to a heading though it stands around it: a picture above, the calls of notes in it, its own lines. */
import { isEmpty, isText, type HeadingGuess, type RawBlock } from '../raw';

/**
 * A picture directly above a heading, on the same page, belongs to what follows: the index from which the heading's
 * section starts.
 */
export function withPictureAbove(blocks: readonly RawBlock[], at: number): number {
  let from = at;
  for (let i = at - 1; i >= 0; i--) {
    const b = blocks[i];
    const below = blocks[i + 1];
    if (isText(below) && below.breakBefore) break;
    if (isEmpty(b)) continue;
    if (isText(b) && b.pictures.length > 0 && b.text.trim() === '') from = i;
    else break;
  }
  return from;
}

/** A title is plain text: a note called from it is called at the end of the first paragraph below. */
export function withCallsOf(heading: readonly RawBlock[], body: readonly RawBlock[]): readonly RawBlock[] {
  const calls = heading.flatMap((b) => (isText(b) ? b.inline.filter((n) => n.type.name === 'note') : []));
  const at = calls.length === 0 ? -1 : body.findIndex((b) => isText(b) && b.text.trim() !== '');
  const first = body[at];
  return isText(first) ? body.with(at, { ...first, inline: [...first.inline, ...calls] }) : body;
}

/** A heading's own lines, as they were typed. */
export const typedLines = (blocks: readonly RawBlock[], h: HeadingGuess): string =>
  linesOf(blocks.slice(h.at, h.at + h.span));

/** The lines of blocks on one line. */
export const linesOf = (blocks: readonly RawBlock[]): string =>
  blocks
    .filter(isText)
    .map((b) => b.text.replace(/\s+/g, ' ').trim())
    .filter(Boolean)
    .join(' / ');
