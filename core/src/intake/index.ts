export { formatOf, type Format } from './readers';
export * from './delivery';
export { type ConvertPicture, type Pixels } from './raw';
export * from './read';
export { particularsIn } from './particulars';
export { type SectionGuess, type SetAside } from './assembly';
export { wordsOfSection } from './account';
