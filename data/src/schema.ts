/** Tables. Times are milliseconds since 1970; JSON columns hold what core's Zod schemas read. */
import { index, integer, primaryKey, sqliteTable, text } from 'drizzle-orm/sqlite-core';

export const titles = sqliteTable('titles', {
  id: text('id').primaryKey(),
  /** Record, order, editions and pictures of the book: everything but the sections' text. */
  meta: text('meta').notNull(),
  revision: integer('revision').notNull().default(0),
  words: integer('words').notNull().default(0),
  createdAt: integer('created_at').notNull(),
  changedAt: integer('changed_at').notNull(),
  deletedAt: integer('deleted_at'),
});

/** Names that the author gave to the book as it was at a revision. */
export const versions = sqliteTable(
  'versions',
  {
    id: text('id').primaryKey(),
    title: text('title').notNull(),
    name: text('name').notNull(),
    revision: integer('revision').notNull(),
    at: integer('at').notNull(),
  },
  (t) => [index('versions_title').on(t.title, t.at)],
);

/** How a title's manuscript was read; looked over and accepted, or not yet. */
export const arrivals = sqliteTable('arrivals', {
  title: text('title').primaryKey(),
  arrival: text('arrival').notNull(),
  acceptedAt: integer('accepted_at'),
});

/** Changes that the author was offered and does not want, by what the offer says. */
export const dismissals = sqliteTable(
  'refusals',
  {
    title: text('title').notNull(),
    key: text('key').notNull(),
  },
  (t) => [primaryKey({ columns: [t.title, t.key] })],
);

export const sections = sqliteTable(
  'sections',
  {
    title: text('title').notNull(),
    id: text('id').notNull(),
    content: text('content').notNull(),
  },
  (t) => [primaryKey({ columns: [t.title, t.id] })],
);

/** The log: every change with its inverse, in order. Undo and redo are changes too. */
export const changes = sqliteTable(
  'changes',
  {
    title: text('title').notNull(),
    revision: integer('revision').notNull(),
    client: text('client').notNull(),
    /** The person who did it. */
    actor: text('actor').notNull().default('author'),
    /** Names of the requests that brought it, in one line: it is saved once, however often it was sent. */
    requests: text('requests').notNull().default(''),
    change: text('change').notNull(),
    /** Whether no file shows it: files made before are still the book's. */
    beside: integer('beside', { mode: 'boolean' }).notNull().default(false),
    inverse: text('inverse').notNull(),
    label: text('label').notNull(),
    at: integer('at').notNull(),
    /** The revision that this row undoes, or null. */
    undoes: integer('undoes'),
    /** The revision of the undoing that this row redoes, or null. */
    redoes: integer('redoes'),
    /** 1 once it is undone; of an undoing, once it is redone. */
    undone: integer('undone').notNull().default(0),
  },
  (t) => [primaryKey({ columns: [t.title, t.revision] })],
);

/**
 * A number for every title that grows whenever anything of it changes: its log, its jobs, its files, its listings. Triggers
 * count, so that no writer can forget to. Whoever shows a title asks for this number alone until it has grown.
 */
export const pulses = sqliteTable(
  'pulses',
  {
    /** '' for what belongs to no title yet. */
    title: text('title').primaryKey(),
    /** Grows over all titles: the highest is the latest. */
    at: integer('at').notNull(),
  },
  (t) => [index('pulses_at').on(t.at)],
);

export const files = sqliteTable('files', {
  sha256: text('sha256').primaryKey(),
  size: integer('size').notNull(),
  createdAt: integer('created_at').notNull(),
});

export const jobs = sqliteTable(
  'jobs',
  {
    id: text('id').primaryKey(),
    kind: text('kind').notNull(),
    title: text('title'),
    /** The person who asked for it. */
    actor: text('actor').notNull().default('author'),
    payload: text('payload').notNull(),
    state: text('state').notNull(),
    attempts: integer('attempts').notNull().default(0),
    leaseUntil: integer('lease_until').notNull().default(0),
    worker: text('worker').notNull().default(''),
    stage: text('stage').notNull().default(''),
    /** Thousandths done of the stage. */
    share: integer('share').notNull().default(0),
    stop: integer('stop').notNull().default(0),
    result: text('result'),
    error: text('error'),
    createdAt: integer('created_at').notNull(),
    changedAt: integer('changed_at').notNull(),
  },
  (t) => [index('jobs_state').on(t.state, t.createdAt), index('jobs_title').on(t.title)],
);

