export * from './open';
export * from './files';
export { archiveOf, type Archived } from './archive';
export {
  createTitle,
  insertTitle,
  listTitles,
  readTitle,
  readTitleBare,
  readTitleJson,
  revisionOf,
  setDeleted,
  type NewTitle,
  type TitleRow,
} from './titles';
export { changesSince, type LoggedChange } from './log';
export * from './saving';
export * from './undo';
export * from './jobs';
export * from './products';
export * from './proofs';
export { titles } from './schema';
export * from './listings';
export * from './news';
export * from './people';
export * from './related';
export * from './arrivals';
export * from './dismissals';
export * from './versions';
export * from './designs';
export * from './kept-editions';
export * from './accounts';
export * from './book-pages';
export * from './covers';
export * from './imprint';
export * from './isbns';
export * from './ebooks';
export * from './trims';
export * from './pulses';
