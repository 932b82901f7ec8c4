/** A document as it lies on the table: its passages by their number, room made beneath one of them, the text kept as its source is. */
import { dress, faceSheet } from '@/reader/dress';
import { LIGHTS, type ReadingSettings } from '@/reader/settings';
import { patch } from './patch';

/** How a document is shown: as a reading program does that changes nothing of it. */
const PLAIN: ReadingSettings = {
  screen: 'room',
  beside: 'none',
  moves: 'scrolled',
  face: 'own',
  type: 100,
  leading: 'own',
  margins: 'medium',
  light: 'day',
  notes: 'followed',
};
/** Around the text, in pixels. */
const AROUND = 48;

export interface Rect {
  top: number;
  left: number;
  width: number;
  height: number;
}

export class Page {
  private readonly gap: CSSStyleSheet;

  constructor(
    readonly document: Document,
    private readonly window: Window & typeof globalThis,
    readonly fixed: boolean,
  ) {
    const sheet = (css: string): CSSStyleSheet => {
      const s = new window.CSSStyleSheet();
      s.replaceSync(css);
      return s;
    };
    this.gap = sheet('');
    const own = fixed
      ? []
      : [
          sheet(faceSheet()),
          sheet(dress(PLAIN, { width: 0, height: 0, columns: 1, gap: 0, padding: AROUND }, LIGHTS.day.paper)),
          sheet(':root { overflow: hidden !important; }'),
        ];
    document.adoptedStyleSheets = [...own, this.gap];
  }
  /** Whether the source could be read as XML at all. */
  get broken(): boolean {
    return !this.root || this.document.querySelector('parsererror') !== null;
  }
  /** Null of an empty file. */
  get root(): Element | null {
    return this.document.documentElement;
  }
  /** The element of a number in document order. */
  element(n: number): Element | null {
    return this.document.getElementsByTagName('*')[n] ?? null;
  }
  numberOf(e: Element): number {
    return Array.prototype.indexOf.call(this.document.getElementsByTagName('*'), e);
  }
  /** Where an element lies on the page. */
  rect(n: number): Rect | null {
    const e = this.element(n);
    if (!e) return null;
    const r = e.getBoundingClientRect();
    // What shows nothing of its own has a place by what it holds.
    const around = r.width > 0 || r.height > 0 ? r : (e.parentElement?.getBoundingClientRect() ?? r);
    return {
      top: around.top + this.window.scrollY,
      left: around.left,
      width: around.width,
      height: around.height,
    };
  }
  /** Makes room of so many pixels beneath an element, by a rule, so that the document stays as it is. */
  makeRoom(n: number | null, height: number): void {
    this.gap.replaceSync('');
    const e = n === null || this.fixed ? null : this.element(n);
    if (!e || height === 0) return;
    const path: string[] = [];
    for (let at: Element | null = e; at?.parentElement; at = at.parentElement)
      path.unshift(`*:nth-child(${Array.prototype.indexOf.call(at.parentElement.children, at) + 1})`);
    const selector = [':root', ...path].join(' > ');
    const own = parseFloat(this.window.getComputedStyle(e).marginBottom) || 0;
    this.gap.replaceSync(
      /^t(r|head|body|foot|d|h)$/i.test(e.localName)
        ? `${selector}${e.localName === 'tr' ? ' > *' : ''} { padding-bottom: ${height}px !important; }`
        : `${selector} { margin-bottom: ${own + height}px !important; }`,
    );
  }
  /** The height of all there is. */
  get height(): number {
    const { body, documentElement } = this.document;
    const held = body ?? (documentElement as HTMLElement | null);
    if (!held) return 0;
    const margin = body ? parseFloat(this.window.getComputedStyle(body).marginBottom) || 0 : 0;
    return Math.ceil(held.getBoundingClientRect().bottom + this.window.scrollY + margin);
  }
  /** Takes another tree of the document over. */
  take(parsed: Document): void {
    if (this.root) patch(this.root, parsed.documentElement);
  }
}

/** A source as a tree; null where it is not well-formed. */
export function parsed(source: string, type: string): Document | null {
  const as = type === 'image/svg+xml' ? type : 'application/xhtml+xml';
  const document = new DOMParser().parseFromString(source, as);
  return document.querySelector('parsererror') ? null : document;
}
