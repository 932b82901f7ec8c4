/** Numbers and headings of sections, worked out from the order: never typed, so never doubled. */
import { listNumber, numberLabel, toRoman, wordsFor } from '../base';
import { headingWord, kindRule, type Book, type Edition, type NumberForm, type Section } from '../book';

/** What headings are made from, besides the sections. */
export type Naming = Pick<Book, 'record' | 'numbering'>;

export interface Heading {
  /** "Chapter Three", "Part II", or '' when the section shows no number. */
  number: string;
  /** The number without its word, in figures where the heading has words: "3", "II", "B". */
  bare: string;
  title: string;
  subtitle: string;
  /** Title for contents, heads and navigation: "Chapter Three" where there is no title. */
  label: string;
}

/**
 * Number of each numbered section among its kind, 1 up. Chapters count through all sections given, or, counted by part,
 * begin again in each; parts count among those that stand beside them; appendices bear letters. A section may bear a number
 * of its own.
 */
export function sectionNumbers(
  sections: readonly Section[],
  count: Book['numbering']['count'] = 'continuous',
): Map<string, number> {
  const counts = new Map<string, number>();
  const numbers = new Map<string, number>();
  for (const s of sections) {
    if (!kindRule(s.kind).numbered || !s.numbered) continue;
    const within = s.kind === 'part' || count === 'by-part' ? s.parent : '';
    const key = `${s.kind}/${within ?? ''}`;
    const n = s.number ?? (counts.get(key) ?? 0) + 1;
    counts.set(key, n);
    numbers.set(s.id, n);
  }
  // One appendix alone needs no letter (common practice).
  const appendices = sections.filter((s) => s.kind === 'appendix' && numbers.has(s.id));
  if (appendices.length === 1 && appendices[0]?.number === null) numbers.delete(appendices[0].id);
  return numbers;
}

function written(n: number, form: NumberForm, kind: 'chapter' | 'part', language: string): string {
  const english = language.toLowerCase().startsWith('en');
  const usual = kind === 'part' ? 'roman' : english ? 'words' : 'arabic';
  switch (form === 'usual' ? usual : form) {
    case 'words':
      return wordsFor(n, language);
    case 'roman':
      return toRoman(n);
    default:
      return String(n);
  }
}

function headingOf(section: Section, number: number | undefined, { record, numbering }: Naming): Heading {
  const usual = headingWord(section.kind, record.language);
  let numberText = '';
  let bare = '';
  if (number !== undefined) {
    const letter = section.kind === 'appendix' ? listNumber(number, 'letters').toUpperCase() : '';
    if (letter) numberText = `${usual} ${letter}`;
    const kind = section.kind === 'part' ? 'part' : 'chapter';
    const word = kind === 'part' ? numbering.partWord : numbering.chapterWord;
    const form = kind === 'part' ? numbering.parts : numbering.chapters;
    const n = written(number, form, kind, record.language);
    bare = letter || (/^[IVXLCDM]+$/.test(n) ? n : String(number));
    numberText ||= word ? `${numberLabel(kind, record.language)} ${n}` : n;
  }
  const own = section.title || (numberText ? '' : usual);
  const title = section.titled ? own : '';
  return {
    number: numberText,
    bare,
    title,
    subtitle: section.titled ? section.subtitle : '',
    label: title || numberText || own || kindRule(section.kind).label,
  };
}

/**
 * Headings of all sections given, by section id. Numbers count among these sections alone. An edition may call its
 * contents by a heading of its own.
 */
export function headingsOf(
  sections: readonly Section[],
  naming: Naming,
  edition: Pick<Edition, 'contents'> | null = null,
): Map<string, Heading> {
  const numbers = sectionNumbers(sections, naming.numbering.count);
  const called = edition?.contents.heading.trim() ?? '';
  return new Map(
    sections.map((s) => {
      const own = s.kind === 'contents' && called ? { ...s, title: called, titled: true } : s;
      return [s.id, headingOf(own, numbers.get(s.id), naming)];
    }),
  );
}
