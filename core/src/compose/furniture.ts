/** Heads and folios: the title on versos, the chapter on rectos, folios at the fore-edge; a foot folio where a section opens. */
import { kindRule, type Section } from '../book';
import type { Side } from './composition';
import type { ParagraphForm, Setter } from './setter';
import { EMPTY_SHEET, FURNITURE, SheetWriter, type Sheet } from './sheet';

export interface HeadWords {
  verso: string;
  recto: string;
}

function line(s: Setter, text: string, form: ParagraphForm, y: number, out: SheetWriter): void {
  const p = s.plain(text, form);
  const [item] = s.items(p, s.break(p, form), form);
  if (item) out.item(item, y, FURNITURE);
}

/** Shortens a head to the measure at a word, with an ellipsis. */
function fitted(s: Setter, text: string, form: ParagraphForm, most: number): string {
  const width = (t: string): number => s.plain(t, form).pieces.reduce((n, p) => n + p.width, 0);
  if (width(text) <= most) return text;
  const words = text.split(' ');
  while (words.length > 1 && width(`${words.join(' ')} …`) > most) words.pop();
  return `${words.join(' ')} …`;
}

export function furnitureOf(
  s: Setter,
  section: Section,
  side: Side,
  label: string,
  opens: boolean,
  words: HeadWords,
): Sheet {
  const rule = kindRule(section.kind);
  const { interior } = s;
  const out = new SheetWriter();
  const headForm: ParagraphForm = {
    manner: { size: interior.head.size, smallCaps: true, tracking: 500 },
    indent: 0,
    measure: s.measure,
    x: 0,
    align: 'centre',
    hyphenate: false,
  };
  const folioForm: ParagraphForm = { ...headForm, manner: { size: interior.head.size } };
  if (opens) {
    if (!rule.folio) return EMPTY_SHEET;
    const foot = interior.page.height - Math.round(interior.margins.bottom * 0.48);
    line(s, label, { ...folioForm, align: 'centre' }, foot, out);
    return out.done();
  }
  const y =
    interior.margins.top +
    Math.round(interior.text.leading * 0.76) -
    interior.head.above -
    Math.round(interior.text.leading * 0.4);
  if (rule.folio) line(s, label, { ...folioForm, align: side === 'recto' ? 'right' : 'left' }, y, out);
  const text = side === 'recto' ? words.recto : words.verso;
  if (rule.runningHead && text)
    line(s, fitted(s, text.toLowerCase(), headForm, s.measure - 60_000), headForm, y, out);
  return out.done();
}
