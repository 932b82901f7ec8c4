/** Puts the demo titles into an empty database. `PAGINA_DATA` is its folder. */
import { readFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Fragment, type Node } from 'prosemirror-model';
import { pictureInfo } from '@pagina/core/base';
import { apply, placingSchema, type Book, type Placing } from '@pagina/core/book';
import { arrivalOf, readManuscript } from '@pagina/core/intake';
import { addAtItsPlace } from '@pagina/core/order';
import { changeOfEdits, tidyReferences } from '@pagina/core/tidy';
import { isbn13CheckDigit, type BookRecord } from '@pagina/core/record';
import { acceptArrival, changeImprint, createTitle, keepBytes, openStore } from '@pagina/data';
import { connectOutlets } from './connections';
import { relateBooks } from './relate';
import { manuscript } from './manuscript';
import { demoPictures } from './pictures';
import { scene } from './scenes';
import { pictureBook, picturesShown } from './tamsin';
import { letters } from './letters';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '../..');
/** 979-9 is given to no registration group, so these numbers belong to nobody. */
const isbn = (n: number): string => {
  const first = `9799000${String(n).padStart(5, '0')}`;
  return `979-9-000-${String(n).padStart(5, '0')}-${isbn13CheckDigit(first)}`;
};

/** Wide pictures stand at the heads of pages, so that the text before them has no hole. */
const withPicturesAtHeads = (doc: Node): Node =>
  doc.copy(
    Fragment.fromArray(
      doc.children.map((n) =>
        n.type.name === 'figure' ? n.type.create({ ...n.attrs, place: 'head' }, n.content) : n,
      ),
    ),
  );

interface Demo {
  texts: string[];
  cover: string;
  record: Partial<BookRecord>;
  isbns: [number, number];
  trim: string;
  interior?: string;
  /** Settings that depart from the interior. */
  set?: Record<string, unknown>;
  /** List price of the paperback in pence. */
  printed?: number;
  /** Outlets to which it goes, with what was chosen there. */
  placing?: Record<string, Partial<Placing>>;
  /** Its figures and tables are numbered, and its words that refer become references. */
  pointed?: boolean;
}
const imprint = { imprint: 'Tidewrack Press', place: 'Pellmouth' };
const DEMOS: Demo[] = [
  {
    texts: ['winter-ferry.txt'],
    cover: 'cover-ferry',
    isbns: [11, 12],
    trim: '5 × 8 in',
    record: {
      ...imprint,
      year: '2025',
      description: 'A short story of the last boat of the night, and who was on it.',
      keywords: ['short story', 'ferries', 'winter'],
      price: { minor: 199, currency: 'GBP' },
    },
  },
  {
    texts: ['roof-bees-1.txt', 'roof-bees-2.txt'],
    cover: 'cover-bees',
    isbns: [13, 14],
    trim: '6 × 9 in',
    interior: 'Rushlight',
    set: { 'notes.at': 'foot', 'contents.numbers': true },
    pointed: true,
    record: {
      ...imprint,
      year: '2026',
      description:
        'What a beginner needs to know before, during and after a first year of bees above the street.',
      keywords: ['beekeeping', 'city gardens', 'how-to'],
      price: { minor: 599, currency: 'GBP' },
    },
  },
  {
    texts: ['salt-clerk-1.txt', 'salt-clerk-2.txt', 'salt-clerk-3.txt'],
    cover: 'cover-salt',
    isbns: [15, 16],
    trim: '5.5 × 8.5 in',
    printed: 1_099,
    placing: {
      lanternquay: {},
      marram: { rights: true },
      pocketfell: { rights: true, preview: 15, copies: 10 },
      shelfmoor: { rights: true },
      packstone: { shops: ['gannetstone', 'fernhythe', 'tollgate-lane'] },
      quayhead: {},
      sallowby: { preview: 20 },
    },
    record: {
      ...imprint,
      year: '2026',
      price: { minor: 499, currency: 'GBP' },
      keywords: ['salt', 'estuaries', 'ledgers', 'seaside towns', 'debts repaid'],
      published: '2027-02-12',
      shortDescription:
        'Three days, one ledger, and three hundred and seven baskets that belong to somebody else.',
      subjects: ['FBA', 'FS', 'FXR'],
      prices: [{ minor: 599, currency: 'USD' }],
      description:
        'When old Abel Quillan is buried, the tide goes out farther than anyone has seen it go. His granddaughter Nessa stays three days to close his books, and finds a line of pencil that does not belong there, and three hundred and seven baskets that belong to somebody else.',
    },
  },
];

