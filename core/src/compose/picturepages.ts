/**
 * Pages of a picture book: each is drawn as it was laid out, picture, panels and words at their places. Nothing flows from one
 * to the next; words that their box does not hold run on below it, and are reported.
 */
import type { Node } from 'prosemirror-model';
import { inches, type Mp, type Place } from '../base';
import { boxAttrs, pageAttrs, type Frame, type Picture, type Section, type TextBoxAttrs } from '../book';
import type { FamilyFiles } from '../type';
import { BLEED, type Manner, type ParagraphForm, type Setter } from './blocks';
import type { LineItem, MadeWords, PictureItem, RuleItem } from './lines';
import type { BoxFault, SectionPage, SectionPages } from './sectionpages';
import { SheetWriter, type Side } from './sheets';

/** How far words keep from the paper's edges, and from the fold on each side of it (common practice). */
export const SAFE: { edge: Mp; fold: Mp } = { edge: inches(0.25), fold: inches(0.375) };

interface Rect {
  x: Mp;
  y: Mp;
  width: Mp;
  height: Mp;
}

export interface PictureSetting {
  s: Setter;
  pictures: ReadonlyMap<string, Picture>;
  /** Typefaces that boxes ask for, by their names. */
  families: ReadonlyMap<string, FamilyFiles>;
  words: Pick<MadeWords, 'reference' | 'captionLabel'>;
}

/** Where each picture page falls among the pages of its section. */
export interface PageOffset {
  id: string;
  /** The first of its pages, from 0, and how many they are. */
  from: number;
  count: 1 | 2;
}

/** Counts the pages of a section that begins on that side: one across a spread begins on a verso, after a blank if need be. */
export function pageOffsets(content: Node, starts: Side): PageOffset[] {
  const found: PageOffset[] = [];
  let next = 0;
  content.forEach((page) => {
    const { id, across } = pageAttrs(page);
    const recto = (next % 2 === 0) === (starts === 'recto');
    if (across && recto) next++;
    found.push({ id, from: next, count: across ? 2 : 1 });
    next += across ? 2 : 1;
  });
  return found;
}

/** The pages of a section; one that is laid out across a spread begins on a verso, after a blank where it must. */
export function picturePagesOf(setting: PictureSetting, section: Section, starts: Side): SectionPages {
  const pages: SectionPage[] = [];
  const faults: BoxFault[] = [];
  const missing: { char: string; place: Place }[] = [];
  const sideOf = (i: number): Side => ((i % 2 === 0) === (starts === 'recto') ? 'recto' : 'verso');
  const add = (out: SheetWriter, bleeds: boolean): void =>
    void pages.push({ body: out.done(), used: 0, shortfall: 0, covered: true, bleeds });
  const offsets = pageOffsets(section.content, starts);
  section.content.forEach((page, _o, i) => {
    const { from = 0, count = 1 } = offsets[i] ?? {};
    if (pages.length < from) add(new SheetWriter(), false);
    for (let half = 0; half < count; half++) {
      const out = new SheetWriter();
      const side = sideOf(pages.length);
      const one = new OnePage(setting, page, side, half);
      for (const fault of one.write(out)) faults.push({ ...fault, page: pages.length });
      for (const { char, block } of out.missing)
        missing.push({ char, place: { section: section.id, block } });
      add(out, one.bleeds);
    }
  });
  return { section: section.id, pages, faults, missing, lostNotes: 0 };
}

const inkNumber = (colour: string): number => Number.parseInt(colour.slice(1), 16);

class OnePage {
  /** Of the whole that is laid out: one page, or two. */
  private readonly width: Mp;
  private readonly height: Mp;
  /** From the left of the type area to the left of the whole. */
  private readonly left: Mp;
  private readonly across: boolean;
  /** Something reaches over the paper's edges. */
  bleeds = false;

  constructor(
    private readonly setting: PictureSetting,
    private readonly page: Node,
    side: Side,
    private readonly half: number,
  ) {
    const { trim, margins } = setting.s.interior;
    this.across = pageAttrs(page).across;
    this.width = this.across ? 2 * trim.width : trim.width;
    this.height = trim.height;
    this.left = -(side === 'recto' ? margins.inside : margins.outside) - half * trim.width;
  }

  write(out: SheetWriter): Omit<BoxFault, 'page'>[] {
    const { ground } = pageAttrs(this.page);
    if (ground !== '') this.fill(out, ground, this.bled([0, 0, 1000, 1000]));
    this.picture(out);
    const faults: Omit<BoxFault, 'page'>[] = [];
    this.page.forEach((box) => {
      const attrs = boxAttrs(box);
      // A panel may lie across the fold; its words are set once, on the page that holds its middle.
      if (attrs.ground !== '') this.fill(out, attrs.ground, this.bled(attrs.frame));
      const [x, , width] = attrs.frame;
      if (this.across && (x + width / 2 < 500 ? 0 : 1) !== this.half) return;
      faults.push(...this.words(out, box, attrs));
    });
    return faults;
  }

  private rect([x, y, width, height]: Frame): Rect {
    const across = (n: number): Mp => Math.round((n * this.width) / 1000);
    const down = (n: number): Mp => Math.round((n * this.height) / 1000);
    return {
      x: across(x),
      y: down(y),
      width: across(x + width) - across(x),
      height: down(y + height) - down(y),
    };
  }

