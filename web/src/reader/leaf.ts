/** A document of an ebook as it lies in a frame: laid out, moved through by screens, asked what is in sight. */
import { faceSheet, type Box } from './dress';
import { TextMap } from './texts';
import { viewportOf } from './viewport';

/** Where to go in a document. */
export type Spot = { offset: number; top?: number } | { id: string } | 'start' | 'end';

/** Pixels that a scroll leaves above the line it goes to. */
const ABOVE = 12;

/** Values that begin a new page on paper; among columns, only `column` does (CSS Fragmentation 3 §3.1). */
const NEW_PAGE = /^(page|left|right|recto|verso|always)$/;

export class Leaf {
  readonly texts: TextMap;
  private box: Box | null = null;
  private css = '';
  private turned = true;
  private readonly sheet: CSSStyleSheet;
  /** Indices of nodes that can be seen, found out as they are asked for. */
  private readonly inked: number[];

  constructor(
    readonly document: Document,
    private readonly window: Window & typeof globalThis,
    /** Its page has a size of its own, and is one screen whatever the reader wants. */
    readonly fixed: boolean,
  ) {
    this.texts = new TextMap(document);
    this.inked = this.texts.nodes.flatMap((n, i) => (/\S/.test(n.data) ? [i] : []));
    this.sheet = new window.CSSStyleSheet();
    const faces = new window.CSSStyleSheet();
    faces.replaceSync(faceSheet());
    document.adoptedStyleSheets = [faces, this.sheet];
    if (!fixed) breakIntoColumns(document);
  }

  /** The size of a fixed page, in the pixels of its document; null where it names none. */
  get viewport(): { width: number; height: number } | null {
    return viewportOf(this.document);
  }

  /** Whether the document could be read as XML at all; Chromium shows a message of its own in its place. */
  get broken(): boolean {
    return this.document.querySelector('parsererror') !== null;
  }

  dress(css: string, box: Box, turned: boolean): void {
    this.box = box;
    this.turned = turned;
    if (css !== this.css) this.sheet.replaceSync((this.css = css));
    this.reachEnd();
  }
  /** Two columns may end on a screen's first: the second is there all the same, and empty. */
  private reachEnd(): void {
    const { document: d } = this;
    d.querySelector('[data-reader-end]')?.remove();
    if (!this.turned || !this.box || this.box.columns === 1) return;
    const end = d.createElementNS('http://www.w3.org/1999/xhtml', 'div');
    end.setAttribute('data-reader-end', '');
    const left = this.screens * this.stride - this.box.gap - 1;
    end.setAttribute('style', `position: absolute; top: 0; left: ${left}px; width: 1px; height: 1px`);
    d.documentElement.append(end);
  }

  private get root(): Element {
    return this.document.scrollingElement ?? this.document.documentElement;
  }
  private get stride(): number {
    const { width, gap } = this.box ?? { width: 1, gap: 0 };
    return width + gap;
  }
  /** Columns go to the left in a document that reads to the left. */
  private get sign(): 1 | -1 {
    return this.window.getComputedStyle(this.document.documentElement).direction === 'rtl' ? -1 : 1;
  }

  get screens(): number {
    if (!this.box || this.fixed) return 1;
    return this.turned
      ? Math.max(1, Math.ceil((this.root.scrollWidth + this.box.gap - 2) / this.stride))
      : Math.max(1, Math.ceil((this.root.scrollHeight - 1) / this.step));
  }
  /** The screen in sight, from 0. */
  get screen(): number {
    if (this.fixed) return 0;
    return this.turned
      ? Math.round((this.window.scrollX * this.sign) / this.stride)
      : Math.min(this.screens - 1, Math.ceil((this.window.scrollY - 1) / this.step));
  }
  /** A scroll moves on by a little less than what was in sight. */
  private get step(): number {
    return Math.max(1, Math.floor(this.window.innerHeight * 0.9));
  }

  showScreen(n: number): void {
    const to = Math.max(0, Math.min(this.screens - 1, n));
    if (this.turned) this.window.scrollTo({ left: to * this.stride * this.sign, behavior: 'instant' });
    else this.window.scrollTo({ top: to * this.step, behavior: 'instant' });
  }
  /** Moves on by screens; false where the document has no more of them. */
  turn(by: number): boolean {
    if (this.fixed) return false;
    if (this.turned) {
      const to = this.screen + by;
      if (to < 0 || to >= this.screens) return false;
      this.showScreen(to);
      return true;
    }
    const before = this.window.scrollY;
    this.window.scrollBy({ top: by * this.step, behavior: 'instant' });
    return Math.abs(this.window.scrollY - before) > 1;
  }

