/** Rules of attributes and their values (HTML §3.2.6, §4; WAI-ARIA 1.2; EPUB 3.3 §6.1.3). */
import type { XmlElement } from '../../base';
import {
  BOOLEAN_ATTRIBUTES,
  GLOBAL_ATTRIBUTES,
  HTML_ELEMENTS,
  KEYWORDS,
  OBSOLETE_ATTRIBUTES,
  RDFA,
  REQUIRED_ATTRIBUTES,
  WHOLE_NUMBERS,
} from '../html/models';
import { isTime } from '../html/times';
import type { Rule } from '../rules';
import { BOTH, each, NEW, type Said } from './attribute-rule';
import { isLanguage, meantTag } from './language';
import { at, atAttribute, isHtml, named, tokens, type EpubSubject } from './subject';

const isObsolete = (e: XmlElement, name: string): boolean =>
  (OBSOLETE_ATTRIBUTES[e.name] ?? '').split(' ').includes(name);

/** Attributes that any element may have. */
const isGlobal = (name: string): boolean =>
  GLOBAL_ATTRIBUTES.has(name) ||
  name.startsWith('aria-') ||
  /^data-[^\sA-Z]+$/.test(name) ||
  /^on[a-z]+$/.test(name) ||
  name === 'xmlns' ||
  name.startsWith('xmlns:');

const isKnown = (e: XmlElement, name: string): boolean =>
  isGlobal(name) || (HTML_ELEMENTS.get(e.name)?.attributes.includes(name) ?? true);

const OBSOLETE_NAMES = new Set(Object.values(OBSOLETE_ATTRIBUTES).flatMap((x) => x.split(' ')));

const NUMBERED = new Set(Object.values(WHOLE_NUMBERS).flatMap(Object.keys));

const WORDED = new Set(Object.values(KEYWORDS).flatMap(Object.keys));

/** Attributes of a link that mean something only where it leads somewhere (HTML §4.6.1). */
const WITH_HREF = ['target', 'download', 'ping', 'hreflang', 'type', 'referrerpolicy'];

