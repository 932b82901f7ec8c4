/** How the running text of a section looks, and what stands apart from it. */
import { countWords } from '../../base';
import { isEmpty, isText, type RawBlock, type RawParagraph } from '../raw';

/** Words from which a paragraph is running text. */
const RUNNING = 22;

const lookOf = (p: RawParagraph): string =>
  `${p.indented} ${p.italic} ${p.align === 'justify' ? 'left' : p.align}`;

export class Setting {
  /** How most of the running text looks; what has another look stands apart. */
  private readonly usual: string;
  /** White space that most of the running text begins with. */
  private readonly typed: string;
  private readonly size: number;

  constructor(
    readonly body: readonly RawBlock[],
    /** Blocks that are headings within the section. */
    private readonly isHead: (at: number) => boolean,
    /** The running text of the whole manuscript, for sections that have next to none. */
    whole: readonly RawBlock[],
  ) {
    const own = usualOf(body);
    const all = own.weight >= 3 * RUNNING ? own : usualOfWhole(whole);
    this.typed = all.typed;
    this.usual = all.look;
    this.size = all.size;
  }

  /** The paragraph with text at an index; null for anything else: pictures, tables, lists, headings, nothing. */
  text(at: number): RawParagraph | null {
    const b = this.body[at];
    return isText(b) && !isEmpty(b) && b.pictures.length === 0 && !b.list && !this.isHead(at) ? b : null;
  }
  isBlank(at: number): boolean {
    return at >= 0 && at < this.body.length && isEmpty(this.body[at]);
  }

  /** Indented, in italics or ranged otherwise, unlike the running text. */
  apart(p: RawParagraph): boolean {
    return lookOf(p) !== this.usual;
  }
  /** Moved in by spaces or a tab, unlike the running text. */
  movedIn(p: RawParagraph): boolean {
    const typed = typedIn(p.text);
    return typed !== '' && typed !== this.typed;
  }
  smaller(p: RawParagraph): boolean {
    return p.size > 0 && this.size > 0 && p.size < this.size * 0.95;
  }
  /** Whether two paragraphs are set alike. */
  alike(a: RawParagraph, b: RawParagraph): boolean {
    return lookOf(a) === lookOf(b);
  }

  /** The index after the pictures and blank lines at the head. */
  afterPictures(): number {
    let at = 0;
    for (let b = this.body[at]; isText(b) && b.text.trim() === ''; b = this.body[at]) at++;
    return at;
  }
  /** The next index with anything in it, and the blank lines passed. */
  next(from: number): { at: number; blanks: number } {
    let at = from;
    while (this.isBlank(at)) at++;
    return { at, blanks: at - from };
  }
}

/** That of the whole manuscript is asked for by every short section of it. */
const known = new WeakMap<readonly RawBlock[], ReturnType<typeof usualOf>>();
function usualOfWhole(whole: readonly RawBlock[]): ReturnType<typeof usualOf> {
  let found = known.get(whole);
  if (!found) known.set(whole, (found = usualOf(whole)));
  return found;
}

/** How a paragraph’s text is moved in by what was typed before it: spaces, tabs, or nothing. */
const typedIn = (text: string): string => {
  const white = /^[ \t\u00a0]*/.exec(text)?.[0] ?? '';
  return white.includes('\t') ? '\t'.repeat(white.split('\t').length - 1) : white.length > 1 ? ' ' : '';
};

function usualOf(blocks: readonly RawBlock[]): {
  look: string;
  size: number;
  weight: number;
  typed: string;
} {
  const typed = new Map<string, number>();
  const weights = new Map<string, { n: number; sizes: Map<number, number> }>();
  for (const b of blocks) {
    if (!isText(b) || b.list || b.outline > 0) continue;
    const n = countWords(b.text);
    if (n < RUNNING || b.text.includes('\n')) continue;
    const w = weights.get(lookOf(b)) ?? { n: 0, sizes: new Map<number, number>() };
    w.n += n;
    typed.set(typedIn(b.text), (typed.get(typedIn(b.text)) ?? 0) + n);
    w.sizes.set(b.size, (w.sizes.get(b.size) ?? 0) + n);
    weights.set(lookOf(b), w);
  }
  const [look, w] = [...weights].sort((a, b) => b[1].n - a[1].n)[0] ?? ['false false left', null];
  const size = w ? ([...w.sizes].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 0) : 0;
  const [most] = [...typed].sort((a, b) => b[1] - a[1])[0] ?? [''];
  return { look, size, weight: w?.n ?? 0, typed: most };
}