/** Files that were made of an edition. */
export const products = sqliteTable(
  'products',
  {
    id: text('id').primaryKey(),
    title: text('title').notNull(),
    edition: text('edition').notNull(),
    name: text('name').notNull(),
    sha256: text('sha256').notNull(),
    size: integer('size').notNull(),
    revision: integer('revision').notNull(),
    pages: integer('pages').notNull().default(0),
    findings: text('findings').notNull(),
    /** SHA-256 of its impression, a compressed JSON file; '' where none was taken. */
    impression: text('impression').notNull().default(''),
    /** JSON: what of the edition a file that others made was checked against; '' for one that Pagina made. */
    fit: text('fit').notNull().default(''),
    madeAt: integer('made_at').notNull(),
  },
  (t) => [index('products_title').on(t.title, t.madeAt)],
);

/** Pages and documents that were read in proof, by the mark of what they show. */
export const readViews = sqliteTable(
  'read_views',
  {
    title: text('title').notNull(),
    edition: text('edition').notNull(),
    mark: text('mark').notNull(),
    actor: text('actor').notNull().default('author'),
    at: integer('at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.title, t.edition, t.mark] })],
);

/** Comments on pages, and answers to them. */
export const comments = sqliteTable(
  'comments',
  {
    id: text('id').primaryKey(),
    title: text('title').notNull(),
    edition: text('edition').notNull(),
    /** The comment that it answers; '' for none. */
    answers: text('answers').notNull().default(''),
    words: text('words').notNull(),
    /** JSON: what it is about. */
    about: text('about').notNull(),
    actor: text('actor').notNull().default('author'),
    at: integer('at').notNull(),
    closedAt: integer('closed_at'),
  },
  (t) => [index('comments_title').on(t.title, t.at)],
);

/** Files that were signed off, and stay. */
export const signOffs = sqliteTable(
  'sign_offs',
  {
    id: text('id').primaryKey(),
    title: text('title').notNull(),
    edition: text('edition').notNull(),
    product: text('product').notNull(),
    sha256: text('sha256').notNull(),
    revision: integer('revision').notNull(),
    engine: integer('engine').notNull(),
    views: integer('views').notNull(),
    actor: text('actor').notNull().default('author'),
    at: integer('at').notNull(),
    /** When it was undone. */
    withdrawnAt: integer('withdrawn_at'),
  },
  (t) => [index('sign_offs_title').on(t.title, t.at)],
);

/** A title at an outlet. */
export const listings = sqliteTable('listings', {
  id: text('id').primaryKey(),
  title: text('title').notNull(),
  outlet: text('outlet').notNull(),
  edition: text('edition').notNull(),
  product: text('product').notNull(),
  state: text('state').notNull(),
  /** The outlet's own number for it. */
  reference: text('reference').notNull().default(''),
  link: text('link').notNull().default(''),
  /** JSON: what the outlet lists, as it was told or has said since; '' before it was told anything. */
  listed: text('listed').notNull().default(''),
  /** JSON: what it was told last, by field; '' where that wasn't noted. */
  told: text('told').notNull().default(''),
  /** JSON: what it found beside what happened; '' for nothing yet. */
  found: text('found').notNull().default(''),
  /** Whether the outlet is to be asked after it as soon as may be. */
  wanted: integer('wanted', { mode: 'boolean' }).notNull().default(false),
  changedAt: integer('changed_at').notNull(),
});
/** Files that an outlet took for a listing, in order: the last is the one that it has. */
export const deliveries = sqliteTable(
  'deliveries',
  {
    listing: text('listing').notNull(),
    /** From 0. */
    number: integer('number').notNull(),
    product: text('product').notNull(),
    sha256: text('sha256').notNull(),
    /** Checksum of what else was in the parcel; '' for a file that came alone. */
    beside: text('beside').notNull().default(''),
    at: integer('at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.listing, t.number] })],
);
export const listingEvents = sqliteTable(
  'listing_events',
  {
    id: text('id').primaryKey(),
    listing: text('listing').notNull(),
    at: integer('at').notNull(),
    state: text('state').notNull(),
    words: text('words').notNull(),
  },
  (t) => [index('events_listing').on(t.listing, t.at)],
);

/** What the imprint has with an outlet. */
export const accounts = sqliteTable('accounts', {
  outlet: text('outlet').primaryKey(),
  /** The code that goes into links to books at the outlet; empty for none. */
  affiliate: text('affiliate').notNull().default(''),
  changedAt: integer('changed_at').notNull(),
  /** The account's key, sealed; '' for none. */
  sealed: text('sealed').notNull().default(''),
});

/** What else belongs to the imprint and to no title: one row of JSON. */
export const imprint = sqliteTable('imprint', {
  id: integer('id').primaryKey(),
  value: text('value').notNull(),
  changedAt: integer('changed_at').notNull(),
});

/** The imprint's block of ISBNs, by their thirteen digits. */
export const isbns = sqliteTable('isbns', {
  number: text('number').primaryKey(),
  addedAt: integer('added_at').notNull(),
  /** The title and edition that it was given to; '' for none. It is given to no other. */
  title: text('title').notNull().default(''),
  edition: text('edition').notNull().default(''),
});

/** Pages about books, for readers, by the name in their address. */
export const bookPages = sqliteTable('book_pages', {
  name: text('name').primaryKey(),
  title: text('title').notNull().unique(),
});

/** Trims of the imprint's own by name. */
export const trims = sqliteTable('trims', {
  name: text('name').primaryKey(),
  size: text('size').notNull(),
});

/** Choices of editions, kept under a name for other titles. */
export const keptEditions = sqliteTable('kept_editions', {
  name: text('name').primaryKey(),
  /** JSON: an edition without what belongs to its title. */
  choices: text('choices').notNull(),
});

/** Designs of the imprint's own, kept under a name for other titles. */
export const designs = sqliteTable('designs', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  /** JSON: interior, design, trim. */
  choice: text('choice').notNull(),
  keptAt: integer('kept_at').notNull(),
});

/** EPUBs that were opened as they are. */
export const ebooks = sqliteTable('ebooks', {
  id: text('id').primaryKey(),
  /** Of the file that was opened. */
  name: text('name').notNull(),
  sha256: text('sha256').notNull(),
  /** JSON: the parts as they are now, in the order of the container; texts have rows of their own. */
  parts: text('parts').notNull(),
  revision: integer('revision').notNull().default(0),
  createdAt: integer('created_at').notNull(),
  changedAt: integer('changed_at').notNull(),
  deletedAt: integer('deleted_at'),
});

/** Parts of text that are other than in the file that was opened. */
export const ebookTexts = sqliteTable(
  'ebook_texts',
  {
    ebook: text('ebook').notNull(),
    path: text('path').notNull(),
    /** JSON: text, encoding and mark of byte order. */
    content: text('content').notNull(),
  },
  (t) => [primaryKey({ columns: [t.ebook, t.path] })],
);

/** What was done to an ebook, in order. Undo and redo are rows too. */
export const ebookChanges = sqliteTable(
  'ebook_changes',
  {
    ebook: text('ebook').notNull(),
    revision: integer('revision').notNull(),
    client: text('client').notNull(),
    /** The person who did it. */
    actor: text('actor').notNull().default('author'),
    /** Name of the request that brought it: it is saved once, however often it was sent. */
    request: text('request').notNull().default(''),
    /** JSON: changes of parts. */
    changes: text('changes').notNull(),
    label: text('label').notNull(),
    at: integer('at').notNull(),
    /** The revision that this row undoes, or null. */
    undoes: integer('undoes'),
    /** The revision of the undoing that this row redoes, or null. */
    redoes: integer('redoes'),
    /** 1 once it is undone; of an undoing, once it is redone. */
    undone: integer('undone').notNull().default(0),
  },
  (t) => [primaryKey({ columns: [t.ebook, t.revision] })],
);
