/** Signs as they are typed: quotation marks, apostrophes, dashes and ellipses, by the same rules as the tidying. */
import { quotes } from './rules';
import type { TypographicStyle } from './styles';

/** In place of the last `cut` characters before the cursor, and of what was typed, this. */
export interface TypedSign {
  cut: number;
  by: string;
}

/** `before` and `after` are the text of the block on both sides of the cursor. Null where what was typed stands as it is. */
export function signTyped(
  before: string,
  typed: string,
  after: string,
  style: TypographicStyle,
): TypedSign | null {
  if (typed === '"' || typed === "'") {
    // What will follow an opening mark has not been typed yet.
    const rest = opens(before, typed, style) && !/^\S/.test(after) ? 'x' : after || ' ';
    const edit = quotes(before + typed + rest, style).find((e) => e.from === before.length);
    return edit ? { cut: 0, by: edit.by } : null;
  }
  if (typed === '-' && /(?:^|[^-])-$/.test(before)) return { cut: 1, by: style.dash.sign };
  if (typed === ' ' && /\S -$/.test(before))
    return style.dash.spaced ? { cut: 1, by: `${style.dash.sign} ` } : { cut: 2, by: style.dash.sign };
  if (typed === '.' && /(?:^|[^.])\.\.$/.test(before)) return { cut: 2, by: '\u2026' };
  return null;
}

/** Whether a mark begins a quotation here. After a dash it does where none is open, and after what itself opens one. */
function opens(before: string, typed: string, style: TypographicStyle): boolean {
  const [open, close] = (typed === '"' ? style.double : style.single).map((mark) => mark.trim());
  const last = before.slice(-1);
  const count = (mark = ''): number => before.split(mark).length - 1;
  if (/[\u2013\u2014-]/.test(last)) return count(open) <= (open === close ? 0 : count(close));
  return (
    /^$|[\s\u00a0\u202f([{/\ufffc]/.test(last) ||
    [style.double[0], style.single[0]].some((m) => before.endsWith(m))
  );
}
