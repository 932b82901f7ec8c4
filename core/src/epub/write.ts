import { inSentence, done, refused, type Outcome } from '../base';
import { editionOf, isReflow, sectionsOf } from '../book';
import { EPUB_33 } from './epub33';
import { pack } from './publication';
import { ReflowRenderer, type EpubInput } from './reflow';

export type { EpubInput };

/** The reflowable EPUB 3.3 of an edition. Errors: `epub/edition`, `epub/empty`, `epub/title`. */
export function writeEpub(input: EpubInput): Outcome<Uint8Array> {
  const { book, edition: editionId } = input;
  const edition = editionOf(book, editionId);
  if (!edition || !isReflow(edition))
    return refused('epub/edition', `There is no reflowable edition “${editionId}” in this book.`);
  const sections = sectionsOf(book, edition.id);
  if (sections.length === 0)
    return refused('epub/empty', `The ${inSentence(edition.name)} has no sections yet.`);
  if (!book.record.title.trim())
    return refused(
      'epub/title',
      'The book has no title yet: an ebook cannot be made without one. Write it in the record.',
    );
  return done(pack(new ReflowRenderer(input, edition, sections, EPUB_33).publication(), EPUB_33));
}
