/**
 * Recognition by the whole: a manuscript's headings as the reading that explains most of it. Numbers that run on through
 * the manuscript come first, then parts, then what words and looks say; a line that fits none of them is text.
 */
import { countWords, decimalDepth, labelOf, type Label } from '../../base';
import { kindRule, type SectionKind } from '../../book';
import { isText, kindByWords, type HeadingGuess, type RawBlock } from '../raw';
import { Evidence, typedContents, type TypedContents } from './contents';
import { COSTS } from './costs';
import { guess } from './guess';
import { levelsOf, type Levels } from './levels';
import { MAX_WORDS } from './looks';
import { bestSequence, type Candidate, type Member } from './numbered';
import { endsLikeSentence, Page, type Line } from './page';
import { withParts } from './parts';
import { subheadsOf } from './subheads';
import { withSubtitles } from './subtitles';
import { titleLines } from './titlelines';
import { unnumberedByLooks } from './unnumbered';

export interface Recognition {
  headings: HeadingGuess[];
  contents: TypedContents | null;
}

export function recogniseHeadings(blocks: readonly RawBlock[]): Recognition {
  return new Reading(blocks).run();
}

class Reading {
  private readonly page: Page;
  private readonly contents: TypedContents | null;
  private readonly evidence: Evidence;
  private readonly levels: Levels;
  private readonly found = new Map<number, HeadingGuess>();

  constructor(private readonly blocks: readonly RawBlock[]) {
    this.page = new Page(blocks);
    this.contents = typedContents(blocks);
    this.evidence = new Evidence(this.contents);
    this.levels = levelsOf(blocks, this.page.s, (from, to) => this.page.between(from, to));
  }

  run(): Recognition {
    const { contents } = this;
    if (contents) {
      const title = contents.heading < 0 ? '' : (this.page.line(contents.heading)?.text ?? '');
      const span = contents.to - contents.from;
      this.put(
        guess(contents.from, { kind: 'contents', title, span, score: 8, reason: 'a typed contents list' }),
      );
    }
    this.numbered();
    this.named();
    this.styled();
    this.saidByFile();
    const heads = (): HeadingGuess[] => inPlace([...this.found.values()].sort((a, b) => a.at - b.at));
    for (const g of unnumberedByLooks(this.page, heads(), this.isListed)) this.put(g);
    const whole = withParts(this.page, titleLines(this.page, heads(), this.evidence));
    const titled = withSubtitles(this.blocks, whole, this.page.s);
    const all = [...titled, ...subheadsOf(this.page, titled, this.isListed)].sort((a, b) => a.at - b.at);
    const looked = all.map((g) => ({ ...g, look: this.lookOf(g) }));
    return { headings: surer(looked), contents: this.contents };
  }

  private lookOf(g: HeadingGuess): string {
    const line = this.page.line(g.at);
    if (!line) return '';
    const label = labelOf(g.label);
    const form = label?.level
      ? 'word and number'
      : label
        ? 'number'
        : g.firm && g.kind !== 'chapter'
          ? 'words'
          : 'title';
    return [line.p.style, line.p.outline, line.key, form].join(' ');
  }

  /** Whether a block belongs to the typed contents. */
  private readonly isListed = (at: number): boolean =>
    this.contents !== null && at >= this.contents.from && at < this.contents.to;

  private put(g: HeadingGuess): void {
    if (!this.found.has(g.at)) this.found.set(g.at, g);
  }

  /** Numbered chapters and parts: the best sequences of all lines that may carry a number. */
  private numbered(): void {
    const { chapters, parts } = this.candidates();
    const places = parts.filter((c) => c.label.level === 'part' || c.worth >= 2).map((c) => c.at);
    const outlined = this.outlinedPlaces();
    const partBetween = (from: number, to: number): boolean =>
      places.some((at) => at > from && at < to) ||
      outlined.some((o) => o.at > from && o.at < to && o.level < this.outlineAt(to));
    const best = bestSequence(chapters, partBetween)?.members ?? [];
    // A number without a word is none by itself.
    const main = best.length > 1 || best[0]?.candidate.strong ? best : [];
    const kept = this.areChapters(main) ? main : [];
    const taken = new Set(kept.map((m) => m.candidate.at));
    const labelled = parts.some((c) => c.label.level === 'part');
    const others = bestSequence(
      parts.filter(
        (c) => !taken.has(c.at) && (labelled ? c.label.level === 'part' : this.headsAChapter(c, kept)),
      ),
      () => false,
    );
    for (const m of kept) this.put(this.numberedGuess(m, 'chapter'));
    for (const m of others?.members ?? []) this.put(this.numberedGuess(m, 'part'));
    // A label with its word is a heading even where its number breaks the sequence.
    for (const c of [...chapters, ...parts])
      if (c.label.level && c.worth >= 2.4 && c.label.number !== null)
        this.put(this.numberedGuess({ candidate: c, number: c.label.number }, c.label.level));
  }

