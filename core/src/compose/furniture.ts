/** Heads and folios: what the interior puts on versos and rectos, folios in the head or at the foot; a foot folio where a section opens. */
import { kindRule, type Section } from '../book';
import type { Mp } from '../base';
import type { Side } from './composition';
import type { ParagraphForm, Setter } from './setter';
import type { LinePart } from './lineparts';
import { mannerOf } from './stack';
import { EMPTY_SHEET, FURNITURE, SheetWriter, type Sheet } from './sheet';

export interface HeadWords {
  verso: string;
  recto: string;
}

function line(
  s: Setter,
  text: string,
  form: ParagraphForm,
  y: number,
  out: SheetWriter,
  part: LinePart = 'heads.folio',
): void {
  const p = s.plain(text, form, '', part);
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
  const { heads, text } = interior;
  if (opens && (!rule.folio || heads.opening === 'none' || heads.folio === 'none')) return EMPTY_SHEET;
  const out = new SheetWriter();
  const manner = mannerOf(heads.line);
  const form = s.alone(manner, 'centre');
  const folioForm: ParagraphForm = {
    ...form,
    manner: { ...manner, smallCaps: false, capitals: false, tracking: 0 },
  };
  const foreEdge = side === 'recto' ? 'right' : 'left';
  const foot = interior.trim.height - Math.round(interior.margins.bottom * 0.48);
  const footFolio = (): void =>
    line(
      s,
      label,
      { ...folioForm, align: heads.folio === 'foot-fore-edge' ? foreEdge : 'centre' },
      foot,
      out,
    );
  if (opens) {
    footFolio();
    return out.done();
  }
  const y = headLine(interior);
  if (rule.folio) {
    if (heads.folio === 'head') line(s, label, { ...folioForm, align: foreEdge }, y, out);
    else if (heads.folio !== 'none') footFolio();
  }
  const shown = side === 'recto' ? words.recto : words.verso;
  if (!rule.runningHead || !shown) return out.done();
  const head = heads.line.letters === 'small-capitals' ? shown.toLowerCase() : shown;
  line(s, fitted(s, head, form, s.measure - 60_000), form, y, out, 'heads.line');
  if (heads.rule)
    out.item(
      { kind: 'rule', x: 0, row: 0, dy: 0, width: s.measure, thickness: 400 },
      y + Math.round(text.leading * 0.42),
    );
  return out.done();
}

/** Baseline of the head: two fifths of a line above the air that the first line of text needs. */
const HEAD_ABOVE = 17_000;
function headLine({ margins, text }: Setter['interior']): Mp {
  const above = Math.min(HEAD_ABOVE, Math.round(margins.top * 0.4));
  return margins.top + Math.round(text.leading * 0.76) - above - Math.round(text.leading * 0.4);
}
