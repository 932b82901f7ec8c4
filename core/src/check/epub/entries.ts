/** Rules of how lists of the navigation are built (EPUB 3.3 §7.3). */
import type { XmlElement } from '../../base';
import type { Breach, Rule } from '../rules';
import { linksIn, LISTS, navOf, words } from './navs';
import { at, elementsIn, tokens, type EpubDocument, type EpubSubject } from './subject';

/** A rule of the lists' inner order: nav → heading? ol; li → (a | span) ol? (EPUB 3.3 §7.3). */
const shape = (
  of: Omit<Rule<EpubSubject>, 'look' | 'profiles'>,
  look: (e: XmlElement, within: XmlElement, d: EpubDocument) => string | null,
): Rule<EpubSubject> => ({
  ...of,
  profiles: ['EPUB 3.3'],
  *look(s): Iterable<Breach> {
    const n = navOf(s);
    if (!n?.d.sound) return;
    for (const { nav, types } of n.navs) {
      if (types.length === 0) continue;
      const walk = function* (e: XmlElement): Generator<Breach> {
        const message = look(e, nav, n.d);
        if (message) yield { message, ...at(n.d, e) };
        for (const c of elementsIn(e)) if (c.name !== 'a' && c.name !== 'span') yield* walk(c);
      };
      yield* walk(nav);
    }
  },
});

const ofList = (e: XmlElement): boolean => e.name === 'li' || e.name === 'ol';

export const ENTRY_RULES: Rule<EpubSubject>[] = [
  {
    name: 'contents/no-words',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §7.3: a and span must provide a non-zero-length text label',
    why: 'Readers see an empty line.',
    remedy: 'Write what the entry is called.',
    *look(s) {
      for (const { d, a } of linksIn(s, null))
        if (words(a) === '') yield { message: 'An entry has no words.', ...at(d, a) };
    },
  },
  shape(
    {
      name: 'contents/list-shape',
      severity: 'blocker',
      source: 'EPUB 3.3 §7.3: nav holds a heading, if any, and one ordered list',
      why: 'Reading systems build their menu from it, and expect this form.',
      remedy: 'Put the entries into one ordered list.',
    },
    (e, nav) => {
      if (e !== nav) return null;
      const children = elementsIn(e);
      const odd = children.find((c) => !/^(ol|h[1-6]|hgroup|p)$/.test(c.name));
      if (odd) return `“${odd.name}” isn’t allowed in a navigation list.`;
      const lists = children.filter((c) => c.name === 'ol').length;
      return lists > 1
        ? 'A list in the navigation is split in two.'
        : children.at(-1)?.name !== 'ol' && lists === 1
          ? 'Something follows the list.'
          : null;
    },
  ),
  shape(
    {
      name: 'contents/entry-shape',
      severity: 'blocker',
      source: 'EPUB 3.3 §7.3: li holds one a or span, and an ordered list below it, if any',
      why: 'Reading systems build their menu from it, and expect this form.',
      remedy: 'Write one link in each entry, and what belongs below it in a list of its own.',
    },
    (e) => {
      if (e.name === 'ol') {
        const odd = elementsIn(e).find((c) => c.name !== 'li');
        return odd ? `“${odd.name}” is among the entries.` : null;
      }
      if (e.name !== 'li') return null;
      const names = elementsIn(e)
        .map((c) => c.name)
        .join(' ');
      return /^(a|span)( ol)?$/.test(names)
        ? null
        : names === ''
          ? 'An entry has neither a link nor words.'
          : `An entry holds “${names}”.`;
    },
  ),
  shape(
    {
      name: 'contents/heading-without-entries',
      severity: 'blocker',
      source: 'EPUB 3.3 §7.3: a span must be followed by an ordered list',
      remedy: 'Make it a link, or put entries below it.',
    },
    (e) =>
      e.name === 'li' &&
      elementsIn(e)
        .map((c) => c.name)
        .join(' ') === 'span'
        ? `“${words(e).slice(0, 60)}” isn’t a link, and has no entries below it.`
        : null,
  ),
  shape(
    {
      name: 'contents/loose-words',
      severity: 'blocker',
      source: 'EPUB 3.3 §7.3: all words of an entry stand in its a or span',
      why: 'Reading systems leave it out.',
      remedy: 'Put them into the link.',
    },
    (e) =>
      ofList(e) && e.children.some((c) => typeof c === 'string' && c.trim() !== '')
        ? 'There is text outside the link.'
        : null,
  ),
  {
    name: 'contents/pages-nested',
    severity: 'caution',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §7.4.3, §7.4.4: page-list and landmarks have no sublists',
    remedy: 'Put all entries at one level.',
    *look(s) {
      for (const list of ['page-list', 'landmarks'])
        for (const { nav, types } of navOf(s)?.navs ?? []) {
          const n = navOf(s);
          if (!n || !types.includes(list)) continue;
          const deeper = elementsIn(nav)
            .filter((e) => e.name === 'ol')
            .flatMap(elementsIn)
            .flatMap(elementsIn)
            .find((e) => e.name === 'ol');
          if (deeper) yield { message: `The list “${list}” has nested entries.`, ...at(n.d, deeper) };
        }
    },
  },
  {
    name: 'contents/other-list-unnamed',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §7.3: a nav other than toc, page-list and landmarks has a heading',
    remedy: 'Give the list a heading.',
    *look(s) {
      const n = navOf(s);
      for (const { nav, types } of n?.navs ?? [])
        if (
          n &&
          types.length > 0 &&
          !types.some((t) => LISTS.includes(t)) &&
          !/^(h[1-6]|hgroup)$/.test(elementsIn(nav)[0]?.name ?? '')
        )
          yield { message: `The list “${types.join(' ')}” has no heading.`, ...at(n.d, nav) };
    },
  },
  {
    name: 'contents/landmark-kind',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §7.4.4: entries of landmarks have an epub:type',
    why: 'Reading systems use it to find the beginning of the book.',
    remedy: 'Add epub:type, such as “bodymatter”.',
    *look(s) {
      for (const { d, a } of linksIn(s, 'landmarks'))
        if (tokens(a.attrs['epub:type']).length === 0)
          yield { message: `The landmark “${words(a).slice(0, 60)}” doesn’t say what it is.`, ...at(d, a) };
    },
  },
];
