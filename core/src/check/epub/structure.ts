/** Rules of what particular elements hold, and in which order (HTML §4.1 to §4.12). */
import type { XmlElement } from '../../base';
import { isTime } from '../html/times';
import type { Rule } from '../rules';
import { ancestor, html, isCustom, isNamed, kids, named } from './content';
import { elementsIn, isHtml, type EpubSubject } from './subject';

const ORDER_OF_TABLE = ['caption', 'colgroup', 'thead', 'tbody', 'tfoot'];

export const STRUCTURE_RULES: Rule<EpubSubject>[] = [
  named(
    'html',
    {
      name: 'element/head-and-body',
      severity: 'blocker',
      source: 'HTML §4.1.1: a head followed by a body',
      remedy: 'Use one head, then one body.',
    },
    (e) => {
      const names = elementsIn(e)
        .map((c) => c.name)
        .filter((n) => n === 'head' || n === 'body')
        .join(' ');
      return names === 'head body'
        ? null
        : names === 'body'
          ? 'The document has no head.'
          : names === 'head'
            ? 'The document has no body.'
            : `The document holds “${names}” in place of a head and a body.`;
    },
  ),
  named(
    'head',
    {
      name: 'element/title-missing',
      severity: 'blocker',
      source: 'HTML §4.2.1: exactly one title',
      why: 'Reading systems and screen readers identify the page by it.',
      remedy: 'Add the title of the page.',
      mend: 'page-title',
    },
    (e) => (kids(e).some((c) => c.name === 'title') ? null : 'The page has no title.'),
  ),
  named(
    'head',
    {
      name: 'element/title-twice',
      severity: 'blocker',
      source: 'HTML §4.2.1: exactly one title',
      remedy: 'Keep one of them.',
    },
    (e) => {
      const [, second] = kids(e).filter((c) => c.name === 'title');
      return second ? { message: 'The page has two titles.', e: second } : null;
    },
  ),
  named(
    'head',
    {
      name: 'element/base-twice',
      severity: 'blocker',
      source: 'HTML §4.2.1: base at most once',
      remedy: 'Keep one of them.',
    },
    (e) => {
      const [, second] = kids(e).filter((c) => c.name === 'base');
      return second ? { message: 'The page has two base addresses.', e: second } : null;
    },
  ),
  named(
    'table',
    {
      name: 'element/table-in-caption',
      severity: 'blocker',
      source: 'HTML §4.9.2: no table within a caption',
      remedy: 'Move the table out of the caption.',
    },
    (e, d) => (ancestor(e, d, isNamed('caption')) ? 'A table is inside a caption.' : null),
  ),
  named(
    'table',
    {
      name: 'element/table-order',
      severity: 'blocker',
      source: 'HTML §4.9.1: caption, colgroups, thead, bodies or rows, tfoot',
      remedy: 'Put its parts in this order: caption, colgroup, thead, tbody, tfoot.',
    },
    (e) => {
      let last = -1;
      for (const c of kids(e)) {
        const place = ORDER_OF_TABLE.indexOf(c.name === 'tr' ? 'tbody' : c.name);
        if (place >= 0 && (place < last || (place === last && /^(caption|thead|tfoot)$/.test(c.name))))
          return { message: `“${c.name}” comes too late in the table.`, e: c };
        last = Math.max(last, place);
      }
      return null;
    },
  ),
  named(
    'table',
    {
      name: 'element/table-rows-mixed',
      severity: 'blocker',
      source: 'HTML §4.9.1: either bodies or rows',
      remedy: 'Put all rows into tbody.',
    },
    (e) => {
      const rows = kids(e).filter((c) => c.name === 'tr' || c.name === 'tbody');
      const odd = rows.find((c) => c.name !== rows[0]?.name);
      return odd ? { message: 'Some rows of the table are in a tbody and some aren’t.', e: odd } : null;
    },
  ),
  named(
    'figure',
    {
      name: 'element/figure-caption',
      severity: 'blocker',
      source: 'HTML §4.4.12: one figcaption, first or last',
      remedy: 'Put the caption first or last.',
    },
    (e) => {
      const all = kids(e);
      const captions = all.filter((c) => c.name === 'figcaption');
      if (captions.length > 1)
        return { message: 'The figure has two captions.', e: captions[1] as XmlElement };
      const place = all.findIndex((c) => c.name === 'figcaption');
      return place > 0 && place < all.length - 1
        ? { message: 'The caption is in the middle of the figure.', e: all[place] as XmlElement }
        : null;
    },
  ),
  named(
    'dl dl>div',
    {
      name: 'element/terms-order',
      severity: 'blocker',
      source: 'HTML §4.4.9: groups of terms and descriptions',
      remedy: 'Give each term a description.',
    },
    (e) => {
      const flat = kids(e);
      if (flat.length === 0 || flat.some((c) => c.name !== 'dt' && c.name !== 'dd')) return null;
      if (flat[0]?.name === 'dd') return { message: 'A description has no term.', e: flat[0] };
      return flat.at(-1)?.name === 'dt'
        ? { message: 'A term has no description.', e: flat.at(-1) as XmlElement }
        : null;
    },
  ),
  named(
    'dl',
    {
      name: 'element/terms-mixed',
      severity: 'blocker',
      source: 'HTML §4.4.9: either groups in div, or terms and descriptions',
      remedy: 'Put all groups into div, or none.',
    },
    (e) => {
      const all = kids(e).filter((c) => /^(div|dt|dd)$/.test(c.name));
      const odd = all.find((c) => (c.name === 'div') !== (all[0]?.name === 'div'));
      return odd ? { message: 'Some groups of the list are in “div” and some aren’t.', e: odd } : null;
    },
  ),
  named(
    'details',
    {
      name: 'element/summary-first',
      severity: 'blocker',
      source: 'HTML §4.11.1: one summary, first',
      remedy: 'Begin with the summary.',
    },
    (e) =>
      kids(e)[0]?.name === 'summary' && kids(e).filter((c) => c.name === 'summary').length === 1
        ? null
        : 'Details don’t begin with their summary.',
  ),
  named(
    'fieldset',
    {
      name: 'element/legend-first',
      severity: 'blocker',
      source: 'HTML §4.10.15: legend first, if any',
      remedy: 'Begin with the legend.',
    },
    (e) => {
      const place = kids(e).findIndex((c) => c.name === 'legend');
      return place > 0
        ? { message: 'The legend isn’t the first of its group.', e: kids(e)[place] as XmlElement }
        : null;
    },
  ),
  named(
    'picture',
    {
      name: 'element/picture-parts',
      severity: 'blocker',
      source: 'HTML §4.8.1: sources, then one img',
      why: 'Reading systems show nothing without the img.',
      remedy: 'Put one img last.',
    },
    (e) => {
      const names = kids(e).map((c) => c.name);
      return names.filter((n) => n === 'img').length === 1 && names.at(-1) === 'img'
        ? null
        : 'A picture of several sources doesn’t end with one img.';
    },
  ),
  named(
    'ruby',
    {
      name: 'element/ruby-reading',
      severity: 'blocker',
      source: 'HTML §4.5.10: a base, followed by rt',
      remedy: 'Write the reading in rt after its base.',
    },
    (e) => {
      const all = e.children.filter((c) => typeof c !== 'string' || c.trim() !== '');
      const first = all[0];
      if (typeof first === 'object' && /^(rt|rp)$/.test(first.name))
        return 'A reading comes before its base.';
      return elementsIn(e).some((c) => c.name === 'rt' || c.name === 'rtc') ? null : 'A base has no reading.';
    },
  ),
  named(
    'time',
    {
      name: 'element/time-words',
      severity: 'blocker',
      source: 'HTML §4.5.14: without datetime, text that is a date or a time for machines',
      remedy: 'Give the date in datetime, or remove the element.',
      mend: 'time',
    },
    (e) => {
      if (e.attrs.datetime !== undefined) return null;
      const words = e.children.filter((c) => typeof c === 'string').join('');
      return elementsIn(e).length > 0 || !isTime(words.trim())
        ? `“${words.trim().slice(0, 40)}” is not a machine-readable date.`
        : null;
    },
  ),
  html(
    (name) => name === 'main',
    {
      name: 'element/main-place',
      severity: 'blocker',
      source: 'HTML §4.4.14: main only within html, body, div, form',
      remedy: 'Put it directly into the body.',
    },
    (e, d) => {
      const around = ancestor(
        e,
        d,
        (x) => isHtml(x) && !/^(html|body|div|form)$/.test(x.name) && !isCustom(x.name),
      );
      return around ? `“main” is inside “${around.name}”.` : null;
    },
  ),
  named(
    'body',
    {
      name: 'element/main-twice',
      severity: 'blocker',
      source: 'HTML §4.4.14: not more than one visible main',
      remedy: 'Keep one of them.',
    },
    (e, d) => {
      const [, second] = d.elements.filter(
        (x) => isHtml(x) && x.name === 'main' && x.attrs.hidden === undefined,
      );
      return second ? { message: 'The page has two main parts.', e: second } : null;
    },
  ),
  named(
    'area',
    {
      name: 'element/area-place',
      severity: 'blocker',
      source: 'HTML §4.8.14: area within map or template',
      remedy: 'Put it into a map.',
    },
    (e, d) => (ancestor(e, d, isNamed('map template')) ? null : 'An area is outside a map.'),
  ),
  named(
    'noscript',
    {
      name: 'element/noscript',
      severity: 'blocker',
      source: 'HTML §4.12.2: noscript must not be used in XML documents',
      remedy: 'Remove it, keeping its content if readers need it.',
    },
    () => '“noscript” has no effect in an ebook.',
  ),
  named(
    'audio video',
    {
      name: 'element/media-order',
      severity: 'blocker',
      source: 'HTML §4.8.8, §4.8.9: sources, then tracks, then the rest',
      remedy: 'Put sources first, then tracks.',
    },
    (e) => {
      const places = kids(e).map((c) => (c.name === 'source' ? 0 : c.name === 'track' ? 1 : 2));
      const odd = places.findIndex((p, i) => p < Math.max(...places.slice(0, i), -1));
      if (odd >= 0)
        return { message: `“${kids(e)[odd]?.name ?? ''}” comes too late.`, e: kids(e)[odd] as XmlElement };
      const source = e.attrs.src !== undefined ? kids(e).find((c) => c.name === 'source') : undefined;
      return source ? { message: 'The element has both a src and sources.', e: source } : null;
    },
  ),
  named(
    'meta',
    {
      name: 'element/charset',
      severity: 'blocker',
      source: 'HTML §4.2.5: charset is utf-8',
      remedy: 'Write charset="utf-8".',
      mend: 'charset',
    },
    (e) => {
      const said =
        e.attrs.charset ??
        (/^content-type$/i.test(e.attrs['http-equiv'] ?? '')
          ? /charset=\s*([^\s;]+)/i.exec(e.attrs.content ?? '')?.[1]
          : undefined);
      return said !== undefined && said.toLowerCase() !== 'utf-8'
        ? `The page says it is in “${said}”.`
        : null;
    },
  ),
  named(
    'meta',
    {
      name: 'element/meta-parts',
      severity: 'blocker',
      source: 'HTML §4.2.5: one of name, http-equiv, charset, itemprop; content with the first two',
      remedy: 'Complete it, or remove it.',
    },
    (e) => {
      const { name, charset, content, itemprop, property } = e.attrs;
      const equiv = e.attrs['http-equiv'];
      if ([name, equiv, charset, itemprop, property].every((x) => x === undefined))
        return 'A meta element is empty.';
      return (name !== undefined || equiv !== undefined) && content === undefined
        ? 'A meta has no content.'
        : null;
    },
  ),
  named(
    'meta',
    {
      name: 'element/refresh',
      severity: 'caution',
      source: 'HTML §4.2.5.3; WCAG 2.2, 2.2.1',
      why: 'The page moves on by itself.',
      remedy: 'Remove it.',
    },
    (e) => (/^refresh$/i.test(e.attrs['http-equiv'] ?? '') ? 'The page reloads itself.' : null),
  ),
];
