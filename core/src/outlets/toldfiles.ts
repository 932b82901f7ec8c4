/** Files and their names: what was made, and whether the outlet would take it. */
import { digestOf } from '../base';
import { coverOf, setsFront, type Book, type Edition } from '../book';
import { bareIsbn, isbnFault } from '../record';
import type { Asked } from './asked';
import { fileNameAt } from './filenames';
import { fileFor, linksToShops, wordFileFor } from './links';
import type { FilePart, Outlet } from './outlet';
import { told, type Facts, type MadeFile, type Told } from './told';

const EDITIONS = { station: 'editions' as const };

/** Why a file that was made won't do; null where it will. */
function fileFault(made: MadeFile | undefined, facts: Facts, outlet: Outlet, what: string): string | null {
  if (!made) return `Make the ${what} first.`;
  if (made.findings.some((f) => f.severity === 'blocker'))
    return 'The checks found something the shop would refuse.';
  const refused = made.findings.find((f) => f.outlet === outlet.id);
  if (refused) return [refused.message, refused.remedy].filter(Boolean).join(' ');
  if (made.signedOff === true || made.upTo === facts.revision) return null;
  return `The book has changed since the ${what} was made: make it again.`;
}

function ebookTold(outlet: Outlet, facts: Facts): Told {
  const { book, edition, account } = facts;
  const links = linksToShops(book, edition.id);
  const made = facts.made[fileFor(book, edition.id, outlet.id)];
  const older = links && made && account && made.madeAt < account.changedAt;
  const usual =
    links && !made
      ? `It links to books in a shop: make the ebook for ${outlet.name}.`
      : fileFault(made, facts, outlet, 'ebook');
  const wanting = outlet.passes.find(
    (s) => s.version !== null && (facts.placing.shops?.includes(s.id) ?? true),
  );
  const fault =
    usual ??
    (older ? 'The affiliate code has changed since the ebook was made: make it again.' : null) ??
    (wanting && edition.form === 'reflow' && edition.version !== wanting.version
      ? `${wanting.name} takes EPUB ${wanting.version} only: choose an ebook in that version, or leave ${wanting.name} out.`
      : null);
  return told(fault === null ? (fileNameAt(outlet, book.record, edition, '.epub') ?? '') : '', fault, {
    ...EDITIONS,
    file: made?.sha256 ?? '',
    shown: links
      ? `made for ${outlet.name}, where its links lead; the checks found no blocker`
      : 'made, and the checks found no blocker',
  });
}

/** A file that goes to an outlet, and what it is called there; null where the record lacks what it is named by. */
export interface FileTo {
  part: FilePart;
  /** What it is made of (`productKeyOf`); '' for the cover’s picture, which is made for the outlet. */
  product: string;
  name: string | null;
}

/** The sample of an ebook; null where the title has none. */
const sampleOf = (book: Book, edition: Edition): Edition | null =>
  book.editions.find((e) => e.form === 'sample' && e.of === edition.id) ?? null;

/** Files that an outlet is sent of an edition, in its order; a sample only where the title has one. */
export function filesTo(outlet: Outlet, facts: Facts): FileTo[] {
  const { book, edition } = facts;
  const name = (ending: string): string | null => fileNameAt(outlet, book.record, edition, ending);
  const to = (part: FilePart): FileTo[] => {
    switch (part) {
      case 'ebook':
        return [{ part, product: fileFor(book, edition.id, outlet.id), name: name('.epub') }];
      case 'word':
        return [{ part, product: wordFileFor(outlet.id), name: name('.docx') }];
      case 'pages':
        return [{ part, product: edition.id, name: name('_pages.pdf') }];
      case 'cover sheet':
        return [{ part, product: coverOf(edition.id), name: name('_cover.pdf') }];
      case 'cover':
        return [{ part, product: '', name: name('.jpg') }];
      case 'sample': {
        const sample = sampleOf(book, edition);
        return sample && facts.made[sample.id]
          ? [{ part, product: sample.id, name: name('_sample.epub') }]
          : [];
      }
    }
  };
  return outlet.files.flatMap(to);
}

