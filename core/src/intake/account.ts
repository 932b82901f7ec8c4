/**
 * The account of an intake: every word of the file is in the book, or set aside where the author can see it and put it
 * back. The file's words are counted by `source`, on a path of its own; what a reader dropped is set
 * aside here under the rule `not-carried-over`.
 */
import type { Mark } from 'prosemirror-model';
import { countWords, type Finding } from '../base';
import { wordsOfLeaf, type Section } from '../book';
import type { SetAside } from './assembly';
import { formulaWord, missingRuns, wordsIn } from './source';

export interface Account {
  wordsIn: number;
  wordsOut: number;
  setAside: SetAside[];
  findings: Finding[];
}

/** Text of a section: titles, blocks and notes, with a line for each. */
function textOfSection(s: Section): string {
  const lines = [s.title, s.subtitle];
  s.content.descendants((node) => {
    if (!node.isTextblock) return true;
    let line = '';
    /** The formula that the text is in, and its signs. */
    let formula: Mark | undefined;
    let signs = '';
    const endFormula = (): void => {
      if (signs !== '') line += formulaWord(signs);
      signs = '';
    };
    node.forEach((n) => {
      const mark = n.marks.find((m) => m.type.name === 'formula');
      if (mark !== formula) endFormula();
      formula = mark;
      if (mark) return void (signs += n.text as string);
      line += n.isText ? (n.text as string) : n.type.name === 'note' ? '' : wordsOfLeaf(n);
    });
    endFormula();
    lines.push(line);
    return false;
  });
  return lines.join('\n');
}

/** Words of a section: its text block by block, its notes, its title and subtitle. */
export const wordsOfSection = (s: Section): number => countWords(textOfSection(s));

/**
 * `source` is the file's text (null where only its reader knows it: `wordsRead` counts then). `onTitlePage` are words that
 * the title page will show from the record.
 */
export function accountOf(
  source: string | null,
  wordsRead: number,
  sections: readonly Section[],
  setAside: readonly SetAside[],
  onTitlePage: string,
): Account {
  const kept = sections.reduce((n, s) => n + wordsOfSection(s), countWords(onTitlePage));
  if (source === null) return { wordsIn: wordsRead, wordsOut: kept, setAside: [...setAside], findings: [] };
  const inFile = wordsIn(source);
  /** The book's text, and where each section's begins in it. */
  const parts: string[] = [];
  const starts: { at: number; section: string | null }[] = [];
  let length = 0;
  const hold = (text: string, section: string | null): void => {
    starts.push({ at: length, section });
    parts.push(text);
    length += text.length + 1;
  };
  hold(onTitlePage, null);
  for (const s of sections) hold(textOfSection(s), s.id);
  for (const a of setAside) hold(a.text, a.section);
  const held = wordsIn(parts.join('\n'));
  const sectionOf = (word: number): string | null =>
    starts.findLast((s) => s.at <= (held.from[word] ?? -1))?.section ?? sections[0]?.id ?? null;
  const { runs, joined } = missingRuns(inFile, held);
  const lost = runs.map((r): SetAside => ({
    rule: 'not-carried-over',
    text: r.text,
    words: r.words,
    section: sectionOf(r.after),
  }));
  const aside = [...setAside, ...lost];
  const words = aside.reduce((n, a) => n + a.words, 0);
  const all = inFile.count - joined;
  const twice = kept + words - all;
  const findings: Finding[] = [];
  if (lost.length > 0)
    findings.push({
      rule: 'intake/not-carried-over',
      severity: 'caution',
      message: `${sum(lost)} words of the file are in none of the sections. They are listed with what was set aside, and can be put back.`,
    });
  if (twice > 0)
    findings.push({
      rule: 'intake/words-twice',
      severity: 'note',
      message: `${twice} words appear more often than in the file, such as a note that is called in two places.`,
    });
  return { wordsIn: all, wordsOut: kept - twice, setAside: aside, findings };
}
const sum = (list: readonly SetAside[]): number => list.reduce((n, a) => n + a.words, 0);
