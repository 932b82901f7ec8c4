/** What an HTML element says of the text inside it: marks of the book's schema, and looks that go down. */
import type { Mark } from 'prosemirror-model';
import { schema } from '../../book';
import { attribute, type Element } from './html-notes';
import type { Look } from './html-style';
import type { RawParagraph } from '../raw';

/** What holds for everything inside an element. */
export interface Context {
  marks: readonly Mark[];
  look: Look;
  style: string;
  outline: number;
  list: RawParagraph['list'];
  pre: boolean;
  heading: boolean;
}
/** Marks inside an element: those around it and its own. `link` is what it links to, null for nothing of the book's. */
export function marksOf(
  e: Element,
  outer: Context,
  look: Look,
  classes: readonly string[],
  link: Mark | null,
): readonly Mark[] {
  const m = schema.marks;
  let own = outer.marks as Mark[];
  const put = (mark: Mark): void => void (own = mark.addToSet(own) as Mark[]);
  const tag = e.tagName;
  if (/^(em|i|cite|dfn|var)$/.test(tag) || look.italic) put(m.emphasis!.create());
  if ((/^(strong|b)$/.test(tag) && look.bold !== false) || look.bold)
    if (!outer.heading) put(m.strong!.create());
  if (look.smallCaps || classes.some((c) => /^small-?caps?$|^sc$/i.test(c))) put(m.smallCaps!.create());
  if (!link && (tag === 'u' || look.underline) && !outer.heading) put(m.underline!.create());
  if (/^(s|strike)$/.test(tag) || look.strike) put(m.strike!.create());
  if (tag === 'sup' || look.script === 'super') put(m.super!.create());
  else if (tag === 'sub' || look.script === 'sub') put(m.sub!.create());
  if (/^(code|tt|kbd|samp)$/.test(tag) || look.monospace) put(m.monospaced!.create());
  const language = attribute(e, 'lang') || attribute(e, 'xml:lang');
  if (language) put(m.language!.create({ tag: language }));
  if (link) put(link);
  return own;
}

/** Alignment, size and face go down to what stands inside; breaks and margins do not. */
export function inherited({ align, size, italic, bold, monospace, indented }: Look): Look {
  const look: Look = { align, size, italic, bold, monospace, indented };
  for (const k of Object.keys(look) as (keyof Look)[]) if (look[k] === undefined) delete look[k];
  return look;
}
