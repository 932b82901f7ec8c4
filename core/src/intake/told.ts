/** What a manuscript had that the book has otherwise, or not at all: each told once, in words. */
import type { Finding } from '../base';
import { formulasIn, type Section } from '../book';
import type { RawComment } from './raw';

const of = (n: number, one: string): string =>
  n === 1 ? `1 ${one} was` : `${n.toLocaleString('en-GB')} ${one}s were`;
const places = (n: number): string => (n === 1 ? '1 place' : `${n.toLocaleString('en-GB')} places`);

export function aboutDropped({
  drawings = 0,
  colours = 0,
  highlights = 0,
  changes = 0,
  takenBack = 0,
  fieldFormulas = 0,
}: Record<string, number>): Finding[] {
  const found: Finding[] = [];
  if (changes > 0)
    found.push({
      rule: 'intake/tracked-changes',
      severity: 'note',
      message: `${of(changes, 'tracked change')} accepted.`,
    });
  if (takenBack > 0)
    found.push({
      rule: 'intake/changes-taken-back',
      severity: 'note',
      message: 'Tracked changes were rejected: the text is as it was before them.',
    });
  if (drawings > 0)
    found.push({
      rule: 'intake/drawings',
      severity: 'caution',
      message: `${of(drawings, 'drawing')} left out.`,
      remedy: 'Save each as a PNG picture and add it in the manuscript.',
    });
  if (fieldFormulas > 0)
    found.push({
      rule: 'intake/field-formulas',
      severity: 'caution',
      message: `${of(fieldFormulas, 'formula')} typed as a field and left out.`,
      remedy: 'Compare with your file, and type each one in the manuscript or add it as a picture.',
    });
  const looks = [
    ...(colours > 0 ? [`coloured text (${places(colours)})`] : []),
    ...(highlights > 0 ? [`highlighting (${places(highlights)})`] : []),
  ].join(' and ');
  if (looks)
    found.push({
      rule: 'intake/colours',
      severity: 'note',
      message: `${looks.charAt(0).toUpperCase()}${looks.slice(1)} became plain text.`,
    });
  return found;
}

export const aboutComments = (comments: readonly RawComment[]): Finding[] =>
  comments.length === 0
    ? []
    : [
        {
          rule: 'intake/comments',
          severity: 'note',
          message: `${of(comments.length, 'comment')} left out of the text. ${comments.length === 1 ? 'It is' : 'They are'} listed in the account below.`,
        },
      ];

/** Formulas of more than one line, which print shows on one. */
export function aboutFormulas(sections: readonly Section[]): Finding[] {
  let n = 0;
  for (const s of sections)
    s.content.descendants((block) => {
      if (block.isTextblock) n += formulasIn(block).filter((f) => TALL.test(f.mathml)).length;
      return !block.isTextblock;
    });
  return n === 0
    ? []
    : [
        {
          rule: 'intake/formulas',
          severity: 'note',
          message: `${n === 1 ? '1 formula has' : `${n.toLocaleString('en-GB')} formulas have`} fractions, roots or rows. Ebooks show them as they are; print sets them on one line, with a stroke for a fraction.`,
          remedy: 'Compare with your file. Where a formula needs more room in print, add it as a picture.',
        },
      ];
}
const TALL = /<m(?:frac|sqrt|root|under|over|underover|table)[ >]/;

export function aboutUnderlining(sections: readonly Section[]): Finding[] {
  let n = 0;
  for (const s of sections) {
    let before = false;
    s.content.descendants((node) => {
      const underlined = node.marks.some((m) => m.type.name === 'underline');
      if (underlined && !before) n++;
      before = underlined;
    });
  }
  return n === 0
    ? []
    : [
        {
          rule: 'intake/underlined',
          severity: 'note',
          message: `Words are underlined in ${places(n)}. Books mark emphasis with italics.`,
          remedy: 'Tidy, in Manuscript, can change the underlining to italics.',
        },
      ];
}
