/** Styles of an OpenDocument text (ODF 1.3 part 3 §16): what a named or automatic style says, with what it inherits. */
import { descendants, parseXml, type ListNumbers, type XmlElement } from '../../base';
import type { RawListPlace, RawParagraph } from '../raw';

export interface OdtLook {
  /** The author's name for it: an automatic style is known by the one it was made from. */
  name: string;
  outline: number;
  align: RawParagraph['align'] | '';
  breakBefore: boolean;
  indented: boolean;
  size: number;
  bold?: boolean;
  italic?: boolean;
  smallCaps?: boolean;
  strike?: boolean;
  underline?: boolean;
  monospace?: boolean;
  script: 'super' | 'sub' | '';
  language: string;
  coloured?: boolean;
  highlighted?: boolean;
}

const PLAIN: OdtLook = {
  name: '',
  outline: 0,
  align: '',
  breakBefore: false,
  indented: false,
  size: 0,
  script: '',
  language: '',
};
const ALIGN: Record<string, RawParagraph['align']> = {
  start: 'left',
  left: 'left',
  center: 'centre',
  end: 'right',
  right: 'right',
  justify: 'justify',
};
const POINTS: Record<string, number> = { pt: 1, in: 72, cm: 28.35, mm: 2.835, px: 0.75 };
const points = (length: string | undefined): number => {
  const m = /^(-?[\d.]+)(pt|in|cm|mm|px)$/.exec(length ?? '');
  return m ? Number(m[1]) * (POINTS[m[2] as string] as number) : 0;
};

/** "Heading_20_1" → "Heading 1" (§19.502: signs that a name may not hold are written as their code). */
const readable = (name: string): string =>
  name.replace(/_([0-9a-f]{1,4})_/gi, (_, code: string) => String.fromCharCode(parseInt(code, 16)));

const FORMATS: Record<string, ListNumbers> = { a: 'letters', i: 'roman' };

export class OdtStyles {
  private readonly elements = new Map<string, XmlElement>();
  private readonly known = new Map<string, OdtLook>();
  private readonly lists = new Map<string, Omit<RawListPlace, 'level'>>();
  /** Default size of the text in points. */
  size = 12;
  language = '';

  add(xml: string | null, automatic: boolean): void {
    const root = xml ? parseXml(xml).root : null;
    if (!root) return;
    for (const e of descendants(root, 'style')) {
      const name = e.attrs['style:name'];
      if (name) this.elements.set(name, e);
    }
    for (const e of descendants(root, 'list-style')) {
      const first = e.children.find((c): c is XmlElement => typeof c !== 'string');
      this.lists.set(e.attrs['style:name'] ?? '', {
        ordered: first?.name === 'list-level-style-number',
        numbers: FORMATS[first?.attrs['style:num-format']?.toLowerCase() ?? ''] ?? 'figures',
        start: Number(first?.attrs['text:start-value']) || 1,
      });
    }
    if (automatic) return;
    for (const e of descendants(root, 'default-style')) {
      if (e.attrs['style:family'] !== 'paragraph') continue;
      const look = lookOf(e, PLAIN);
      this.size = look.size || this.size;
      this.language = look.language;
    }
  }

  /** How a list style counts (OpenDocument 1.3, §19.500 style:num-format). */
  listOf(name: string): Omit<RawListPlace, 'level'> {
    return this.lists.get(name) ?? { ordered: false };
  }

  of(name: string | undefined, depth = 0): OdtLook {
    if (!name) return PLAIN;
    const known = this.known.get(name);
    if (known) return known;
    const e = this.elements.get(name);
    if (!e || depth > 12) return { ...PLAIN, name: readable(name) };
    const parent = this.of(e.attrs['style:parent-style-name'], depth + 1);
    const own = e.attrs['style:display-name'] ?? readable(name);
    const automatic = /^[PT]\d+$/.test(name);
    const look = { ...lookOf(e, parent), name: automatic ? parent.name : own };
    look.outline = Number(e.attrs['style:default-outline-level'] ?? 0) || parent.outline;
    this.known.set(name, look);
    return look;
  }
}

function lookOf(e: XmlElement, parent: OdtLook): OdtLook {
  // A break belongs to the style that names it, and the automatic styles made from it.
  const look: OdtLook = { ...parent };
  for (const p of e.children) {
    if (typeof p === 'string') continue;
    const a = p.attrs;
    if (p.name === 'paragraph-properties') {
      if (a['fo:text-align']) look.align = ALIGN[a['fo:text-align']] ?? '';
      if (a['fo:break-before']) look.breakBefore = a['fo:break-before'] === 'page';
      if (a['fo:margin-left']) look.indented = points(a['fo:margin-left']) >= 15;
    }
    if (p.name !== 'text-properties') continue;
    if (a['fo:font-weight']) look.bold = /bold|[6-9]00/.test(a['fo:font-weight']);
    if (a['fo:font-style']) look.italic = /italic|oblique/.test(a['fo:font-style']);
    if (a['fo:font-variant']) look.smallCaps = a['fo:font-variant'] === 'small-caps';
    if (a['style:text-underline-style']) look.underline = a['style:text-underline-style'] !== 'none';
    if (a['style:text-line-through-style']) look.strike = a['style:text-line-through-style'] !== 'none';
    const face = a['style:font-name'] ?? a['fo:font-family'];
    if (face) look.monospace = /courier|consolas|mono|menlo/i.test(face);
    const size = a['fo:font-size'] ?? '';
    if (size.endsWith('%')) look.size = ((parent.size || 12) * parseFloat(size)) / 100;
    else if (size) look.size = points(size);
    const position = a['style:text-position'] ?? '';
    if (position)
      look.script = /^(super|[1-9])/.test(position) ? 'super' : /^(sub|-)/.test(position) ? 'sub' : '';
    if (a['fo:color']) look.coloured = !/^#0{6}$/.test(a['fo:color']);
    const behind = a['fo:background-color'];
    if (behind) look.highlighted = !/^(?:transparent|#f{6})$/i.test(behind);
    const language = a['fo:language'];
    if (language && language !== 'none' && language !== 'zxx')
      look.language =
        a['fo:country'] && a['fo:country'] !== 'none' ? `${language}-${a['fo:country']}` : language;
  }
  return look;
}