  /** A frame that reaches an edge of the paper goes on over it. */
  private bled(frame: Frame): Rect {
    const { x, y, width, height } = this.rect(frame);
    const [left, top] = [x <= 0 ? -BLEED : x, y <= 0 ? -BLEED : y];
    const right = x + width >= this.width ? this.width + BLEED : x + width;
    const foot = y + height >= this.height ? this.height + BLEED : y + height;
    this.bleeds ||= left < 0 || top < 0 || right > this.width || foot > this.height;
    return { x: left, y: top, width: right - left, height: foot - top };
  }

  private fill(out: SheetWriter, colour: string, { x, y, width, height }: Rect): void {
    const item: RuleItem = { kind: 'rule', x: this.left + x, row: 0, dy: 0, width, thickness: height };
    out.ink(inkNumber(colour));
    out.item(item, y);
  }

  private picture(out: SheetWriter): void {
    const { picture: id, frame, fit, crop, alt } = pageAttrs(this.page);
    const picture = this.setting.pictures.get(id);
    if (!picture) return;
    const seen = fit === 'fill' ? this.bled(frame) : this.rect(frame);
    const scales = [seen.width / picture.width, seen.height / picture.height];
    const scale = fit === 'fill' ? (Math.max(...scales) * crop.zoom) / 100 : Math.min(...scales);
    const [width, height] = [Math.round(picture.width * scale), Math.round(picture.height * scale)];
    const item: PictureItem = {
      kind: 'picture',
      picture: id,
      alt,
      mask: 0,
      x: this.left + seen.x + Math.round(((seen.width - width) * crop.x) / 1000),
      row: 0,
      dy: 0,
      width,
      height,
    };
    if (fit === 'fill') out.window({ ...seen, x: this.left + seen.x });
    out.item(item, seen.y + Math.round(((seen.height - height) * crop.y) / 1000));
  }

  private words(out: SheetWriter, box: Node, attrs: TextBoxAttrs): Omit<BoxFault, 'page'>[] {
    const frame = this.rect(attrs.frame);
    const size = attrs.size * 100;
    // Words on a panel keep off its edges.
    const pad = attrs.ground === '' ? 0 : Math.min(Math.round(size / 2), frame.width >> 2, frame.height >> 2);
    const room = {
      x: frame.x + pad,
      y: frame.y + pad,
      width: frame.width - 2 * pad,
      height: frame.height - 2 * pad,
    };
    const { lines, height } = this.lines(box, attrs, size, room.width);
    if (lines.length === 0) return [];
    const over = room.height - height;
    const down = attrs.stand === 'head' || over < 0 ? 0 : attrs.stand === 'foot' ? over : over >> 1;
    out.ink(inkNumber(attrs.colour));
    for (const { item, y } of lines) out.item(item(this.left + room.x), room.y + down + y);
    const block = (box.firstChild as Node).attrs.id as string;
    const words = { ...room, y: room.y + down, height };
    return [
      ...(over < -SLACK ? [{ kind: 'overset' as const, block }] : []),
      ...(this.isSafe(words) ? [] : [{ kind: 'unsafe' as const, block }]),
    ];
  }

  /** Lines with their baselines from the head of the first, and the height of all. */
  private lines(
    box: Node,
    { lineSpace, align, face, bold, lang }: TextBoxAttrs,
    size: Mp,
    measure: Mp,
  ): { lines: { item: (x: Mp) => LineItem; y: Mp }[]; height: Mp } {
    const { s, families, words } = this.setting;
    const leading = Math.round((size * lineSpace) / 100);
    const manner: Manner = { size, bold, family: families.get(face), language: lang || undefined };
    const made: MadeWords = { ...words, noteMark: () => '*' };
    const lines: { item: (x: Mp) => LineItem; y: Mp }[] = [];
    let y = Math.round(size * ASCENT);
    let any = false;
    box.forEach((p, _o, i) => {
      if (i > 0) y += leading + (any ? leading >> 1 : 0);
      if (p.content.size === 0) return;
      any = true;
      // A word wider than its box is hyphenated; no other is.
      for (const hyphenate of [false, true]) {
        const form: ParagraphForm = { manner, indent: 0, measure, x: 0, align, hyphenate };
        const paragraph = s.paragraph(p, form, made);
        const broken = s.break(paragraph, form);
        if (!hyphenate && broken.lines.some((l) => l.toCut !== 0)) continue;
        broken.lines.forEach((_l, row) => {
          const item = (x: Mp): LineItem => s.items(paragraph, broken, { ...form, x })[row] as LineItem;
          lines.push({ item, y: y + row * leading });
        });
        y += (broken.lines.length - 1) * leading;
        break;
      }
    });
    return { lines, height: y + Math.round(size * (1 - ASCENT)) };
  }

  private isSafe({ x, y, width, height }: Rect): boolean {
    const { edge, fold } = SAFE;
    const middle = this.width / 2;
    const inFold = this.across && x < middle + fold && x + width > middle - fold;
    return (
      !inFold && x >= edge && x + width <= this.width - edge && y >= edge && y + height <= this.height - edge
    );
  }
}

/** What of a line stands above its baseline, as a share of its size. */
const ASCENT = 0.78;
/** A box is full only beyond this. */
const SLACK: Mp = 1_000;