  /** All lines that may carry a number. One without a word may be a chapter’s or a part’s. */
  private candidates(): { chapters: Candidate[]; parts: Candidate[] } {
    const chapters: Candidate[] = [];
    const parts: Candidate[] = [];
    for (let at = 0; at < this.blocks.length; at++) {
      if (this.isListed(at)) continue;
      const line = this.page.line(at);
      if (!line || decimalDepth(line.text)) continue;
      const label = labelOf(line.text);
      if (!label || !this.mayHead(line, label)) continue;
      const c: Candidate = {
        at,
        label,
        worth: this.worth(line, label),
        key: `${line.key} ${line.p.outline}`,
        words: this.page.before[at] as number,
        strong: label.level !== null || line.p.outline > 0,
      };
      if (label.level !== 'part') chapters.push(c);
      if (label.level !== 'chapter') parts.push(c);
    }
    return { chapters, parts };
  }

  /** A sentence can begin with "Part of" or "Chapter seven was …": a long rest in running text is no title. */
  private mayHead(line: Line, label: Label): boolean {
    if (line.p.outline > 0) return line.p.outline !== -this.levels.part;
    const rest = countWords(label.title);
    if (rest > (label.level ? 12 : MAX_WORDS)) return false;
    if (label.level === null) return line.p.list === null;
    return label.title === '' || line.look >= 0.5 || line.page || line.blanks > 0 || rest <= 6;
  }

