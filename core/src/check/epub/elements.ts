/** Rules of elements by the content models of HTML (§4), with SVG and MathML within (EPUB 3.3 §6.1.4). */
import type { XmlElement } from '../../base';
import { HTML_ELEMENTS, isInteractive, OBSOLETE_ELEMENTS } from '../html/models';
import type { Rule } from '../rules';
import { ancestor, effective, hasText, holds, html, isCustom, isNamed, named } from './content';
import { elementsIn, isHtml, type EpubDocument, type EpubSubject } from './subject';

/** A child that its parent’s model doesn’t allow has a rule of its own by what the parent is. */
const GROUPS: [name: string, parents: string, section: string, remedy: string, mend?: string][] = [
  ['in-paragraph', 'p', '§4.4.1', 'Close the paragraph before it.'],
  [
    'in-heading',
    'h1 h2 h3 h4 h5 h6 hgroup',
    '§4.3.6, §4.3.7',
    'Keep only words in a heading, and put the rest below it.',
  ],
  ['in-list', 'ol ul menu', '§4.4.5, §4.4.6', 'Put it into an entry (li).', 'list-entry'],
  ['in-terms', 'dl', '§4.4.9', 'Put it into a term (dt) or its description (dd).'],
  ['in-table', 'table thead tbody tfoot colgroup', '§4.9', 'Put it into a cell, or outside of the table.'],
  ['in-row', 'tr', '§4.9.8', 'Put it into a cell (td or th).'],
  ['in-head', 'head html', '§4.1, §4.2', 'Put it into the body.'],
  ['in-preformatted', 'pre', '§4.4.3', 'Use only inline elements in it.'],
  [
    'in-form-control',
    'button label select optgroup option textarea datalist output progress meter legend',
    '§4.10',
    'Use only what the control may hold.',
  ],
  [
    'in-empty-element',
    'area base br col embed hr img input link meta param source track wbr iframe',
    '§13.1.2 (void elements)',
    'Close it, and put the rest after it.',
  ],
  ['in-picture', 'picture', '§4.8.1', 'Put sources first, then one img.'],
];

const OTHERS = new Set(GROUPS.flatMap(([, parents]) => parents.split(' ')));

const misplaced = (e: XmlElement, d: EpubDocument): { message: string; e: XmlElement } | null => {
  const odd = elementsIn(e).find(
    (c) =>
      (isHtml(c) ? HTML_ELEMENTS.has(c.name) || OBSOLETE_ELEMENTS[c.name] !== undefined : true) &&
      !holds(e, c, d),
  );
  return odd ? { message: `“${odd.name}” can’t stand in “${e.name}”.`, e: odd } : null;
};

/** Elements that may be interactive content (HTML §3.2.5.2.7). */
const CONTROLS = new Set(
  'a audio button details embed iframe img input label select textarea video'.split(' '),
);

/** Elements that don’t hold their like at any depth, and what is like what (HTML §4). */
const LIKE: Readonly<Record<string, string>> = {
  ...Object.fromEntries('label form dfn meter progress noscript address'.split(' ').map((n) => [n, n])),
  audio: 'media',
  video: 'media',
};

