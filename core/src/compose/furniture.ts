/** Heads and folios: what the interior puts on versos and rectos, folios in the head or at the foot; a foot folio where a section opens. */
import { kindRule, type Section } from '../book';
import type { Mp } from '../base';
import type { Side } from './sheets';
import type { LineItem } from './lines';
import type { ParagraphForm, Setter } from './blocks';
import type { LinePart } from './lines';
import { mannerOf } from './blocks';
import { EMPTY_SHEET, FURNITURE, SheetWriter, type Sheet } from './sheets';

export interface HeadWords {
  verso: string;
  recto: string;
}

function lineOf(s: Setter, text: string, form: ParagraphForm, part: LinePart): LineItem | undefined {
  const p = s.plain(text, form, '', part);
  return s.items(p, s.break(p, form), form)[0];
}

/** Shortens a head to the measure at a word, with an ellipsis. */
function fitted(s: Setter, text: string, form: ParagraphForm, most: number): string {
  const width = (t: string): number => s.plain(t, form).pieces.reduce((n, p) => n + p.width, 0);
  if (width(text) <= most) return text;
  const words = text.split(' ');
  while (words.length > 1 && width(`${words.join(' ')} …`) > most) words.pop();
  return `${words.join(' ')} …`;
}

/** Furniture of a setter's pages by what stands in it, and its heads by their words: a book has the same ones again and again. */
interface Made {
  sheets: Map<string, Sheet>;
  heads: Map<string, LineItem | undefined>;
}
const made = new WeakMap<Setter, Made>();
/** More are no open book's, but those of numbers long past. */
const MOST = 20_000;

export function furnitureOf(
  s: Setter,
  section: Section,
  side: Side,
  label: string,
  opens: boolean,
  words: HeadWords,
): Sheet {
  let known = made.get(s);
  if (!known || known.sheets.size > MOST) made.set(s, (known = { sheets: new Map(), heads: new Map() }));
  const shown = side === 'recto' ? words.recto : words.verso;
  const key = `${section.kind}/${side}/${opens}/${label}/${shown}`;
  let sheet = known.sheets.get(key);
  if (!sheet) known.sheets.set(key, (sheet = sheetOf(s, section, side, label, opens, shown, known.heads)));
  return sheet;
}

function sheetOf(
  s: Setter,
  section: Section,
  side: Side,
  label: string,
  opens: boolean,
  shown: string,
  known: Made['heads'],
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
  const folio = (align: LineItem['align'], at: Mp): void => {
    const item = lineOf(s, label, { ...folioForm, align }, 'heads.folio');
    if (item) out.item(item, at, FURNITURE);
  };
  const footFolio = (): void => folio(heads.folio === 'foot-fore-edge' ? foreEdge : 'centre', foot);
  if (opens) {
    footFolio();
    return out.done();
  }
  const y = headLine(interior);
  if (rule.folio) {
    if (heads.folio === 'head') folio(foreEdge, y);
    else if (heads.folio !== 'none') footFolio();
  }
  if (!rule.runningHead || !shown) return out.done();
  const head = heads.line.letters === 'small-capitals' ? shown.toLowerCase() : shown;
  let item = known.get(head);
  if (!item)
    known.set(head, (item = lineOf(s, fitted(s, head, form, s.measure - 60_000), form, 'heads.line')));
  if (item) out.item(item, y, FURNITURE);
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
