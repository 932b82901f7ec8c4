/** Rules of what the record says to shops: numbers, dates, ages, subjects, and words by which the book is to be found. */
import { isSubjectCode, plainDescription } from '../../record';
import { PRACTICE } from '../practice';
import type { Rule } from '../rules';
import { isAstray } from './astray';
import type { BookSubject } from './subject';

const RECORD = { severity: 'caution', profiles: ['agreement'], source: PRACTICE } as const;

export const DETAIL_RULES: readonly Rule<BookSubject>[] = [
  {
    ...RECORD,
    name: 'record/keyword-astray',
    why: 'Shops take keywords that have nothing to do with the book for misleading.',
    remedy: 'Choose a word that the book or its description has, or accept it with a reason.',
    *look({ book, readings }) {
      const { title, subtitle, series, description, shortDescription, keywords } = book.record;
      const said = [title, subtitle, series, plainDescription(description), shortDescription];
      for (const keyword of keywords)
        if (isAstray(keyword, readings, said))
          yield {
            message: `No word of the keyword “${keyword}” is found in the book or its description.`,
            about: keyword,
          };
    },
  },
  {
    ...RECORD,
    name: 'record/volume',
    why: 'Shops sort a series by bare numbers, and refuse “Book 2”.',
    remedy: 'Write the number alone, such as 2.',
    *look({ book }) {
      const { series, volume } = book.record;
      if (volume && !/^\d{1,4}(?:\.\d{1,2})?$/.test(volume))
        yield { message: `The volume is “${volume}”.`, about: volume };
      else if (volume && !series)
        yield { message: `The record has the volume ${volume}, but no series.`, about: volume };
    },
  },
  {
    ...RECORD,
    name: 'record/published',
    why: 'Readers and libraries take one of the two for the wrong edition.',
    remedy: 'Change the year or the day in the record.',
    *look({ book }) {
      const { year, published } = book.record;
      if (/^\d{4}$/.test(year) && published && published.slice(0, 4) < year)
        yield { message: `The book is published on ${published}, before its copyright year, ${year}.` };
    },
  },
  {
    ...RECORD,
    name: 'record/ages',
    why: 'Shops list children’s books by the age of their readers.',
    remedy: 'Correct the ages in the record.',
    *look({ book }) {
      const { from, to } = book.record.ages;
      if (from !== null && to !== null && from > to)
        yield { message: `The readers’ ages run from ${from} to ${to}.` };
    },
  },
  {
    ...RECORD,
    name: 'record/adult-and-children',
    severity: 'blocker',
    why: 'No shop sells adult content to children.',
    remedy: 'Correct the audience, the ages or the content in the record.',
    *look({ book }) {
      const { adult, audience, ages } = book.record;
      const young = ages.from !== null && ages.from < 18;
      if (adult && (young || audience === 'children' || audience === 'school'))
        yield { message: 'The book is marked as adult content and as a book for the young.' };
    },
  },
  {
    ...RECORD,
    name: 'record/subject-code',
    source: 'Thema: a letter, then letters and figures (from memory)',
    why: 'Shops shelve a book by its codes.',
    remedy: 'Choose the subject from the list, or correct its code.',
    *look({ book }) {
      for (const code of book.record.subjects)
        if (!isSubjectCode(code))
          yield { message: `“${code}” is not a code of the subject scheme.`, about: code };
    },
  },
];