export const ELEMENT_RULES: Rule<EpubSubject>[] = [
  html(
    (name) => !HTML_ELEMENTS.has(name),
    {
      name: 'element/unknown',
      severity: 'blocker',
      source: 'HTML §4: the elements of HTML',
      remedy: 'Use an HTML element, or “div” or “span”.',
    },
    (e) =>
      !HTML_ELEMENTS.has(e.name) && OBSOLETE_ELEMENTS[e.name] === undefined && !isCustom(e.name)
        ? `HTML has no element “${e.name}”.`
        : null,
  ),
  html(
    (name) => OBSOLETE_ELEMENTS[name] !== undefined,
    {
      name: 'element/obsolete',
      severity: 'blocker',
      source: 'HTML §16.2: elements that must not be used',
      remedy: 'Use what replaces it.',
      mend: 'obsolete-element',
    },
    (e) =>
      OBSOLETE_ELEMENTS[e.name] !== undefined
        ? `“${e.name}” is obsolete; use ${OBSOLETE_ELEMENTS[e.name] ?? ''}.`
        : null,
  ),
  ...GROUPS.map(([name, parents, section, remedy, mend]) =>
    named(
      parents,
      {
        name: `element/${name}`,
        severity: 'blocker',
        source: `HTML ${section}: content model`,
        remedy,
        ...(mend ? { mend } : {}),
      },
      misplaced,
    ),
  ),
  html(
    (name) => !OTHERS.has(name),
    {
      name: 'element/in-line',
      severity: 'blocker',
      source: 'HTML §3.2.5.2.5, §4.5: phrasing content alone',
      remedy: 'Close the inner element before it, or use “div”.',
    },
    (e, d) => (effective(e, d) === 'phrasing' ? misplaced(e, d) : null),
  ),
  html(
    (name) => !OTHERS.has(name),
    {
      name: 'element/in-block',
      severity: 'blocker',
      source: 'HTML §3.2.5.2.2: flow content alone',
      remedy: 'Put it into the element that it belongs to.',
    },
    (e, d) => (effective(e, d) === 'flow' ? misplaced(e, d) : null),
  ),
  named(
    'ol ul menu dl table thead tbody tfoot tr colgroup select picture hgroup optgroup',
    {
      name: 'element/loose-text',
      severity: 'blocker',
      source: 'HTML §3.2.5: text only where the model has phrasing content',
      remedy: 'Put the words into an entry, a cell or a paragraph.',
    },
    (e) => (hasText(e) ? `There is text directly in “${e.name}”.` : null),
  ),
  named(
    'html head',
    {
      name: 'element/text-outside-body',
      severity: 'blocker',
      source: 'HTML §4.1.1, §4.2.1: no text in html and head',
      remedy: 'Put the words into the body.',
    },
    (e) => (hasText(e) ? `There is text directly in “${e.name}”.` : null),
  ),
  named(
    'area base br col embed hr img input link meta param source track wbr',
    {
      name: 'element/not-empty',
      severity: 'blocker',
      source: 'HTML §13.1.2: void elements have no content',
      remedy: 'Close it, and put the words after it.',
    },
    (e) => (hasText(e) ? `“${e.name}” contains text.` : null),
  ),
  html(
    (name) => name === 'a',
    {
      name: 'element/link-in-link',
      severity: 'blocker',
      source: 'HTML §4.5.1: no a within a',
      why: 'Which link a reader follows is left to chance.',
      remedy: 'Close the first link before the second.',
    },
    (e, d) => (ancestor(e, d, isNamed('a')) ? 'A link is inside another link.' : null),
  ),
  html(
    (name) => CONTROLS.has(name),
    {
      name: 'element/control-in-control',
      severity: 'blocker',
      source: 'HTML §4.5.1, §4.10.6: no interactive content within a and button',
      remedy: 'Put one after the other.',
    },
    (e, d) => {
      if (!isInteractive(e.name, e.attrs)) return null;
      // A link within a link has a rule of its own.
      const around = ancestor(
        e,
        d,
        (x) =>
          isHtml(x) &&
          (x.name === 'button' || (x.name === 'a' && x.attrs.href !== undefined && e.name !== 'a')),
      );
      return around ? `“${e.name}” is inside “${around.name}”.` : null;
    },
  ),
  html(
    (name) => LIKE[name] !== undefined,
    {
      name: 'element/within-itself',
      severity: 'blocker',
      source:
        'HTML §4.3, §4.5, §4.8, §4.10: no form, label, dfn, meter, progress, address or media within its like',
      remedy: 'Close the first before the second.',
    },
    (e, d) => {
      const around = ancestor(e, d, (x) => isHtml(x) && LIKE[x.name] === LIKE[e.name]);
      return around ? `“${e.name}” is inside “${around.name}”.` : null;
    },
  ),
  html(
    (name) => name === 'header' || name === 'footer',
    {
      name: 'element/header-in-header',
      severity: 'blocker',
      source: 'HTML §4.3.8 to §4.3.10: no header or footer within header, footer, address, dt or th',
      remedy: 'Move it outside.',
    },
    (e, d) => {
      const around = ancestor(e, d, isNamed('header footer address dt th'));
      return around ? `“${e.name}” is inside “${around.name}”.` : null;
    },
  ),
  html(
    (name) => /[SH]/.test(HTML_ELEMENTS.get(name)?.categories ?? ''),
    {
      name: 'element/heading-in-cell',
      severity: 'blocker',
      source: 'HTML §4.4.10, §4.9.10, §4.3.10: no heading or section within dt, th or address',
      remedy: 'Use a paragraph there.',
    },
    (e, d) => {
      const category = HTML_ELEMENTS.get(e.name)?.categories ?? '';
      const around = /[SH]/.test(category) ? ancestor(e, d, isNamed('dt th address')) : undefined;
      return around ? `“${e.name}” is inside “${around.name}”.` : null;
    },
  ),
];