/** As its author would leave it: numbers made by the book, references that follow, lists of figures and tables. */
function pointed(book: Book): Book {
  const numbered: Book = {
    ...book,
    numbering: { ...book.numbering, figures: 'by-chapter', tables: 'by-chapter' },
  };
  const change = changeOfEdits(numbered, tidyReferences(numbered), 'Cross-references');
  const done = change && apply(numbered, change);
  if (!done?.ok) throw new Error('the references could not be made');
  let now = done.value.book;
  for (const kind of ['list-of-figures', 'list-of-tables'] as const) {
    const added = addAtItsPlace(now, kind, () => `list-${kind}`);
    const next = added.ok ? apply(now, added.value) : null;
    if (next?.ok) now = next.value.book;
  }
  return now;
}

/** The picture book, laid out page by page. */
async function pictureBookWithFiles(): Promise<{ book: Book; files: Map<string, Uint8Array> }> {
  const files = new Map<string, Uint8Array>();
  for (const name of picturesShown) files.set(name, await scene(name));
  const set = await letters();
  const pale = '#f4ebd7';
  const words = [
    set('Tamsin', 110, 140, 0, pale, 500),
    set('Minds the Light', 110, 256, 0, pale, 500),
    set('Ivy Coldharbour', 44, 950, 3, pale, 500),
  ];
  files.set('cover', await scene('title', words.join('')));
  const book = pictureBook();
  const sizeOf = (bytes: Uint8Array) => pictureInfo(bytes) ?? { width: 1, height: 1 };
  return {
    files,
    book: {
      ...book,
      record: {
        ...book.record,
        ...imprint,
        year: '2026',
        cover: 'cover',
        price: { minor: 399, currency: 'GBP' },
        keywords: ['picture book', 'lighthouses', 'fog', 'bedtime'],
        description:
          'The fog has come in, Grandfather is across the bay, and the lamp is dark. There are one hundred and twelve steps.',
      },
      editions: book.editions.map((e, i) => ({ ...e, isbn: isbn(17 + i), date: '2026-09-01' })),
      pictures: [...files].map(([id, bytes]) => {
        const { width, height } = sizeOf(bytes);
        return { id, name: `${id}.jpg`, type: 'image/jpeg', width, height };
      }),
    },
  };
}

/** The book with its files in the store. */
async function withStored(book: Book, files: ReadonlyMap<string, Uint8Array>): Promise<Book> {
  const kept = new Map<string, string>();
  for (const [id, bytes] of files) kept.set(id, (await keepBytes(store, bytes)).sha256);
  return { ...book, pictures: book.pictures.map((p) => ({ ...p, sha256: kept.get(p.id) })) };
}

const store = await openStore(process.env.PAGINA_DATA ?? join(root, 'var/demo'), join(root, 'data/drizzle'));
const pictures = await demoPictures();
for (const demo of DEMOS) {
  const source = demo.texts.map((t) => readFileSync(join(root, 'demo/texts', t), 'utf8')).join('\n');
  const read = await readManuscript((await manuscript(source, pictures)).docx);
  if (!read.ok) throw new Error(read.refusal.message);
  const { book, files } = read.value;
  files.set('cover', pictures.get(demo.cover) as Uint8Array);
  const size = pictureInfo(files.get('cover') as Uint8Array);
  const withFiles: Book = {
    ...book,
    sections: book.sections.map((s) => ({ ...s, content: withPicturesAtHeads(s.content) })),
    record: { ...book.record, ...demo.record, cover: 'cover' },
    pictures: [
      ...book.pictures,
      {
        id: 'cover',
        name: 'cover.png',
        type: 'image/png',
        width: size?.width ?? 1,
        height: size?.height ?? 1,
      },
    ],
    placing: Object.fromEntries(
      Object.entries(demo.placing ?? {}).map(([outlet, p]) => [
        outlet,
        placingSchema.parse({ chosen: true, ...p }),
      ]),
    ),
    editions: book.editions.map((e, i) => ({
      ...e,
      isbn: isbn(demo.isbns[i] as number),
      trim: demo.trim,
      interior: demo.interior ?? e.interior,
      design: { from: {}, set: demo.set ?? {} },
      ...(e.form === 'print' && demo.printed ? { price: { minor: demo.printed, currency: 'GBP' } } : {}),
      date: `${demo.record.year}-09-01`,
    })),
  };
  const seeded = demo.pointed ? pointed(withFiles) : withFiles;
  const id = await createTitle(
    store,
    await withStored(seeded, files),
    undefined,
    arrivalOf(read.value, `${book.record.title}.docx`),
  );
  await acceptArrival(store, id);
}
const laidOut = await pictureBookWithFiles();
await createTitle(store, await withStored(laidOut.book, laidOut.files));
await relateBooks(store);
await changeImprint(store, {
  set: 'house',
  house: { name: 'Tidewrack Press', place: 'Pellmouth', web: 'https://tidewrack.example' },
});
await connectOutlets(store, root);
