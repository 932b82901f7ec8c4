/** Rules of what is said of pictures, drawings, formulas, films and frames to those who don’t see or hear them (WCAG 2.2, 1.1, 1.2, 1.4). */
import { descendants, textOf, type XmlElement } from '../../base';
import { percentDecoded } from '../../package';
import type { Rule } from '../rules';
import { isPresentation, undescribed } from './described';
import {
  at,
  atAttribute,
  isHtml,
  isOlder,
  MATHML_NS,
  named,
  SVG_NS,
  type EpubDocument,
  type EpubSubject,
} from './subject';

export const ALTERNATIVE_RULES: Rule<EpubSubject>[] = [
  {
    name: 'access/alt',
    severity: 'caution',
    profiles: ['accessibility'],
    source: 'EPUB Accessibility 1.1 §3.3; WCAG 2.2 SC 1.1.1',
    why: 'Shops ask for it, and readers who can’t see the picture get nothing.',
    remedy: 'Describe it, or mark it as decorative.',
    *look(s) {
      for (const { file, img } of undescribed(s))
        yield {
          message: 'A picture has no alternative text.',
          file,
          line: img.line,
          column: img.column,
          remedy: 'Describe it in the manuscript, or mark it as decorative.',
        };
    },
  },
  {
    name: 'access/alt-useless',
    severity: 'caution',
    profiles: ['accessibility'],
    source: 'WCAG 2.2 SC 1.1.1, failure F30 (alternatives that are none, such as file names)',
    why: 'Read aloud, it says nothing about the picture.',
    remedy: 'Describe what the picture shows.',
    *look(s) {
      for (const d of s.documents)
        for (const e of named(d, 'img'))
          if (e.name === 'img' && isHtml(e) && isUseless(e.attrs.alt ?? '', e.attrs.src ?? ''))
            yield {
              message: `The alternative text “${e.attrs.alt ?? ''}” says nothing about the picture.`,
              ...atAttribute(d, e, 'alt'),
            };
    },
  },
  {
    name: 'access/alt-long',
    severity: 'note',
    profiles: ['accessibility'],
    source: 'common practice: alternative texts of up to about 250 characters; longer ones stand in the text',
    remedy: 'Shorten it, and describe the picture at length in the text.',
    *look(s) {
      for (const d of s.documents)
        for (const e of named(d, 'img'))
          if (e.name === 'img' && (e.attrs.alt ?? '').length > 500)
            yield {
              message: `An alternative text has ${(e.attrs.alt ?? '').length} characters.`,
              ...atAttribute(d, e, 'alt'),
            };
    },
  },
  {
    name: 'access/drawing-name',
    severity: 'caution',
    profiles: ['accessibility'],
    source: 'WCAG 2.2 SC 1.1.1; SVG Accessibility API Mappings 1.0 §5: title or aria-label',
    why: 'Screen readers say nothing.',
    remedy: 'Begin the drawing with a title, or mark it as decorative.',
    *look(s) {
      for (const d of s.documents)
        for (const e of named(d, 'svg'))
          if (
            e.ns === SVG_NS &&
            d.parents.get(e)?.ns !== SVG_NS &&
            !isPresentation(e) &&
            e.attrs['aria-hidden'] !== 'true' &&
            !isOlder(s) &&
            !nameOfDrawing(e, d)
          )
            yield { message: 'A drawing has no name.', ...at(d, e) };
    },
  },
  {
    name: 'access/formula-words',
    severity: 'note',
    profiles: ['accessibility'],
    source: 'EPUB Accessibility 1.1; MathML 3 §2.2.1: alttext for readers that don’t know MathML',
    remedy: 'Add alttext with the formula in words.',
    *look(s) {
      for (const d of s.documents)
        for (const e of named(d, 'math'))
          if (e.ns === MATHML_NS && !e.attrs.alttext && !e.attrs.altimg && e.children.length === 0)
            yield { message: 'A formula is empty.', ...at(d, e) };
    },
  },
  {
    name: 'access/frame-title',
    severity: 'caution',
    profiles: ['accessibility'],
    source: 'WCAG 2.2 SC 4.1.2, technique H64: the title of a frame',
    remedy: 'Give it a title that says what it holds.',
    *look(s) {
      for (const d of s.documents)
        for (const e of named(d, 'iframe'))
          if (isHtml(e) && !(e.attrs.title ?? e.attrs['aria-label'] ?? '').trim())
            yield { message: 'A frame has no title.', ...at(d, e) };
    },
  },
  {
    name: 'access/film-captions',
    severity: 'caution',
    profiles: ['accessibility'],
    source: 'WCAG 2.2 SC 1.2.2: captions of films with sound',
    remedy: 'Add a captions track.',
    *look(s) {
      for (const d of s.documents)
        for (const e of named(d, 'video'))
          if (
            isHtml(e) &&
            e.attrs.muted === undefined &&
            !descendants(e, 'track').some((t) => /^(captions|subtitles)?$/.test(t.attrs.kind ?? ''))
          )
            yield { message: 'A film has no captions.', ...at(d, e) };
    },
  },
  {
    name: 'access/plays-by-itself',
    severity: 'caution',
    profiles: ['accessibility'],
    source: 'WCAG 2.2 SC 1.4.2: sound that plays by itself',
    remedy: 'Let readers start it.',
    mend: 'autoplay',
    *look(s) {
      for (const d of s.documents)
        for (const e of d.elements)
          if (
            isHtml(e) &&
            /^(audio|video)$/.test(e.name) &&
            e.attrs.autoplay !== undefined &&
            e.attrs.muted === undefined
          )
            yield { message: 'Sound starts by itself.', ...atAttribute(d, e, 'autoplay') };
    },
  },
];

/** Names of files, and words that any picture could have (WCAG 2.2 failure F30). */
const USELESS =
  /^(image|img|picture|pic|photo|photograph|figure|fig|graphic|illustration|untitled|placeholder|spacer|bullet|icon|cover image|dsc|scan|screenshot)[\s._-]*\d*\.?$/i;

const isUseless = (alt: string, src: string): boolean => {
  const words = alt.trim();
  if (words === '') return false;
  const file = percentDecoded(src.split('/').at(-1) ?? '');
  return (
    USELESS.test(words) ||
    /^[^\s]+\.(jpe?g|png|gif|svg|webp|tiff?)$/i.test(words) ||
    words.toLowerCase() === file.toLowerCase()
  );
};

const nameOfDrawing = (e: XmlElement, d: EpubDocument): boolean => {
  if ((e.attrs['aria-label'] ?? e.attrs['aria-labelledby'] ?? '').trim() !== '') return true;
  if (descendants(e, 'title').some((t) => textOf(t).trim() !== '') || descendants(e, 'text').length > 0)
    return true;
  // Within a figure or a link that is named, the name is there already.
  for (let x = d.parents.get(e); x; x = d.parents.get(x))
    if ((x.attrs['aria-label'] ?? '').trim() !== '' || x.attrs['aria-hidden'] === 'true') return true;
  return false;
};
