/**
 * What stands in a Rich Text file beside its text (specification 1.9.1): entries for the index, comments, the languages of
 * the text, and looks that no book keeps.
 */
import type { Mark, Node } from 'prosemirror-model';
import { primaryLanguage } from '../../base';
import { schema } from '../../book';
import { indexedAt, type RawManuscript, type RawParagraph } from '../raw';

export class RtfAsides {
  /** Places of the colour table that are not black. */
  private readonly coloured = new Set<number>();
  private colour = { at: 0, said: false, shown: false };
  /** Terms of entries that go over a bookmark, by its name; found before the text is read. */
  private readonly over = new Map<string, string[]>();
  /** Entries whose bookmark is open. */
  private readonly open = new Set<string>();

  constructor(
    private readonly m: RawManuscript,
    file: Uint8Array,
  ) {
    const entry = /\{\\xe(?![a-z])((?:[^{}]|\{[^{}]*\}){0,600}?)\{(?:\\\*)?\\rxe ?([^{}\\]+)\}/g;
    for (const [, said = '', name = ''] of new TextDecoder('latin1').decode(file).matchAll(entry)) {
      const term = levels(said.replace(/\\:/g, ':').replace(/\\[a-z]+-?\d* ?|[{}\r\n]/g, ''));
      if (term) this.over.set(name.trim(), [...(this.over.get(name.trim()) ?? []), term]);
    }
  }

  colourWord(word: string, param = 0): void {
    if (!/^(?:red|green|blue)$/.test(word)) return;
    this.colour.said = true;
    this.colour.shown ||= param > 0;
  }
  /** Each colour ends with a semicolon; one that says nothing is the reader's own. */
  colourText(text: string): void {
    for (const c of text)
      if (c === ';') {
        if (this.colour.said && this.colour.shown) this.coloured.add(this.colour.at);
        this.colour = { at: this.colour.at + 1, said: false, shown: false };
      }
  }

  /** Tells of letters that change in a way no book keeps. */
  letters(word: string, param: number | undefined): void {
    const { dropped } = this.m;
    const more = (what: string): void => void (dropped[what] = (dropped[what] ?? 0) + 1);
    if (word === 'cf' && this.coloured.has(param ?? 0)) more('colours');
    if ((word === 'highlight' || word === 'chcbpat') && (param ?? 0) > 0) more('highlights');
    if ((word === 'revised' || word === 'deleted') && param !== 0) more('changes');
  }

  fieldFormula(): void {
    this.m.dropped.fieldFormulas = (this.m.dropped.fieldFormulas ?? 0) + 1;
  }

  /** The paragraph's inline content with the entry that ends here. */
  entry(inline: Node[], said: { term: string; see: string; range: string }): Node[] {
    const term = levels(said.term);
    if (!term) return inline;
    const see = said.see.trim().replace(/^see(?: also)?\s+/i, '');
    if (see) this.m.indexSee.push({ term, to: see });
    return see || this.over.get(said.range.trim())?.includes(term) ? inline : indexedAt(inline, term);
  }
  bookmark(name: string, begins: boolean): void {
    for (const term of this.over.get(name) ?? [])
      if (begins) this.open.add(term);
      else this.open.delete(term);
  }
  /** Marks of the text that is read now, besides those of its looks. */
  around(marks: readonly Mark[], language: string): readonly Mark[] {
    let own = marks;
    for (const term of this.open) own = schema.mark('indexed', { term }).addToSet(own);
    return language ? schema.mark('language', { tag: language }).addToSet(own) : own;
  }

  /** `beside`: the words before it. */
  comment(by: string, text: string, beside: string): void {
    if (text.trim()) this.m.comments.push({ by: by.trim(), text: text.trim(), at: beside.slice(-80).trim() });
  }

  /** The manuscript's language is that of most of its letters; only others are marked. */
  settleLanguages(paragraphs: readonly RawParagraph[]): void {
    const letters = new Map<string, number>();
    const tagOf = (n: Node): string =>
      (n.marks.find((k) => k.type.name === 'language')?.attrs.tag as string | undefined) ?? '';
    for (const p of paragraphs)
      for (const n of p.inline)
        if (n.isText) letters.set(tagOf(n), (letters.get(tagOf(n)) ?? 0) + (n.text as string).length);
    const most = [...letters].sort((a, b) => b[1] - a[1])[0]?.[0] ?? '';
    this.m.language = most;
    const main = primaryLanguage(most);
    for (const p of paragraphs)
      p.inline = p.inline.map((n) =>
        n.isText && (main === '' || primaryLanguage(tagOf(n)) === main)
          ? n.mark(n.marks.filter((k) => k.type.name !== 'language'))
          : n,
      );
  }
}

const levels = (said: string): string =>
  said
    .split(':')
    .map((t) => t.replace(/\s+/g, ' ').trim())
    .filter(Boolean)
    .join(': ');