  show(spot: Spot): void {
    if (this.fixed) return;
    if (spot === 'start') return this.showScreen(0);
    if (spot === 'end') return this.showScreen(this.screens - 1);
    const rect = 'id' in spot ? this.rectOf(spot.id) : this.rectAt(spot.offset);
    if (!rect) return;
    if (this.turned) this.showScreen(this.screenOf(rect));
    else {
      const above = (typeof spot === 'object' && 'top' in spot ? spot.top : undefined) ?? ABOVE;
      this.window.scrollTo({ top: rect.top + this.window.scrollY - above, behavior: 'instant' });
    }
  }
  /** The character at which a spot stands; null where only the screen tells. */
  placeOf(spot: Spot): number | null {
    if (typeof spot === 'string') return null;
    return 'id' in spot ? (this.texts.ids.get(spot.id) ?? null) : spot.offset;
  }
  private rectOf(id: string): DOMRect | undefined {
    const element = this.document.getElementById(id);
    // A mark of a page is empty: the place it stands at is told by the words behind it.
    return element?.getClientRects()[0] ?? this.rectAt(this.texts.ids.get(id) ?? 0);
  }
  /** White space has no place of its own: that of the text behind it, or before it at the end, is taken. */
  private rectAt(offset: number): DOMRect | undefined {
    const { texts } = this;
    const first = (from: number, to: number): DOMRect | undefined =>
      texts.range(from, to)?.getClientRects()[0];
    const own = first(offset, offset + 1);
    if (own) return own;
    const behind = this.inked.find((i) => (texts.starts[i] as number) >= offset);
    const last = this.inked.at(-1);
    const node = behind ?? last;
    if (node === undefined) return undefined;
    const start = texts.starts[node] as number;
    const end = start + (texts.nodes[node] as Text).data.trimEnd().length;
    return behind === undefined ? first(end - 1, end) : first(start, end);
  }
  private screenOf(rect: DOMRect): number {
    const from = this.sign > 0 ? rect.left : this.window.innerWidth - rect.right;
    return Math.floor((from + this.window.scrollX * this.sign + 1) / this.stride);
  }

  /** What is in sight as a spot, to come back to when the document is laid out anew. */
  spot(): { offset: number; top: number } {
    const offset = this.offset();
    return { offset, top: this.rectAt(offset)?.top ?? ABOVE };
  }
  /** The first character in sight: by halves, since text goes on from screen to screen. */
  offset(): number {
    if (this.fixed) return 0;
    const now = this.screen;
    const reached = (rect: DOMRect | undefined): boolean | null =>
      rect ? (this.turned ? this.screenOf(rect) >= now : rect.bottom > 1) : null;
    const node = (i: number): boolean => {
      for (let k = i; k < this.inked.length; k++) {
        const text = this.texts.nodes[this.inked[k] as number] as Text;
        const range = this.document.createRange();
        range.selectNodeContents(text);
        const seen = reached([...range.getClientRects()].at(-1));
        if (seen !== null) return seen;
      }
      return true;
    };
    const first = firstWhere(this.inked.length, node);
    const at = this.inked[first];
    if (at === undefined) return this.texts.length;
    const text = this.texts.nodes[at] as Text;
    const range = this.document.createRange();
    const within = firstWhere(text.length, (i) => {
      range.setStart(text, i);
      range.setEnd(text, i + 1);
      return reached(range.getClientRects()[0]) ?? false;
    });
    return (this.texts.starts[at] as number) + Math.min(within, Math.max(0, text.length - 1));
  }

  /** Marks what was found. */
  mark(from: number, to: number): void {
    const range = this.texts.range(from, to);
    if (range) this.window.CSS.highlights.set('found', new this.window.Highlight(range));
  }
  unmark(): void {
    this.window.CSS.highlights.delete('found');
  }
}

/** The first number below `count` for which `holds` is true, where it holds for all after that; `count` where for none. */
function firstWhere(count: number, holds: (i: number) => boolean): number {
  let low = 0;
  let high = count;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (holds(middle)) high = middle;
    else low = middle + 1;
  }
  return low;
}

function breakIntoColumns(document: Document): void {
  const each = (style: CSSStyleDeclaration): void => {
    for (const side of ['break-before', 'break-after'])
      if (NEW_PAGE.test(style.getPropertyValue(side))) style.setProperty(side, 'column');
  };
  const rules = (list: CSSRuleList): void => {
    for (const rule of list) {
      if ('style' in rule) each(rule.style as CSSStyleDeclaration);
      if ('cssRules' in rule) rules(rule.cssRules as CSSRuleList);
    }
  };
  for (const sheet of document.styleSheets) {
    try {
      rules(sheet.cssRules);
    } catch {
      // A sheet that could not be fetched has no rules.
    }
  }
  for (const e of document.querySelectorAll<HTMLElement>('[style*="break-"]')) each(e.style);
}