/**
 * Tells what goes beside the first file of a parcel from what went before; '' where nothing does. A file that stands in for a
 * final one is told from that one, though it be the same.
 */
export function besideDigest(outlet: Outlet, facts: Facts, provisional = false): string {
  const others = filesTo(outlet, facts)
    .slice(1)
    .map(
      ({ part, product }) =>
        `${part} ${product === '' ? (coverTold(outlet, facts).file ?? '') : (facts.made[product]?.sha256 ?? '')}`,
    );
  if (provisional) others.push('provisional');
  return others.length === 0 ? '' : digestOf(others.join('\n'));
}

const NAMED_BY = {
  isbn: 'Files are named by ISBN there. Give the edition one.',
  title: 'Files are named by title there. Write the title in the record.',
  'title-author': 'Files are named by title and author there. Write both in the record.',
} as const;

function isbnTold(outlet: Outlet, { need }: Asked, edition: Edition, assigned: string): Told {
  const isbn = bareIsbn(edition.isbn || assigned);
  if (isbn === '') return told('', need === 'needed' ? 'Give the edition an ISBN in the record.' : null);
  return told(isbn, isbnFault(isbn) === null ? null : 'The number is not a valid ISBN.', {
    shown: edition.isbn || isbn,
  });
}

/** A file that every outlet is sent alike. */
function madeTold(outlet: Outlet, facts: Facts, product: string, ending: string, what: string): Told {
  const made = facts.made[product];
  return told(
    fileNameAt(outlet, facts.book.record, facts.edition, ending) ?? '',
    fileFault(made, facts, outlet, what),
    { ...EDITIONS, file: made?.sha256 ?? '', shown: 'made, and the checks found no blocker' },
  );
}

export function fileTold(outlet: Outlet, asked: Asked, facts: Facts): Told {
  const { edition } = facts;
  switch (asked.field) {
    case 'isbn':
      return isbnTold(outlet, asked, edition, facts.placing.assigned);
    case 'cover':
      return coverTold(outlet, facts);
    case 'ebook':
      return ebookTold(outlet, facts);
    case 'wordFile':
      return madeTold(outlet, facts, wordFileFor(outlet.id), '.docx', 'manuscript as a word-processor file');
    case 'pagesFile':
      return madeTold(outlet, facts, edition.id, '_pages.pdf', 'printer’s PDF');
    case 'coverFile':
      return madeTold(outlet, facts, coverOf(edition.id), '_cover.pdf', 'cover');
    case 'sample': {
      const sample = sampleOf(facts.book, edition);
      return sample ? madeTold(outlet, facts, sample.id, '_sample.epub', 'sample') : told('', null);
    }
    default: {
      const names = filesTo(outlet, facts)
        .filter((f) => f.part !== 'cover' && f.part !== 'sample')
        .map((f) => f.name);
      return told(
        names.join(', '),
        names.includes(null) ? NAMED_BY[outlet.fileName] : null,
        names.length > 1 ? { parts: names.filter((n): n is string => n !== null) } : {},
      );
    }
  }
}

function coverTold(outlet: Outlet, { book }: Facts): Told {
  const { record, cover, pictures } = book;
  const picture = pictures.find((p) => p.id === record.cover);
  const set = setsFront(book);
  const small = picture !== undefined && !set && picture.height < outlet.cover.least;
  const fault = small
    ? `The cover is ${picture.height} pixels high; ${outlet.name} needs ${outlet.cover.least}.`
    : picture || cover.front !== null
      ? null
      : 'Choose a picture in the record, or have a cover set in Design.';
  return told('cover.jpg', fault, {
    file: `${record.cover} ${set ? JSON.stringify(cover) : ''}`,
    shown: set ? 'set from the record’s words' : 'a picture is set',
  });
}
