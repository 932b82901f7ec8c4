/** Answers in XML. */
import { descendants, parseXml, textOf, type XmlElement } from '@pagina/core/base';
import { foundSchema, listingStateSchema, type Found, type News } from '@pagina/core/outlets';
import { unreadable } from './notsent';

/** The root of an answer; throws `NotSent` on what can't be read. */
export function rootOf(text: string): XmlElement {
  const { root } = parseXml(text);
  if (!root) throw unreadable();
  return root;
}

export const attrOf = (el: XmlElement, name: string): string =>
  (Object.hasOwn(el.attrs, name) ? el.attrs[name] : undefined) ?? '';
export const textsIn = (root: XmlElement, name: string): string[] => descendants(root, name).map(textOf);

/** Events, each with its state, and what was found, by the names that the XML of two outlets shares. */
export function standingIn(root: XmlElement): Pick<News, 'events' | 'link'> & { found: Found } {
  return {
    events: descendants(root, 'event').flatMap((e) => {
      const state = listingStateSchema.safeParse(attrOf(e, 'state'));
      return state.success ? [{ state: state.data, words: textOf(e) }] : [];
    }),
    link: textsIn(root, 'link')[0] ?? '',
    found: foundSchema.parse({
      reasons: descendants(root, 'reason').map((r) => ({ about: attrOf(r, 'about'), words: textOf(r) })),
      files: descendants(root, 'file').map((f) => ({ part: attrOf(f, 'part'), state: textOf(f) })),
      contents: textsIn(root, 'entry'),
      doubts: textsIn(root, 'doubt'),
      barriers: textsIn(root, 'barrier'),
      subjects: textsIn(root, 'subject'),
      shops: descendants(root, 'channel').map((c) => ({ name: textOf(c), state: attrOf(c, 'state') })),
    }),
  };
}
