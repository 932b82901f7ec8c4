/** Small pieces of XML as they are written into a source. */
import { escapeXml } from '../base';
import type { Located, Span } from './located';
import type { Reference } from './references';

/** Text in place of a span of the source. */
export interface Replacement extends Span {
  with: string;
}

export const attribute = (name: string, value: string): string => ` ${name}="${escapeXml(value)}"`;

/** An open tag with some attributes left out. */
export function openTag(text: string, e: Located, without: (name: string) => boolean): string {
  const kept = e.attributes.filter((a) => !without(a.name)).map((a) => ` ${text.slice(a.from, a.to)}`);
  return `<${e.name}${kept.join('')}>`;
}
/** A reference written anew, in the marks that fit where it stands. */
export const rewritten = (r: Reference, to: string): Replacement => ({
  from: r.from,
  to: r.to,
  with:
    r.sort === 'css'
      ? `url("${to.replace(/["\\\n]/g, (c) => `\\${c.charCodeAt(0).toString(16)} `)}")`
      : escapeXml(to),
});

/** `wanted`, or the same with a number, whichever nobody has. */
export function unused(wanted: string, taken: (name: string) => boolean): string {
  if (!taken(wanted)) return wanted;
  const [, stem = wanted, ending = ''] = /^(.*?)(\.[^./]*)?$/.exec(wanted) ?? [];
  for (let n = 2; ; n++) if (!taken(`${stem}-${n}${ending}`)) return `${stem}-${n}${ending}`;
}
/** Words as a name of a file or an id: small letters, figures and hyphens. */
export const nameFrom = (words: string): string =>
  words
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 40);
/** An id from words, that nothing has yet. */
export function idFrom(words: string, otherwise: string, taken: (id: string) => boolean): string {
  const plain = nameFrom(words) || otherwise;
  return unused(/^[a-z]/.test(plain) ? plain : `${otherwise}-${plain}`, taken);
}
