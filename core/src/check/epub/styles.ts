/** Rules of what styles do to a page (EPUB 3.3 §6.3.1; WCAG 2.2). */
import * as csstree from 'css-tree';
import type { Rule } from '../rules';
import { each } from './style-rule';
import { isOlder, type EpubSheet, type EpubSubject } from './subject';

const declaration = (
  rule: Omit<Rule<EpubSubject>, 'look'>,
  look: (
    property: string,
    value: string,
    sheet: EpubSheet,
    s: EpubSubject,
    within: csstree.WalkContext,
  ) => string | null,
): Rule<EpubSubject> =>
  each(rule, (n, sheet, s, within) =>
    n.type === 'Declaration'
      ? look(n.property.toLowerCase(), csstree.generate(n.value).toLowerCase(), sheet, s, within)
      : null,
  );

export const STYLE_RULES: Rule<EpubSubject>[] = [
  declaration(
    {
      name: 'style/direction',
      severity: 'blocker',
      profiles: ['EPUB 3.3'],
      source: 'EPUB 3.3 §6.3.1.2: no direction and unicode-bidi in style sheets',
      why: 'Reading systems may put the text in the wrong order.',
      remedy: 'Set it in the document, with dir and bdo.',
    },
    (p) => (p === 'direction' || p === 'unicode-bidi' ? `Styles must not set “${p}”.` : null),
  ),
  declaration(
    {
      name: 'style/fixed-place',
      severity: 'caution',
      source: 'EPUB 3.3 §6.3.1.2, OPS 2.0.1 §3.3: position: fixed is not supported where text flows',
      why: 'Text overlaps.',
      remedy: 'Remove the position.',
    },
    (p, v, _sheet, s) =>
      p === 'position' && (v === 'fixed' || (v === 'absolute' && isOlder(s))) && !s.fixed
        ? `“position: ${v}” doesn’t work where text flows.`
        : null,
  ),
  declaration(
    {
      name: 'style/text-size-fixed',
      severity: 'caution',
      source: 'WCAG 2.2, 1.4.4 (Resize Text); common practice',
      why: 'Readers can’t make the text larger.',
      remedy: 'Use em or %.',
    },
    (p, v, _sheet, s, within) => {
      const prelude = within.rule?.prelude;
      const selector = prelude ? csstree.generate(prelude) : '';
      return !s.fixed &&
        p === 'font-size' &&
        /^\d*\.?\d+(px|pt|cm|mm|in|pc)$/.test(v) &&
        /(^|,)\s*(html|body|p)\s*(,|$)/.test(selector)
        ? `The size of the text is fixed to ${v}.`
        : null;
    },
  ),
  declaration(
    {
      name: 'style/line-height-fixed',
      severity: 'note',
      source: 'WCAG 2.2, 1.4.12 (Text Spacing); common practice',
      why: 'Lines run into each other when the text is made larger.',
      remedy: 'Use a plain number, such as 1.4.',
    },
    (p, v, _sheet, s) =>
      !s.fixed && p === 'line-height' && /^\d*\.?\d+(px|pt|cm|mm|in|pc)$/.test(v)
        ? `The height of lines is fixed to ${v}.`
        : null,
  ),
  declaration(
    {
      name: 'style/wide',
      severity: 'caution',
      source: 'common practice: small screens are about 320 px wide',
      why: 'On a phone the text runs off the screen.',
      remedy: 'Use %, or max-width: 100%.',
    },
    (p, v, _sheet, s) => {
      const px = /^(\d*\.?\d+)px$/.exec(v)?.[1];
      return !s.fixed &&
        (p === 'width' || p === 'min-width' || p === 'margin-left' || p === 'margin-right') &&
        Number(px ?? 0) > 320
        ? `“${p}: ${v}” is wider than a small screen.`
        : null;
    },
  ),
  declaration(
    {
      name: 'style/screen-units',
      severity: 'note',
      profiles: ['EPUB 3.3'],
      source: 'EPUB 3.3 §6.3.1: support of viewport units differs; common practice',
      why: 'Reading systems measure these units differently.',
      remedy: 'Use em or %.',
    },
    (p, v, _sheet, s) =>
      !s.fixed && !p.startsWith('max-') && /\b\d*\.?\d+(vh|vw|vmin|vmax)\b/.test(v)
        ? `“${p}: ${v}” depends on the size of the screen.`
        : null,
  ),
  declaration(
    {
      name: 'style/text-colour',
      severity: 'note',
      source: 'WCAG 2.2, 1.4.3; common practice: readers choose light or dark',
      why: 'In night mode the text may disappear.',
      remedy: 'Leave text and page colours to the reader.',
    },
    (p, v, _sheet, s, within) => {
      const prelude = within.rule?.prelude;
      const selector = prelude ? csstree.generate(prelude) : '';
      return !s.fixed &&
        /^(color|background|background-color)$/.test(p) &&
        /(^|,)\s*(html|body|p)\s*(,|$)/.test(selector) &&
        !/^(inherit|initial|unset|transparent|none|currentcolor)$/.test(v)
        ? `The styles set “${p}” for the whole text.`
        : null;
    },
  ),
  declaration(
    {
      name: 'style/prefixed',
      severity: 'note',
      profiles: ['EPUB 3.3'],
      source: 'EPUB 3.3 §6.3.1.3: prefixed properties; use the unprefixed ones',
      remedy: 'Write it without the prefix as well.',
    },
    (p) => (p.startsWith('-epub-') ? `“${p}” is the older name of a property.` : null),
  ),
  declaration(
    {
      name: 'style/nothing-shown',
      severity: 'caution',
      source: 'common practice: whole pages that styles hide',
      why: 'Readers see an empty page.',
      remedy: 'Remove it.',
    },
    (p, v, _sheet, _s, within) => {
      const prelude = within.rule?.prelude;
      const selector = prelude ? csstree.generate(prelude) : '';
      return p === 'display' && v === 'none' && /(^|,)\s*(html|body)\s*(,|$)/.test(selector)
        ? 'The styles hide the page.'
        : null;
    },
  ),
];
