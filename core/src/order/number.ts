/** Numbers and headings of sections, worked out from the order: never typed, so never doubled. */
import { numberInWords, numberLabel, toRoman } from '../base';
import { kindRule, type Book, type Section } from '../book';

export interface Heading {
  /** "Chapter Three", "Part II", or '' when the section shows no number. */
  number: string;
  title: string;
  subtitle: string;
  /** Title for contents, heads and navigation: "Chapter Three" where there is no title. */
  label: string;
}

/** Number of each numbered section among its kind, 1 up, counted through the sections given. */
export function numbersOf(sections: readonly Section[]): Map<string, number> {
  const counts = new Map<string, number>();
  const numbers = new Map<string, number>();
  for (const s of sections) {
    if (!kindRule(s.kind).numbered || !s.numbered) continue;
    const n = (counts.get(s.kind) ?? 0) + 1;
    counts.set(s.kind, n);
    numbers.set(s.id, n);
  }
  return numbers;
}

export function headingOf(section: Section, number: number | undefined, record: Book['record']): Heading {
  const rule = kindRule(section.kind);
  let numberText = '';
  if (number !== undefined) {
    const label = numberLabel(section.kind === 'part' ? 'part' : 'chapter', record.language);
    const english = record.language.toLowerCase().startsWith('en');
    numberText = `${label} ${section.kind === 'part' ? toRoman(number) : english ? numberInWords(number) : number}`;
  }
  const title = section.title || (numberText ? '' : rule.heading);
  return { number: numberText, title, subtitle: section.subtitle, label: title || numberText || rule.label };
}

/** Headings of all sections that an edition carries, by section id. */
export function headingsOf(sections: readonly Section[], record: Book['record']): Map<string, Heading> {
  const numbers = numbersOf(sections);
  return new Map(sections.map((s) => [s.id, headingOf(s, numbers.get(s.id), record)]));
}
