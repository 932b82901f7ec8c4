/**
 * What outlets ask of an ebook beyond the standard. That they differ in these ways is common practice; the outlets and
 * their figures are invented.
 */
export interface EbookDemands {
  /** Versions of EPUB that it takes. */
  versions: readonly ('3' | '2')[];
  /** Bytes of the largest file, and of the largest page in it, that it takes. */
  most: { file: number; page: number };
  /** Pixels, width by height, of the largest picture. */
  pixels: number;
  /** Media types of pictures. */
  pictures: readonly string[];
  /** Least height of the cover in pixels; 0 where it takes an ebook without one, its cover coming apart. */
  cover: number;
  /** Whether it takes pages of a fixed size, sound and film, and scripts. */
  fixed: boolean;
  media: boolean;
  scripts: boolean;
  /** Fewest entries of the contents. */
  contents: number;
  /** Whether the book’s identifier has to be an ISBN. */
  isbn: boolean;
  /** Primary languages that it sells, by BCP 47; null for all. */
  languages: readonly string[] | null;
}
export interface EbookOutlet {
  id: string;
  name: string;
  /** Where it sells: the hosts of its addresses. */
  hosts: readonly string[];
  /** What a file that is sent to it has to be called by. */
  fileName: 'title' | 'isbn' | 'title-author';
  ebook: EbookDemands;
}

const MB = 1_000_000;
const PICTURES = ['image/jpeg', 'image/png', 'image/gif', 'image/svg+xml'];

export const EBOOK_OUTLETS: readonly EbookOutlet[] = [
  {
    id: 'lanternquay',
    name: 'Lanternquay',
    hosts: ['lanternquay.example'],
    fileName: 'title',
    ebook: {
      versions: ['3', '2'],
      most: { file: 400 * MB, page: 2 * MB },
      pixels: 8 * MB,
      pictures: PICTURES,
      cover: 1_000,
      fixed: true,
      media: false,
      scripts: false,
      contents: 2,
      isbn: false,
      languages: null,
    },
  },
  {
    id: 'marram',
    name: 'Marram',
    hosts: ['marram.example'],
    fileName: 'isbn',
    ebook: {
      versions: ['3'],
      most: { file: 2_000 * MB, page: 5 * MB },
      pixels: 6 * MB,
      pictures: [...PICTURES, 'image/webp'],
      cover: 1_400,
      fixed: true,
      media: true,
      scripts: true,
      contents: 1,
      isbn: false,
      languages: null,
    },
  },
  {
    id: 'packstone',
    name: 'Packstone',
    hosts: ['packstone.example'],
    fileName: 'isbn',
    ebook: {
      versions: ['3', '2'],
      most: { file: 60 * MB, page: 1 * MB },
      pixels: 6 * MB,
      pictures: ['image/jpeg', 'image/png', 'image/gif'],
      cover: 800,
      fixed: false,
      media: false,
      scripts: false,
      contents: 2,
      isbn: true,
      languages: null,
    },
  },
  {
    id: 'plover',
    name: 'Plover',
    hosts: ['plover.example'],
    fileName: 'title-author',
    ebook: {
      versions: ['2'],
      most: { file: 20 * MB, page: 300_000 },
      pixels: 3 * MB,
      pictures: ['image/jpeg', 'image/png', 'image/gif'],
      cover: 800,
      fixed: false,
      media: false,
      scripts: false,
      contents: 1,
      isbn: false,
      languages: ['en', 'de', 'fr', 'es', 'it', 'nl', 'pt'],
    },
  },
  {
    id: 'pocketfell',
    name: 'Pocketfell',
    hosts: ['pocketfell.example'],
    fileName: 'title',
    ebook: {
      versions: ['3'],
      most: { file: 100 * MB, page: 1 * MB },
      pixels: 6 * MB,
      pictures: PICTURES,
      cover: 0,
      fixed: false,
      media: true,
      scripts: false,
      contents: 1,
      isbn: false,
      languages: null,
    },
  },
  {
    id: 'shelfmoor',
    name: 'Shelfmoor',
    hosts: ['shelfmoor.example'],
    fileName: 'isbn',
    ebook: {
      versions: ['3', '2'],
      most: { file: 250 * MB, page: 3 * MB },
      pixels: 8 * MB,
      pictures: PICTURES,
      cover: 1_600,
      fixed: true,
      media: false,
      scripts: false,
      contents: 2,
      isbn: true,
      languages: null,
    },
  },
];
