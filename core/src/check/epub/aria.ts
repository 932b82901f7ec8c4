/** Rules of roles, states and kinds (WAI-ARIA 1.2, DPUB-ARIA 1.1, EPUB 3 Structural Semantics Vocabulary). */
import type { XmlElement } from '../../base';
import {
  ARIA_ATTRIBUTES,
  ARIA_IDS,
  ARIA_ROLES,
  DEPRECATED_ROLES,
  DEPRECATED_SEMANTICS,
  DPUB_ROLES,
  SEMANTICS,
} from '../html/words';
import type { Rule } from '../rules';
import { each, NEW } from './attribute-rule';
import { prefixesIn } from './package';
import { at, OPS_NS, tokens, type EpubSubject } from './subject';

/** Attributes of EPUB under whatever prefix the document gives them. */
const ofEpub = (e: XmlElement, name: string): string | undefined => e.attrs[`epub:${name}`];

export const ARIA_RULES: Rule<EpubSubject>[] = [
  each(
    (a) => a === 'role',
    {
      name: 'aria/role-unknown',
      severity: 'caution',
      profiles: NEW,
      source: 'WAI-ARIA 1.2 §5.4; DPUB-ARIA 1.1 §3',
      why: 'Screen readers ignore it.',
      remedy: 'Use a role of the standard, or none.',
      mend: 'unknown-role',
    },
    (e) => {
      const odd = tokens(e.attrs.role).find((r) => !ARIA_ROLES.has(r) && !DPUB_ROLES.has(r));
      return odd ? [`“${odd}” is not a role.`, 'role'] : null;
    },
    true,
  ),
  each(
    (a) => a === 'role',
    {
      name: 'aria/role-deprecated',
      severity: 'note',
      profiles: NEW,
      source: 'DPUB-ARIA 1.1 §3: doc-biblioentry, doc-endnote; WAI-ARIA 1.2: directory',
      remedy: 'Use the element itself: an entry of a list.',
    },
    (e) => {
      const odd = tokens(e.attrs.role).find((r) => DEPRECATED_ROLES.has(r));
      return odd ? [`The role “${odd}” is deprecated.`, 'role'] : null;
    },
    true,
  ),
  each(
    (a) => a.startsWith('aria-'),
    {
      name: 'aria/attribute-unknown',
      severity: 'blocker',
      profiles: NEW,
      source: 'WAI-ARIA 1.2 §6.6',
      why: 'Screen readers ignore it.',
      remedy: 'Use an attribute of the standard.',
      mend: 'unknown-attribute',
    },
    (e) => {
      const odd = Object.keys(e.attrs).find((a) => a.startsWith('aria-') && !ARIA_ATTRIBUTES.has(a));
      return odd ? [`“${odd}” is not an attribute of WAI-ARIA.`, odd] : null;
    },
    true,
  ),
  each(
    (a) => ARIA_IDS.has(a),
    {
      name: 'aria/reference-gone',
      severity: 'caution',
      profiles: NEW,
      source: 'WAI-ARIA 1.2 §6.2.2: ID references are ids of the same document',
      why: 'Screen readers find nothing there.',
      remedy: 'Use an id that exists.',
    },
    (e, d) => {
      for (const a of Object.keys(e.attrs)) {
        const odd = ARIA_IDS.has(a) ? tokens(e.attrs[a]).find((id) => !d.ids.has(id)) : undefined;
        if (odd) return [`“${a}” leads to “${odd}”, which isn’t there.`, a];
      }
      return null;
    },
    true,
  ),
  each(
    (a) => a === 'role',
    {
      name: 'aria/level',
      severity: 'caution',
      profiles: NEW,
      source: 'WAI-ARIA 1.2 §6.6 (aria-level), §5.3 (heading needs aria-level)',
      remedy: 'Give the heading its level.',
    },
    (e) =>
      tokens(e.attrs.role).includes('heading') &&
      !/^h[1-6]$/.test(e.name) &&
      !/^[1-9]\d*$/.test(e.attrs['aria-level'] ?? '')
        ? ['A heading doesn’t say which level it is.', 'role']
        : null,
  ),
  each(
    (a) => a.startsWith('aria-'),
    {
      name: 'aria/true-false',
      severity: 'caution',
      profiles: NEW,
      source: 'WAI-ARIA 1.2 §6.2.2: true or false',
      remedy: 'Write “true” or “false”.',
    },
    (e) => {
      const odd = ['aria-hidden', 'aria-expanded', 'aria-modal', 'aria-disabled', 'aria-required'].find(
        (a) => e.attrs[a] !== undefined && !/^(true|false|undefined)$/.test(e.attrs[a] ?? ''),
      );
      return odd ? [`“${odd}” can’t be “${e.attrs[odd] ?? ''}”.`, odd] : null;
    },
    true,
  ),
  each(
    (a) => a === 'epub:type',
    {
      name: 'semantics/unknown',
      severity: 'caution',
      profiles: NEW,
      source: 'EPUB 3 Structural Semantics Vocabulary 1.1; EPUB 3.3 §6.1.3',
      why: 'Reading systems ignore it.',
      remedy: 'Use a term from the vocabulary, or one with a declared prefix.',
      mend: 'unknown-semantics',
    },
    (e) => {
      const odd = tokens(ofEpub(e, 'type')).find(
        (t) => !SEMANTICS.has(t) && DEPRECATED_SEMANTICS[t] === undefined && !t.includes(':'),
      );
      return odd ? [`“${odd}” is not a term of EPUB’s vocabulary.`, 'epub:type'] : null;
    },
    true,
  ),
  each(
    (a) => a === 'epub:type',
    {
      name: 'semantics/deprecated',
      severity: 'note',
      profiles: NEW,
      source: 'EPUB 3 Structural Semantics Vocabulary 1.1: kinds that are deprecated',
      remedy: 'Use what replaces it.',
    },
    (e) => {
      const odd = tokens(ofEpub(e, 'type')).find((t) => DEPRECATED_SEMANTICS[t] !== undefined);
      return odd ? [`“${odd}” is deprecated; use ${DEPRECATED_SEMANTICS[odd] ?? ''}.`, 'epub:type'] : null;
    },
    true,
  ),
  each(
    (a) => a === 'epub:type',
    {
      name: 'semantics/prefix',
      severity: 'blocker',
      profiles: NEW,
      source: 'EPUB 3.3 D.1.4, §6.1.3: a prefix in epub:type is declared by epub:prefix or reserved',
      remedy: 'Declare the prefix on html, in epub:prefix.',
    },
    (e, d) => {
      const known = new Set([
        'msv',
        'prism',
        'z3998',
        ...prefixesIn(d.root?.attrs['epub:prefix']).map(([p]) => p),
      ]);
      const odd = tokens(ofEpub(e, 'type'))
        .map((t) => /^([\w.-]+):/.exec(t)?.[1])
        .find((p) => p !== undefined && !known.has(p));
      return odd ? [`The prefix “${odd}” isn’t declared.`, 'epub:type'] : null;
    },
    true,
  ),
  each(
    (a) => a === 'epub:type',
    {
      name: 'semantics/place',
      severity: 'caution',
      profiles: NEW,
      source: 'EPUB 3.3 §6.1.3: epub:type is not allowed on head and what it holds',
      remedy: 'Put it on an element in the body.',
      mend: 'unknown-attribute',
    },
    (e) =>
      ofEpub(e, 'type') !== undefined && /^(head|title|meta|link|style|base|html)$/.test(e.name)
        ? [`“${e.name}” can’t have an epub:type.`, 'epub:type']
        : null,
  ),
  {
    name: 'semantics/namespace',
    severity: 'blocker',
    profiles: NEW,
    source: `EPUB 3.3 §6.1.3: attributes of the namespace ${OPS_NS}`,
    why: 'Reading systems don’t see what the attribute says.',
    remedy: `Write xmlns:epub="${OPS_NS}".`,
    *look(s) {
      for (const d of s.documents) {
        const e = d.elements.find(
          (x) => x.attrs['xmlns:epub'] !== undefined && x.attrs['xmlns:epub'] !== OPS_NS,
        );
        if (e)
          yield { message: `The prefix “epub” stands for “${e.attrs['xmlns:epub'] ?? ''}”.`, ...at(d, e) };
      }
    },
  },
];
