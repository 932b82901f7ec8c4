export { formatOf, type Format } from './formats';
export * from './read';
export { type SectionGuess, type SetAside } from './assemble';
export { wordsOfSection } from './account';
