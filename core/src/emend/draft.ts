/** Changes of a command as they come together. Every step is applied at once, so that the next one sees it. */
import { done, type Outcome } from '../base';
import { packageIn, reference, type EpubPackage } from '../package';
import { applyChanges, textOfPart, zipOf, type Content, type Emended, type PartChange } from './container';
import { locate, type Located, type Span } from './located';
import { rewritten, type Replacement } from './markup';
import { baseOf, referencesOf, type Reference } from './references';

/** What a command comes to. */
export interface Emendation {
  /** What was done, for Undo. */
  label: string;
  changes: PartChange[];
  /** What the author should know about it. */
  notes: string[];
  /** The part to look at next. */
  show?: string;
}

interface ReadPackage {
  /** What the parts that it was read from held. */
  from: (Content | undefined)[];
  value: EpubPackage;
}
const read = new WeakMap<Content, ReadPackage>();

/** The package as it is now; read anew only where one of its own parts is another. */
export function packageOf(e: Emended): EpubPackage {
  const own = (p: EpubPackage): (Content | undefined)[] =>
    [
      'META-INF/container.xml',
      p.path,
      ...p.manifest.filter((i) => i.properties.includes('nav') || i.type === NCX).map((i) => i.path),
    ].map((path) => e.parts.get(path));
  const container = e.parts.get('META-INF/container.xml');
  const known = container && read.get(container);
  if (known && own(known.value).every((c, i) => c === known.from[i]))
    return { ...known.value, zip: zipOf(e) };
  const value = packageIn(zipOf(e));
  if (container) read.set(container, { from: own(value), value });
  return value;
}
const NCX = 'application/x-dtbncx+xml';

export class Draft {
  readonly changes: PartChange[] = [];
  readonly notes: string[] = [];
  private trees = new Map<string, { text: string; elements: Located[] }>();

  constructor(public now: Emended) {}

  private put(change: PartChange): void {
    const applied = applyChanges(this.now, [change]);
    // A command only asks for what it has looked up.
    if (!applied.ok) throw new Error(applied.refusal.message);
    this.now = applied.value;
    this.changes.push(change);
  }
  /** Changes that a command came to. */
  follow(changes: readonly PartChange[]): void {
    for (const c of changes) this.put(c);
  }
  text(path: string): string {
    return textOfPart(this.now, path) ?? '';
  }
  /** The elements of a part as it is now. */
  elements(path: string): Located[] {
    const text = this.text(path);
    const known = this.trees.get(path);
    if (known?.text === text) return known.elements;
    const elements = locate(text);
    this.trees.set(path, { text, elements });
    return elements;
  }
  get package(): EpubPackage {
    return packageOf(this.now);
  }
  /** Spans of the text as it is before any of them is replaced. They don’t overlap; one that comes twice is replaced once. */
  edit(path: string, replacements: readonly Replacement[]): void {
    const text = this.text(path);
    const sorted = [...replacements].sort((a, b) => b.from - a.from || b.to - a.to);
    for (const [i, r] of sorted.entries()) {
      const before = sorted[i - 1];
      if (r.to > r.from && before?.from === r.from && before.to === r.to) continue;
      const removed = text.slice(r.from, r.to);
      if (removed !== r.with) this.put({ op: 'edit', path, at: r.from, removed, inserted: r.with });
    }
  }
  /** Everything that leads from one part to another now. */
  references(): Reference[] {
    return referencesOf(this.now, (path) => this.elements(path));
  }
  /** Replaces what `edits` answers for each reference, in the part that it stands in. */
  editReferences(edits: (r: Reference) => readonly Replacement[]): void {
    const byPart = new Map<string, Replacement[]>();
    for (const r of this.references()) {
      const list = edits(r);
      if (list.length > 0) byPart.set(r.in, [...(byPart.get(r.in) ?? []), ...list]);
    }
    for (const [path, list] of byPart) this.edit(path, list);
  }
  /** Writes references anew where `to` says that they lead elsewhere. */
  lead(to: (r: Reference) => { path: string; fragment: string } | null): void {
    this.editReferences((r) => {
      const target = to(r);
      return target ? [rewritten(r, reference(baseOf(r.in), target))] : [];
    });
  }
  add(path: string, content: Content, after?: string): void {
    const paths = [...this.now.parts.keys()];
    const index = after === undefined ? paths.length : paths.indexOf(after) + 1;
    this.put({ op: 'add', path, index, content });
  }
  addFirst(path: string, content: Content): void {
    this.put({ op: 'add', path, index: 0, content });
  }
  remove(path: string): void {
    const content = this.now.parts.get(path);
    if (content) this.put({ op: 'remove', path, index: [...this.now.parts.keys()].indexOf(path), content });
  }
  rename(path: string, to: string): void {
    this.put({ op: 'rename', path, to });
  }
  replace(path: string, now: Content): void {
    const was = this.now.parts.get(path);
    if (was) this.put({ op: 'replace', path, was, now });
  }
  done(label: string, show?: string): Outcome<Emendation> {
    return done({ label, changes: this.changes, notes: this.notes, ...(show ? { show } : {}) });
  }
}

/** The element with the white space before it, so that taking it away leaves no empty line. */
export function withIndent(text: string, { from, to }: Span): Span {
  const before = /\n[ \t]*$/.exec(text.slice(0, from));
  return { from: before ? from - before[0].length : from, to };
}
/** The white space that a line of the source begins with before an element; '' where it begins no line. */
export const indentOf = (text: string, { from }: Span): string =>
  /(?:^|\r?\n)[ \t]*$/.exec(text.slice(0, from))?.[0] ?? '';
