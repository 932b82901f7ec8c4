/**
 * What the .docx library leaves out, read from the XML beside it (ECMA-376 part 1, §17): outline levels, page breaks
 * before paragraphs, languages, and what styles say of size, weight and alignment.
 *
 * To know which paragraph of the library's is which in the XML, every `w:p` is given a bookmark with its number before
 * the library reads the file; the library hands bookmarks through.
 */
import { SaxesParser, type SaxesTagNS } from 'saxes';
import { parseXml, type XmlElement } from '../base';

export const MARK = 'pagina-paragraph-';
const W = 'http://schemas.openxmlformats.org/wordprocessingml/2006/main';
const W_STRICT = 'http://purl.oclc.org/ooxml/wordprocessingml/main';

export interface StyleFacts {
  name: string;
  outline: number;
  breakBefore: boolean;
  align: string;
  size: number;
  bold: boolean;
  italic: boolean;
  capitals: boolean;
}
export interface ParagraphFacts {
  outline: number | null;
  breakBefore: boolean | null;
  /** A page or section break inside or at the end of the paragraph before. */
  sectionEnd: boolean;
  language: string;
}

const attr = (el: XmlElement | undefined, name: string): string | undefined => el?.attrs[`w:${name}`];
const isOn = (el: XmlElement | undefined): boolean =>
  el !== undefined && !['0', 'false', 'off'].includes(attr(el, 'val') ?? '1');
const child = (el: XmlElement | undefined, name: string): XmlElement | undefined =>
  el?.children.find((c): c is XmlElement => typeof c !== 'string' && c.name === name);

/** Built-in heading styles are known by their canonical names in every language (§17.7.4.9), even without a level. */
const byName = (name: string | undefined): number => Number(/^heading ([1-9])$/i.exec(name ?? '')?.[1] ?? 0);

/** Styles by id, what they are based on worked in, and the document's default language and size. */
export function readStyles(xml: string | null): {
  styles: Map<string, StyleFacts>;
  language: string;
  size: number;
} {
  const styles = new Map<string, StyleFacts>();
  const root = xml ? parseXml(xml).root : null;
  if (!root) return { styles, language: '', size: 0 };
  const defaults = child(child(child(root, 'docDefaults'), 'rPrDefault'), 'rPr');
  const raw = new Map<string, XmlElement>();
  for (const el of root.children)
    if (typeof el !== 'string' && el.name === 'style') raw.set(attr(el, 'styleId') ?? '', el);
  const resolve = (id: string, depth: number): StyleFacts => {
    const known = styles.get(id);
    if (known) return known;
    const el = raw.get(id);
    const parent = attr(child(el, 'basedOn'), 'val');
    const base = parent && parent !== id && depth < 20 ? resolve(parent, depth + 1) : null;
    const p = child(el, 'pPr');
    const r = child(el, 'rPr');
    const outline = attr(child(p, 'outlineLvl'), 'val');
    const facts: StyleFacts = {
      name: attr(child(el, 'name'), 'val') ?? id,
      outline:
        outline !== undefined
          ? Number(outline) >= 9
            ? 0
            : Number(outline) + 1
          : byName(attr(child(el, 'name'), 'val')) || (base?.outline ?? 0),
      breakBefore: child(p, 'pageBreakBefore')
        ? isOn(child(p, 'pageBreakBefore'))
        : (base?.breakBefore ?? false),
      align: attr(child(p, 'jc'), 'val') ?? base?.align ?? '',
      size: Number(attr(child(r, 'sz'), 'val') ?? 0) / 2 || (base?.size ?? 0),
      bold: child(r, 'b') ? isOn(child(r, 'b')) : (base?.bold ?? false),
      italic: child(r, 'i') ? isOn(child(r, 'i')) : (base?.italic ?? false),
      capitals: child(r, 'caps') ? isOn(child(r, 'caps')) : (base?.capitals ?? false),
    };
    styles.set(id, facts);
    return facts;
  };
  for (const id of raw.keys()) resolve(id, 0);
  return {
    styles,
    language: attr(child(defaults, 'lang'), 'val') ?? '',
    size: Number(attr(child(defaults, 'sz'), 'val') ?? 0) / 2,
  };
}

/** The document's XML with a numbered bookmark in every paragraph, and facts by those numbers. */
export function markParagraphs(xml: string): { xml: string; facts: ParagraphFacts[]; fault: string | null } {
  const parser = new SaxesParser({ xmlns: true, position: true });
  const facts: ParagraphFacts[] = [];
  const inserts: { at: number; text: string }[] = [];
  const open: number[] = [];
  let inProperties = 0;
  let fault: string | null = null;
  const languages = new Map<string, number>();
  const value = (tag: SaxesTagNS): string | undefined =>
    Object.values(tag.attributes).find((a) => a.local === 'val')?.value;
  parser.on('error', (e) => {
    fault ??= e.message;
  });
  parser.on('opentag', (tag) => {
    if (tag.uri !== W && tag.uri !== W_STRICT) return;
    const now = facts[open.at(-1) ?? -1];
    switch (tag.local) {
      case 'p':
        open.push(facts.push({ outline: null, breakBefore: null, sectionEnd: false, language: '' }) - 1);
        if (!tag.isSelfClosing)
          inserts.push({
            at: parser.position,
            text: `<${tag.prefix ? `${tag.prefix}:` : ''}bookmarkStart ${tag.prefix}:name="${MARK}${facts.length - 1}" ${tag.prefix}:id="9${facts.length}"/>`,
          });
        break;
      case 'pPr':
        inProperties++;
        break;
      case 'outlineLvl':
        if (now && inProperties) now.outline = Number(value(tag) ?? 9) >= 9 ? 0 : Number(value(tag)) + 1;
        break;
      case 'pageBreakBefore':
        if (now && inProperties) now.breakBefore = !['0', 'false', 'off'].includes(value(tag) ?? '1');
        break;
      case 'sectPr':
        if (now && inProperties) now.sectionEnd = true;
        break;
      case 'lang': {
        const l = value(tag);
        if (now && l && !inProperties) {
          now.language ||= l;
          languages.set(l, (languages.get(l) ?? 0) + 1);
        }
      }
    }
  });
  parser.on('closetag', (tag) => {
    if (tag.uri !== W && tag.uri !== W_STRICT) return;
    if (tag.local === 'p') open.pop();
    if (tag.local === 'pPr') inProperties--;
  });
  try {
    parser.write(xml).close();
  } catch (e) {
    fault ??= (e as Error).message;
  }
  const parts: string[] = [];
  let from = 0;
  for (const i of inserts) {
    parts.push(xml.slice(from, i.at), i.text);
    from = i.at;
  }
  parts.push(xml.slice(from));
  return { xml: parts.join(''), facts, fault };
}
