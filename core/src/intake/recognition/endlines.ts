/** "The End" and its like below the last words of a book or a part: books don’t print them (common practice). */
import { labelOf } from '../../base';
import { isEmpty, isText, type RawBlock } from '../raw';

const END =
  /^[\s*~#\u2013\u2014-]*(?:the end|end|finis|fin|ende|fine|koniec|einde|fim|slut|end of (?:the )?(?:book|part|volume|manuscript)(?: \p{L}+| \d+)?|-?30-?)[\s.!*~#\u2013\u2014-]*$/iu;
/** Words that also stand in the text. */
const COMMON = /^\W*(?:end|fine|fin)\W*$/i;

export function* endLines(blocks: readonly RawBlock[]): Generator<number> {
  for (const [at, b] of blocks.entries()) {
    if (!isText(b) || b.text.length > 40 || b.outline > 0 || b.list || at === 0 || !END.test(b.text))
      continue;
    const apart = b.align === 'centre' || isEmpty(blocks[at - 1]) || b.text === b.text.toUpperCase();
    if (!endsSomething(blocks, at)) continue;
    if (COMMON.test(b.text) && (!apart || chapterAfter(blocks, at))) continue;
    yield at;
  }
}

/** Whether a chapter begins further down; lines of a contents list name chapters too, with their pages. */
const chapterAfter = (blocks: readonly RawBlock[], at: number): boolean =>
  blocks.slice(at + 1).some((b) => {
    const label = isText(b) && b.text.length < 80 ? labelOf(b.text) : null;
    return label?.level === 'chapter' && !/\d{1,4}$/.test(label.title);
  });

/** Whether nothing follows, or a new page does, or a heading. */
function endsSomething(blocks: readonly RawBlock[], at: number): boolean {
  let blanks = 0;
  for (let i = at + 1; i < blocks.length; i++) {
    const b = blocks[i];
    if (isText(b) && (b.breakBefore || b.outline > 0)) return true;
    if (!isEmpty(b)) return blanks >= 3;
    blanks++;
  }
  return true;
}
