/** Rules of SVG and MathML within the text (EPUB 3.3 §6.1.4, §6.2). */
import { MATHML_PRESENTATION, SVG_ELEMENTS } from '../html/words';
import type { Rule } from '../rules';
import { ancestor, categories } from './content';
import { at, elementsIn, isHtml, MATHML_NS, named as ofName, SVG_NS, type EpubSubject } from './subject';

export const FOREIGN_RULES: Rule<EpubSubject>[] = [
  {
    name: 'svg/unknown-element',
    severity: 'caution',
    source: 'SVG 1.1 Appendix A; EPUB 3.3 §6.2',
    why: 'Reading systems draw nothing for it.',
    remedy: 'Remove it, or draw it with elements of SVG.',
    *look(s) {
      for (const d of s.documents)
        for (const e of d.elements)
          if (e.ns === SVG_NS && !SVG_ELEMENTS.has(e.name))
            yield { message: `SVG has no element “${e.name}”.`, ...at(d, e) };
    },
  },
  {
    name: 'svg/foreign-object',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §6.2.3: foreignObject holds HTML flow content, no body',
    remedy: 'Put the words into a “div”.',
    *look(s) {
      for (const d of s.documents)
        for (const e of ofName(d, 'foreignObject'))
          if (e.ns === SVG_NS)
            for (const c of elementsIn(e))
              if (c.name === 'body' || c.name === 'html' || (isHtml(c) && !/F/.test(categories(c))))
                yield { message: `“${c.name}” can’t stand in a drawing.`, ...at(d, c) };
    },
  },
  {
    name: 'svg/title-words',
    severity: 'caution',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §6.2.3: title holds phrasing content alone',
    remedy: 'Use plain text.',
    *look(s) {
      for (const d of s.documents)
        for (const e of ofName(d, 'title'))
          if (e.ns === SVG_NS)
            for (const c of elementsIn(e))
              if (!/P/.test(categories(c)))
                yield { message: `“${c.name}” is in the title of a drawing.`, ...at(d, c) };
    },
  },
  {
    name: 'math/content-markup',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §6.1.4 (embedded MathML): presentation markup alone outside of annotation-xml',
    why: 'Reading systems don’t show it.',
    remedy: 'Write the formula in presentation markup.',
    *look(s) {
      for (const d of s.documents)
        for (const e of d.elements)
          if (
            e.ns === MATHML_NS &&
            !MATHML_PRESENTATION.has(e.name) &&
            !ancestor(e, d, (x) => x.name === 'annotation-xml')
          )
            yield { message: `“${e.name}” isn’t presentation MathML.`, ...at(d, e) };
    },
  },
  {
    name: 'math/annotation',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §6.1.4 (embedded MathML): annotation-xml names its encoding, and its name',
    remedy: 'Write encoding="MathML-Content" name="contentequiv", or another of the standard.',
    *look(s) {
      for (const d of s.documents)
        for (const e of d.elements)
          if (e.ns === MATHML_NS && e.name === 'annotation-xml' && !e.attrs.encoding)
            yield { message: 'An annotation of a formula doesn’t say what it is.', ...at(d, e) };
    },
  },
  {
    name: 'element/switch',
    severity: 'caution',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3, Appendix on deprecated features: epub:switch and epub:trigger',
    why: 'Reading systems no longer know it.',
    remedy: 'Keep the version that every reader can show.',
    *look(s) {
      for (const d of s.documents)
        for (const e of d.elements)
          if (/2007\/ops/.test(e.ns)) yield { message: `“epub:${e.name}” is no longer used.`, ...at(d, e) };
    },
  },
];
