/**
 * What is typed and not saved yet, kept in the browser (IndexedDB): it outlives a reload, a crash and a closed lid. A
 * record holds all unsaved steps of one section in one window, and the names of the requests that may have brought them.
 */
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';

export interface Unsaved {
  title: string;
  /** Name of the window (`tab.ts`), and of the visit to the page. */
  client: string;
  page: string;
  section: string;
  /** Name of the section, for people. */
  heading: string;
  base: number;
  steps: unknown[];
  request: string;
  earlier: string[];
  /** The words that the steps bring, for people. */
  words: string;
  at: number;
}
interface Schema extends DBSchema {
  unsaved: { key: [title: string, page: string, section: string]; value: Unsaved };
}

/** Where what is unsaved lies. */
export interface Backlog {
  put: (u: Unsaved) => Promise<void>;
  drop: (title: string, page: string, section: string) => Promise<void>;
  of: (title: string) => Promise<Unsaved[]>;
}

let opened: Promise<IDBPDatabase<Schema>> | null = null;
const database = (): Promise<IDBPDatabase<Schema>> =>
  (opened ??= openDB<Schema>('pagina', 1, {
    upgrade: (db) => void db.createObjectStore('unsaved', { keyPath: ['title', 'page', 'section'] }),
  }));

/** A browser that gives no room (a private window, a full disk) keeps nothing; saving goes on without. */
const orNothing = async <T>(work: Promise<T>, nothing: T): Promise<T> => work.catch(() => nothing);

export const browserBacklog: Backlog = {
  put: (u) =>
    orNothing(
      database().then(async (db) => void (await db.put('unsaved', u))),
      undefined,
    ),
  drop: (...key) =>
    orNothing(
      database().then((db) => db.delete('unsaved', key)),
      undefined,
    ),
  of: (title) =>
    orNothing(
      database().then((db) => db.getAll('unsaved', IDBKeyRange.bound([title], [title, [], []]))),
      [],
    ),
};
