/** Heads and folios: the title on versos, the chapter on rectos, folios at the fore-edge; a foot folio where a section opens. */
import { kindRule, type Section } from '../book';
import type { Placed, Side } from './composition';
import type { ParagraphForm, Setter } from './setter';

export interface HeadWords {
  verso: string;
  recto: string;
}

function line(s: Setter, text: string, form: ParagraphForm, y: number): Placed[] {
  const p = s.plain(text, form);
  return s
    .items(p, s.break(p, form), form)
    .slice(0, 1)
    .map((item) => ({ item, y }));
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
): Placed[] {
  const rule = kindRule(section.kind);
  const { interior } = s;
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
    if (!rule.folio) return [];
    const foot = interior.page.height - Math.round(interior.margins.bottom * 0.48);
    return line(s, label, { ...folioForm, align: 'centre' }, foot);
  }
  const y =
    interior.margins.top +
    Math.round(interior.text.leading * 0.76) -
    interior.head.above -
    Math.round(interior.text.leading * 0.4);
  const placed: Placed[] = [];
  if (rule.folio)
    placed.push(...line(s, label, { ...folioForm, align: side === 'recto' ? 'right' : 'left' }, y));
  const text = side === 'recto' ? words.recto : words.verso;
  if (rule.runningHead && text)
    placed.push(...line(s, fitted(s, text.toLowerCase(), headForm, s.measure - 60_000), headForm, y));
  return placed;
}