  private worth(line: Line, label: Label): number {
    const c = COSTS.line;
    let n = line.look * c.look + label.doubt * c.doubt;
    if (label.level) n += c.labelled;
    else n += label.title === '' ? c.numberAlone : c.numberAndTitle;
    if (line.p.outline > 0) n += c.outlined;
    if (label.title !== '') {
      if (endsLikeSentence(label.title)) n += c.sentence;
      if (!label.level && !/^[\p{Lu}\p{N}"\u201c\u2018\u201e\u00ab(\u00bf\u00a1]/u.test(label.title))
        n += c.small;
      if (!label.level && countWords(label.title, 8) > 8) n += c.long;
    }
    if (this.evidence.names(line.text) || (label.title !== '' && this.evidence.names(label.title)))
      n += c.inContents;
    return n;
  }

  private numberedGuess({ candidate: c, number }: Member, kind: 'chapter' | 'part'): HeadingGuess {
    const line = this.page.line(c.at) as Line;
    const styled = line.p.outline > 0;
    const typed = c.label.typed.replace(/[.:]$/, '');
    const said =
      c.label.number === null
        ? `“${typed}” stands where number ${number} is expected`
        : c.label.level
          ? `“${typed}” is the number of a ${kind}`
          : `“${typed}” continues the numbering`;
    const sure = styled ? 10 : c.label.level && c.label.doubt === 0 ? 8 + line.look : 3.4 + c.worth;
    return guess(c.at, {
      kind,
      title: c.label.title,
      label: c.label.typed,
      numbered: true,
      number,
      score: Math.max(3.4, sure - c.label.doubt),
      reason: styled ? `${said}, in a heading style` : said,
    });
  }

  /**
   * Numbers without a word that begin again and again under headings with text of their own are subheads. The test is
   * whether what stands above them has text of its own.
   */
  private areChapters(members: readonly Member[]): boolean {
    if (members.some((m) => m.candidate.label.level)) return true;
    const levels = members.map((m) => this.outlineAt(m.candidate.at)).filter((l) => l > 0);
    if (levels.length < members.length / 2) return true;
    const own = Math.max(...levels);
    const above = this.outlinedPlaces().filter((o) => o.level < own);
    const enclosing = above.filter((o) => members.some((m) => m.candidate.at > o.at));
    if (enclosing.length < 2) return true;
    const withText = enclosing.filter((o) => {
      const next = [...members.map((m) => m.candidate.at), ...above.map((x) => x.at)]
        .filter((at) => at > o.at)
        .reduce((a, b) => Math.min(a, b), this.blocks.length);
      return this.page.between(o.at, next) >= 40;
    });
    return withText.length < enclosing.length / 2;
  }

  private outlineAt(at: number): number {
    const b = this.blocks[at];
    return isText(b) && b.outline > 0 ? b.outline : 9;
  }
  private places: { at: number; level: number }[] | null = null;
  private outlinedPlaces(): { at: number; level: number }[] {
    return (this.places ??= this.blocks.flatMap((b, at) =>
      isText(b) && b.outline > 0 && b.text.trim() !== '' && !this.isListed(at)
        ? [{ at, level: b.outline }]
        : [],
    ));
  }

  /** A number without a word heads a part where a numbered chapter follows it at once. */
  private headsAChapter(c: Candidate, chapters: readonly Member[]): boolean {
    const next = chapters.find((m) => m.candidate.at > c.at);
    return next !== undefined && this.page.between(c.at, next.candidate.at) <= 40;
  }

  /** Prologue, acknowledgements and the like, in a heading style or standing apart. */
  private named(): void {
    for (let at = 0; at < this.blocks.length; at++) {
      const line = this.isListed(at) ? null : this.page.line(at);
      if (!line || line.words > MAX_WORDS) continue;
      const kind = kindByWords(line.text);
      if (!kind) continue;
      const styled = line.p.outline > 0;
      const apart =
        line.look >= 1 || line.page || /title/i.test(line.p.style) || this.evidence.names(line.text);
      if (!styled && !apart) continue;
      if (styled && this.isSubhead(line)) continue;
      this.put(
        guess(at, {
          kind,
          title: line.text,
          score: styled ? 10 : 6 + line.look,
          reason: `the words “${line.text}”${styled ? ' in a heading style' : ''}`,
        }),
      );
    }
  }

  private isSubhead(line: Line): boolean {
    return this.chapterLevel() > 0 && line.p.outline > this.chapterLevel();
  }

  private level: number | null = null;
  /** The outline level of chapters: that of most numbered ones, else what the levels say by themselves. */
  private chapterLevel(): number {
    if (this.level !== null) return this.level;
    const counts = new Map<number, number>();
    for (const g of this.found.values())
      if (g.kind === 'chapter' && g.numbered) {
        const level = this.outlineAt(g.at);
        counts.set(level, (counts.get(level) ?? 0) + 1);
      }
    const [most] = [...counts].sort((a, b) => b[1] - a[1])[0] ?? [9];
    return (this.level = most < 9 ? most : this.levels.chapter);
  }

  /** Headings that the file’s styles mark and that no number or word names. */
  private styled(): void {
    const chapter = this.chapterLevel();
    const numbered = [...this.found.values()].filter((g) => g.kind === 'chapter' && g.numbered);
    for (const { at, level } of this.outlinedPlaces()) {
      if (this.found.has(at) || level === -this.levels.part) continue;
      const line = this.page.line(at);
      if (!line) continue;
      const text = line.text;
      if (chapter > 0 && level > chapter) {
        this.put(
          guess(at, {
            subhead: Math.min(3, level - chapter) as 1 | 2 | 3,
            title: text,
            score: 9,
            reason: `heading style of level ${level}, below the chapters`,
          }),
        );
        continue;
      }
      // Among numbered chapters, a styled line with next to no text is a sign or a button, not a section.
      const inside = numbered.some((g) => g.at < at) && numbered.some((g) => g.at > at);
      if (inside && level === chapter && this.page.between(at, this.nextHead(at)) < 15) continue;
      const kind = level === this.levels.part && this.levels.part > 0 ? 'part' : 'chapter';
      // A number that the file counts by itself stands in no text.
      const counted = line.p.list?.ordered === true;
      this.put(
        guess(at, {
          kind,
          title: text,
          numbered: counted,
          score: 9,
          reason: `heading style of level ${level}`,
        }),
      );
    }
  }

  private nextHead(at: number): number {
    let next = this.blocks.length;
    for (const g of this.found.values()) if (g.at > at && g.at < next) next = g.at;
    for (const o of this.outlinedPlaces()) if (o.at > at && o.at < next) next = o.at;
    return next;
  }

  /** A file that says what begins here is believed; what it says has a heading only where one stands. */
  private saidByFile(): void {
    this.blocks.forEach((b, at) => {
      if (!isText(b) || b.opens === '') return;
      const g = this.found.get(at) ?? null;
      this.found.set(at, said(b.opens, at, g));
    });
  }
}

function said(kind: SectionKind, at: number, g: HeadingGuess | null): HeadingGuess {
  const reason = `the file says that this is a ${kindRule(kind).label.toLowerCase()}`;
  const headed = kindRule(kind).opening === 'heading' || kind === 'part';
  if (g && headed && g.subhead === 0)
    // "Chapter" is said of much that has a name of its own.
    return { ...g, kind: kind === 'chapter' ? g.kind : kind, score: g.score + 3, reason, firm: true };
  return guess(at, { kind, span: 0, score: 10, reason });
}

/** "A Note on the Text" before the first chapter is a preface; behind the last one it looks back. */
function inPlace(heads: readonly HeadingGuess[]): HeadingGuess[] {
  const last = heads.findLast((g) => g.kind === 'chapter' && g.subhead === 0)?.at ?? Infinity;
  return heads.map((g) => (g.kind === 'preface' && g.at > last ? { ...g, kind: 'afterword' as const } : g));
}

/** Looks that three headings or more share are hardly chance. */
function surer(heads: readonly HeadingGuess[]): HeadingGuess[] {
  const counts = new Map<string, number>();
  for (const g of heads) counts.set(g.look, (counts.get(g.look) ?? 0) + 1);
  return heads.map((g) =>
    g.look !== '' && (counts.get(g.look) ?? 0) >= 3 ? { ...g, score: Math.max(g.score, 3.6) } : g,
  );
}
