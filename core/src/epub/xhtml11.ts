/**
 * A document of EPUB 3.3 as EPUB 2.0.1 wants it (OPS 2.0.1 §2.2: XHTML 1.1 in the modules listed there): what that language
 * has no element or attribute for becomes one it has. Only our own documents are read here: every tag is closed, every value
 * quoted.
 */

const DOCTYPE =
  '<!DOCTYPE html PUBLIC "-//W3C//DTD XHTML 1.1//EN" "http://www.w3.org/TR/xhtml11/DTD/xhtml11.dtd">';

/** Elements that XHTML 1.1 lacks: what stands for them, with the class by which the style sheet knows it. */
const INSTEAD: Record<string, [tag: string, known: string]> = {
  section: ['div', ''],
  figure: ['div', 'figure'],
  figcaption: ['div', 'figcaption'],
  aside: ['div', 'aside'],
  u: ['span', 'underline'],
  s: ['span', 'struck'],
};
/** Attributes that it lacks altogether, and those that only some elements have. */
const WITHOUT = /^(?:epub:type|role|aria-[a-z]+|lang|xmlns:epub|hidden)$/;
const OF: Record<string, ReadonlySet<string>> = { ol: new Set(['start', 'type']) };

const TAG = /<(\/?)([A-Za-z][\w:]*)((?: [\w:-]+="[^"]*")*)(\/?)>/g;
const ATTRIBUTE = / ([\w:-]+)="([^"]*)"/g;

export function asXhtml11(xhtml: string): string {
  const noteref = /\bepub:type="noteref"/;
  return xhtml
    .replace('<!DOCTYPE html>', DOCTYPE)
    .replace(
      '<meta charset="utf-8"/>',
      '<meta http-equiv="Content-Type" content="application/xhtml+xml; charset=utf-8"/>',
    )
    .replace(TAG, (_, slash: string, name: string, attributes: string, closed: string) => {
      const [tag, known] = INSTEAD[name] ?? [name, ''];
      if (slash) return `</${tag}>`;
      const classes = [known, noteref.test(attributes) ? 'noteref' : ''].filter(Boolean);
      const kept: string[] = [];
      for (const [, key = '', value = ''] of attributes.matchAll(ATTRIBUTE)) {
        if (key === 'class') classes.push(value);
        else if (name === 'ol' && key === 'type') classes.push(LIST_CLASSES[value] ?? '');
        else if (!WITHOUT.test(key) && !OF[name]?.has(key)) kept.push(` ${key}="${value}"`);
      }
      const start = name === 'ol' ? /\bstart="(-?\d+)"/.exec(attributes)?.[1] : undefined;
      if (start) kept.push(` style="counter-reset: item ${Number(start) - 1}"`);
      if (start) classes.push('counted');
      const own = classes.filter(Boolean).join(' ');
      return `<${tag}${own && ` class="${own}"`}${kept.join('')}${closed}>`;
    });
}

const LIST_CLASSES: Record<string, string> = { a: 'letters', i: 'roman' };

/** A style sheet for such documents: elements by the classes that stand for them (§3.3: CSS 2). */
export const cssFor11 = (css: string): string =>
  `${css
    .replace(/(?<![\w.#-])figure(?=[ .:{])/g, 'div.figure')
    .replace(/(?<![\w.#-])figcaption(?=[ .:{,])/g, 'div.figcaption')
    .replace(/(?<![\w.#-])aside(?=[ .:{,])/g, 'div.aside')
    .replaceAll('a[role="doc-noteref"]', 'a.noteref')
    .replace(/(?<![\w.#-])nav (?=ol|li)/g, '.contents ')}.underline { text-decoration: underline; }
.struck { text-decoration: line-through; }
ol.letters { list-style-type: lower-alpha; }
ol.roman { list-style-type: lower-roman; }
ol.counted > li { list-style: none; counter-increment: item; }
ol.counted > li:before { content: counter(item) ". "; }
ol.counted.letters > li:before { content: counter(item, lower-alpha) ". "; }
ol.counted.roman > li:before { content: counter(item, lower-roman) ". "; }
`;
