/** What an outlet asks for, as data: a row of fields in the order of its own form, each with its limits. */

/** Fields in the order in which the ledger lists them, with what Pagina calls them. */
export const OUTLET_FIELDS = {
  title: 'Title',
  subtitle: 'Subtitle',
  series: 'Series',
  volume: 'Volume',
  edition: 'Edition',
  authors: 'Author',
  contributors: 'Other contributors',
  imprint: 'Imprint',
  language: 'Language',
  published: 'Day of publication',
  description: 'Description',
  shortDescription: 'Short description',
  keywords: 'Keywords',
  subjects: 'Subjects',
  audience: 'Audience',
  ages: 'Ages',
  adult: 'Adult content',
  publicDomain: 'Public domain',
  rights: 'Rights',
  isbn: 'ISBN',
  pages: 'Pages',
  trim: 'Trim',
  paper: 'Paper',
  binding: 'Binding',
  price: 'Price',
  libraryPrice: 'Library price',
  bundlePrice: 'Price with the printed book',
  territories: 'Territories',
  shops: 'Shops',
  plan: 'Share of a sale',
  exclusive: 'Exclusivity',
  protection: 'Copy protection',
  lending: 'Lending',
  copies: 'Copying',
  preview: 'Preview',
  preorder: 'Pre-order',
  cover: 'Cover',
  ebook: 'Ebook',
  pagesFile: 'PDF of the pages',
  coverFile: 'PDF of the cover',
  sample: 'Sample',
  wordFile: 'Word-processor file',
  name: 'File name',
} as const;
export type OutletField = keyof typeof OUTLET_FIELDS;
export const FIELDS_IN_ORDER = Object.keys(OUTLET_FIELDS) as OutletField[];

export interface Asked {
  field: OutletField;
  /** What the outlet's own form calls it. */
  called: string;
  need: 'needed' | 'optional';
  /** Of a text in characters, of a list in entries, of a share in hundredths, of a pre-order in days ahead. */
  least?: number;
  most?: number;
  /** Whether a text may have simple markup, and whether that counts towards its length. */
  markup?: 'taken' | 'counted';
  /** Words that each keyword may have. */
  words?: number;
  /** What stands between the entries of a list in one box; absent where each has a box of its own. */
  between?: string;
  /** How it is written: an edition as a number, in words or as an ONIX code; names in one box or in two; subjects by code or by the outlet's own shelves. */
  as?: 'number' | 'words' | 'code' | 'one' | 'two' | 'shelves';
  /** Why it is asked so, or what happens without it. */
  note?: string;
}

/** A field as data, short to write down. */
export const asked = (
  field: OutletField,
  called: string,
  need: Asked['need'] = 'needed',
  more: Omit<Asked, 'field' | 'called' | 'need'> = {},
): Asked => ({ field, called, need, ...more });