export const ATTRIBUTE_RULES: Rule<EpubSubject>[] = [
  each(
    (a) => !isGlobal(a),
    {
      name: 'attribute/unknown',
      severity: 'blocker',
      profiles: NEW,
      source: 'HTML §3.2.6, §4: attributes of each element',
      why: 'Shops that check by the standard refuse it.',
      remedy: 'Remove it, or begin it with “data-”.',
      mend: 'unknown-attribute',
    },
    (e) => {
      if (!HTML_ELEMENTS.has(e.name)) return null;
      const odd = Object.keys(e.attrs).filter((a) => !isKnown(e, a) && !isObsolete(e, a));
      return odd.length > 0 ? odd.map((a): Said => [`“${e.name}” has no attribute “${a}”.`, a]) : null;
    },
  ),
  each(
    (a) => OBSOLETE_NAMES.has(a),
    {
      name: 'attribute/obsolete',
      severity: 'blocker',
      profiles: NEW,
      source: 'HTML §16.2: attributes that must not be used',
      why: 'Shops that check by the standard refuse it.',
      remedy: 'Set it in the style sheet.',
      mend: 'obsolete-attribute',
    },
    (e) => {
      const odd = Object.keys(e.attrs).filter(
        (a) => isObsolete(e, a) && !(e.name === 'a' && a === 'rev' && e.attrs.property !== undefined),
      );
      return odd.length > 0
        ? odd.map((a): Said => [`The attribute “${a}” of “${e.name}” is obsolete.`, a])
        : null;
    },
  ),
  {
    name: 'attribute/missing',
    severity: 'blocker',
    profiles: NEW,
    source: 'HTML §4: attributes that an element must have',
    remedy: 'Add it.',
    *look(s) {
      for (const d of s.documents)
        for (const [name, needed] of Object.entries(REQUIRED_ATTRIBUTES))
          for (const e of named(d, name)) {
            const lacks = needed.find((a) => !a.split('|').some((x) => e.attrs[x] !== undefined));
            if (lacks && isHtml(e) && !(name === 'img' && e.attrs.srcset !== undefined))
              yield { message: `“${name}” lacks its “${lacks.replace('|', '” or “')}”.`, ...at(d, e) };
          }
    },
  },
  each(
    (a) => a === 'src',
    {
      name: 'attribute/empty-source',
      severity: 'blocker',
      profiles: BOTH,
      source: 'HTML §4.8.3: src is a valid non-empty URL',
      why: 'Readers see an empty frame.',
      remedy: 'Name the picture, or remove the element.',
    },
    (e) =>
      /^(img|source|track|iframe|embed|audio|video)$/.test(e.name) &&
      e.attrs.src !== undefined &&
      e.attrs.src.trim() === ''
        ? [`“${e.name}” names no file.`, 'src']
        : null,
  ),
  each(
    (a) => BOOLEAN_ATTRIBUTES.has(a),
    {
      name: 'attribute/on-off',
      severity: 'blocker',
      profiles: NEW,
      source: 'HTML §2.3.2: a boolean attribute is empty or its own name',
      remedy: 'Remove it for “off”; write name="name" for “on”.',
      mend: 'boolean',
    },
    (e) => {
      const odd = Object.keys(e.attrs).find(
        (a) =>
          BOOLEAN_ATTRIBUTES.has(a) &&
          HTML_ELEMENTS.get(e.name)?.attributes.includes(a) &&
          e.attrs[a] !== '' &&
          e.attrs[a]?.toLowerCase() !== a,
      );
      return odd ? [`“${odd}” can’t be “${e.attrs[odd] ?? ''}”.`, odd] : null;
    },
  ),
  each(
    (a) => NUMBERED.has(a),
    {
      name: 'attribute/whole-number',
      severity: 'blocker',
      profiles: NEW,
      source: 'HTML §2.3.4, §4: whole numbers without a unit',
      remedy: 'Write just the number, and set sizes in the style sheet.',
      mend: 'number',
    },
    (e) => {
      for (const [a, least] of Object.entries(WHOLE_NUMBERS[e.name] ?? {})) {
        const v = e.attrs[a];
        if (v !== undefined && !(/^-?\d+$/.test(v) && Number(v) >= least))
          return [`“${a}” is “${v}” instead of a whole number.`, a];
      }
      return null;
    },
  ),
  each(
    (a) => WORDED.has(a),
    {
      name: 'attribute/keyword',
      severity: 'blocker',
      profiles: NEW,
      source: 'HTML §2.3.3, §4: the words that an attribute knows',
      remedy: 'Write one of them.',
    },
    (e) => {
      for (const [a, values] of Object.entries({ ...KEYWORDS['*'], ...KEYWORDS[e.name] })) {
        const v = e.attrs[a];
        const plain = e.name === 'ol' && a === 'type' ? v : v?.toLowerCase();
        if (plain !== undefined && !values.includes(plain))
          return [`“${a}” can’t be “${v ?? ''}”: it is one of ${values.filter(Boolean).join(', ')}.`, a];
      }
      return null;
    },
  ),
  each(
    (a) => a === 'datetime',
    {
      name: 'attribute/time',
      severity: 'blocker',
      profiles: NEW,
      source: 'HTML §4.5.14, §2.3.5: dates, times and durations for machines',
      remedy: 'Write it as 2026-03-01 or 14:30.',
    },
    (e) => {
      const v = /^(time|ins|del)$/.test(e.name) ? e.attrs.datetime : undefined;
      return v !== undefined && !isTime(v.trim()) ? [`“${v}” is not a date or a time.`, 'datetime'] : null;
    },
  ),
  {
    name: 'attribute/language',
    severity: 'blocker',
    profiles: BOTH,
    source: 'HTML §3.2.6.2: lang is a tag of BCP 47',
    why: 'Screen readers and hyphenation use the wrong language.',
    remedy: 'Write a tag such as “en” or “pt-BR”.',
    mend: 'language-tag',
    *look(s) {
      for (const d of s.documents)
        for (const a of ['lang', 'xml:lang'])
          for (const e of d.byAttribute.get(a) ?? []) {
            const tag = e.attrs[a] ?? '';
            if (tag && !isLanguage(tag))
              yield {
                message: `“${tag}” is not a language tag.`,
                ...atAttribute(d, e, a),
                ...(meantTag(tag) === null ? { mend: false as const } : {}),
              };
          }
    },
  },
  each(
    (a) => a === 'xml:lang',
    {
      name: 'attribute/languages-differ',
      severity: 'blocker',
      profiles: NEW,
      source: 'HTML §3.2.6.2: lang and xml:lang have the same value',
      why: 'Some reading systems use one, some the other.',
      remedy: 'Write the same in both.',
      mend: 'languages',
    },
    (e) =>
      e.attrs.lang !== undefined &&
      e.attrs['xml:lang'] !== undefined &&
      e.attrs.lang.toLowerCase() !== e.attrs['xml:lang'].toLowerCase()
        ? [`“lang” is “${e.attrs.lang}”, “xml:lang” is “${e.attrs['xml:lang']}”.`, 'xml:lang']
        : null,
  ),
  {
    name: 'attribute/id-twice',
    severity: 'blocker',
    source: 'HTML §3.2.6: an id is unique within its tree',
    why: 'Links to it could lead to either place.',
    remedy: 'Give one of them a different id.',
    mend: 'double-id',
    *look(s) {
      for (const d of s.documents)
        for (const [id, all] of d.ids)
          for (const e of all.slice(1))
            yield { message: `The id “${id}” is already in use.`, ...atAttribute(d, e, 'id') };
    },
  },
  each(
    (a) => a === 'id',
    {
      name: 'attribute/id-form',
      severity: 'blocker',
      profiles: BOTH,
      source: 'HTML §3.2.6: an id has at least one character, and no white space',
      remedy: 'Remove the white space.',
      mend: 'id-form',
    },
    (e) =>
      e.attrs.id !== undefined && (e.attrs.id === '' || /\s/.test(e.attrs.id))
        ? [e.attrs.id === '' ? 'An id is empty.' : `The id “${e.attrs.id}” has a space.`, 'id']
        : null,
    true,
  ),
  each(
    (a) => a === 'headers',
    {
      name: 'attribute/heads-gone',
      severity: 'blocker',
      profiles: NEW,
      source: 'HTML §4.9.11: headers names heading cells of the same table',
      remedy: 'Use the ids of its heading cells.',
    },
    (e, d) => {
      const odd = /^t[dh]$/.test(e.name)
        ? tokens(e.attrs.headers).find((id) => d.ids.get(id)?.[0]?.name !== 'th')
        : undefined;
      return odd ? [`The heading cell “${odd}” isn’t there.`, 'headers'] : null;
    },
  ),
  each(
    (a) => a === 'for',
    {
      name: 'attribute/label-for',
      severity: 'blocker',
      profiles: NEW,
      source: 'HTML §4.10.4: for is the id of a control',
      remedy: 'Use the id of its control.',
    },
    (e, d) =>
      e.name === 'label' &&
      e.attrs.for !== undefined &&
      !/^(button|input|meter|output|progress|select|textarea)$/.test(d.ids.get(e.attrs.for)?.[0]?.name ?? '')
        ? [`The control “${e.attrs.for}” isn’t there.`, 'for']
        : null,
  ),
  each(
    (a) => a === 'usemap',
    {
      name: 'attribute/map-gone',
      severity: 'blocker',
      profiles: BOTH,
      source: 'HTML §4.8.13: usemap leads to the name of a map',
      remedy: 'Use a map on this page.',
    },
    (e, d) => {
      const v = e.attrs.usemap;
      return v !== undefined &&
        !d.elements.some(
          (x) => x.name === 'map' && (`#${x.attrs.name ?? ''}` === v || `#${x.attrs.id ?? ''}` === v),
        )
        ? [`The map “${v}” isn’t there.`, 'usemap']
        : null;
    },
  ),
  each(
    (a) => WITH_HREF.includes(a),
    {
      name: 'attribute/target-without-link',
      severity: 'blocker',
      profiles: NEW,
      source: 'HTML §4.6.1: target, download, rel and others only with href',
      remedy: 'Add href, or remove the attribute.',
      mend: 'unknown-attribute',
    },
    (e) => {
      const odd =
        e.name === 'a' && e.attrs.href === undefined
          ? WITH_HREF.find((a) => e.attrs[a] !== undefined)
          : undefined;
      return odd ? [`“${odd}” is set on a link that leads nowhere.`, odd] : null;
    },
  ),
  each(
    (a) => RDFA.has(a),
    {
      name: 'attribute/rdfa-alone',
      severity: 'note',
      profiles: NEW,
      source: 'RDFa 1.1 Core §5: attributes that go with property or typeof',
      remedy: 'Remove it.',
    },
    (e) => {
      const odd = Object.keys(e.attrs).find(
        (a) =>
          RDFA.has(a) &&
          !/^(property|typeof|vocab|prefix|rel|rev)$/.test(a) &&
          e.attrs.property === undefined &&
          e.attrs.typeof === undefined &&
          e.attrs.rel === undefined &&
          !(e.name === 'meta' && a === 'content') &&
          !HTML_ELEMENTS.get(e.name)?.attributes.includes(a),
      );
      return odd ? [`“${odd}” has no meaning without “property”.`, odd] : null;
    },
  ),
  each(
    (a) => a === 'tabindex',
    {
      name: 'attribute/tab-order',
      severity: 'caution',
      profiles: NEW,
      source: 'HTML §6.6.3; WCAG 2.2, 2.4.3',
      why: 'Keyboard users jump back and forth.',
      remedy: 'Remove it, or write 0.',
      mend: 'tab-order',
    },
    (e) =>
      e.attrs.tabindex !== undefined && !/^(-?1|0|-\d+)$/.test(e.attrs.tabindex.trim())
        ? [`The tab order is set to “${e.attrs.tabindex}”.`, 'tabindex']
        : e.attrs.tabindex?.trim() === '1'
          ? ['The tab order is set to “1”.', 'tabindex']
          : null,
  ),
  each(
    (a) => a.startsWith('on'),
    {
      name: 'attribute/handler',
      severity: 'caution',
      profiles: NEW,
      source: 'EPUB 3.3 §6.3.2 (scripting); common practice: shops run no scripts',
      why: 'Most reading systems run no scripts.',
      remedy: 'Remove it.',
    },
    (e) => {
      const odd = Object.keys(e.attrs).find((a) => /^on[a-z]+$/.test(a));
      return odd ? [`“${odd}” runs a script.`, odd] : null;
    },
    true,
  ),
];
