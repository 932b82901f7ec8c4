/** Paragraph styles of a .docx (ECMA-376 part 1, §17.7), with what they are based on worked in. */
import { parseXml, type XmlElement } from '../../base';

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
