import { inSentence, done, refused, type Outcome } from '../base';
import { editionOf, isReflow, isSample, sampledEbook, sectionsIn, type ReflowEdition } from '../book';
import { EPUB_201 } from './epub201';
import { EPUB_33 } from './epub33';
import { pack } from './publication';
import { ReflowRenderer, type EpubInput } from './reflow';

export type { EmbeddedFace } from './publication';
export type { EpubInput };

/** The reflowable EPUB of an edition, by the version that it names. Errors: `epub/edition`, `epub/sample`, `epub/empty`, `epub/title`. */
export function writeEpub(input: EpubInput): Outcome<Uint8Array> {
  const { book, edition: editionId } = input;
  const named = editionOf(book, editionId);
  const whole = named && isSample(named) ? sampledEbook(book, named) : named;
  if (named && isSample(named) && !whole)
    return refused(
      'epub/sample',
      `The ebook that the ${inSentence(named.name)} was taken from has been removed. Choose another in Editions.`,
    );
  if (!named || !whole || !isReflow(whole))
    return refused('epub/edition', `There is no reflowable edition “${editionId}” in this book.`);
  const sample = isSample(named) ? named : null;
  const edition: ReflowEdition = sample
    ? { ...whole, id: sample.id, isbn: sample.isbn, date: sample.date }
    : whole;
  const sections = sectionsIn(book, editionId);
  if (sections.length === 0)
    return refused('epub/empty', `The ${inSentence(edition.name)} has no sections yet.`);
  if (!book.record.title.trim())
    return refused(
      'epub/title',
      'The book has no title yet: an ebook cannot be made without one. Write it in the record.',
    );
  const dialect = edition.version === '2.0.1' ? EPUB_201 : EPUB_33;
  return done(
    pack(new ReflowRenderer(input, edition, sections, dialect, sample ? whole : null).publication(), dialect),
  );
}
