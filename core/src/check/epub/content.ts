/** What elements hold by the content models of HTML (§3.2.5, §4), and rules that look at elements by name. */
import type { XmlElement } from '../../base';
import { HTML_ELEMENTS, OBSOLETE_ELEMENTS, type ContentModel } from '../html/models';
import type { Breach, Rule } from '../rules';
import {
  at,
  elementsIn,
  isHtml,
  MATHML_NS,
  SVG_NS,
  XHTML,
  type EpubDocument,
  type EpubSubject,
} from './subject';

export const MESSES = 'Each reading system repairs it differently, and shops that check refuse it.';

/** A rule that looks at each element of HTML of such a name, in documents whose elements are where their author put them. */
export const html = (
  where: (name: string) => boolean,
  of: Omit<Rule<EpubSubject>, 'look' | 'profiles'>,
  look: (e: XmlElement, d: EpubDocument) => string | null | { message: string; e: XmlElement },
): Rule<EpubSubject> => ({
  why: MESSES,
  ...of,
  profiles: ['EPUB 3.3'],
  *look(s): Iterable<Breach> {
    for (const d of s.documents)
      for (const [name, all] of d.sound && d.item.type === XHTML ? d.byName : [])
        for (const e of where(name) ? all : []) {
          const said = isHtml(e) ? look(e, d) : null;
          if (typeof said === 'string') yield { message: said, ...at(d, e) };
          else if (said !== null) yield { message: said.message, ...at(d, said.e) };
        }
  },
});

/** A rule that looks at each element of that name. */
export const named = (
  names: string,
  of: Omit<Rule<EpubSubject>, 'look' | 'profiles'>,
  look: Parameters<typeof html>[2],
): Rule<EpubSubject> => {
  const set = new Set(names.split(' '));
  return html((name) => set.has(name), of, look);
};

export const isCustom = (name: string): boolean => /^[a-z][^\sA-Z]*-/.test(name);

export const categories = (e: XmlElement): string => {
  if (!isHtml(e))
    return (e.ns === SVG_NS && e.name === 'svg') ||
      (e.ns === MATHML_NS && e.name === 'math') ||
      /2007\/ops/.test(e.ns)
      ? 'FP'
      : '';
  if (isCustom(e.name)) return 'FP';
  // In the text only those that say something of it, or that HTML allows there (§4.2.4, §4.2.5).
  if (e.name === 'link')
    return e.attrs.itemprop !== undefined ||
      /\b(stylesheet|preload|prefetch|preconnect|modulepreload|dns-prefetch|pingback)\b/i.test(
        e.attrs.rel ?? '',
      )
      ? 'MFP'
      : 'M';
  if (e.name === 'meta')
    return e.attrs.itemprop !== undefined || e.attrs.property !== undefined ? 'MFP' : 'M';
  return HTML_ELEMENTS.get(e.name)?.categories ?? (OBSOLETE_ELEMENTS[e.name] ? 'FP' : '');
};

export const modelOf = (e: XmlElement): ContentModel => HTML_ELEMENTS.get(e.name)?.content ?? 'anything';

/** The content model of an element; of a transparent one that of what it stands in. */
export function effective(e: XmlElement, d: EpubDocument): ContentModel {
  let x: XmlElement | undefined = e;
  while (x && isHtml(x) && modelOf(x) === 'transparent') x = d.parents.get(x);
  if (!x || !isHtml(x)) return 'anything';
  const model = modelOf(x);
  // A div within a dl holds what the dl does.
  return x.name === 'div' && d.parents.get(x)?.name === 'dl' && isHtml(d.parents.get(x) as XmlElement)
    ? ['dt', 'dd', 'script', 'template']
    : model;
}

/** Children of elements that they hold beside their model. */
export const BESIDE: Record<string, readonly string[]> = {
  figure: ['figcaption'],
  fieldset: ['legend'],
  details: ['summary'],
  ruby: ['rt', 'rp', 'rb', 'rtc'],
  rtc: ['rt', 'rp'],
  object: ['param'],
  video: ['source', 'track'],
  audio: ['source', 'track'],
  datalist: ['option'],
  summary: ['h1', 'h2', 'h3', 'h4', 'h5', 'h6', 'hgroup'],
  legend: ['h1', 'h2', 'h3', 'h4', 'h5', 'h6', 'hgroup'],
  select: ['selectedcontent'],
};

/** Whether an element holds such a child. */
export function holds(e: XmlElement, c: XmlElement, d: EpubDocument): boolean {
  if (BESIDE[e.name]?.includes(c.name)) return true;
  const model = effective(e, d);
  if (model === 'anything') return true;
  if (model === 'nothing' || model === 'text') return false;
  if (model === 'flow') return /F/.test(categories(c));
  if (model === 'phrasing') return /P/.test(categories(c));
  return (model as readonly string[]).includes(c.name) && isHtml(c);
}

export const ancestor = (
  e: XmlElement,
  d: EpubDocument,
  is: (x: XmlElement) => boolean,
): XmlElement | undefined => {
  for (let x = d.parents.get(e); x; x = d.parents.get(x)) if (is(x)) return x;
  return undefined;
};

export const isNamed =
  (names: string) =>
  (x: XmlElement): boolean =>
    isHtml(x) && names.split(' ').includes(x.name);

export const hasText = (e: XmlElement): XmlElement | null =>
  e.children.some((c) => typeof c === 'string' && /[^ \t\r\n\f]/.test(c)) ? e : null;

export const kids = (e: XmlElement): XmlElement[] =>
  elementsIn(e).filter((c) => c.name !== 'script' && c.name !== 'template');
