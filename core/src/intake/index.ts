export * from './read';
export { type SectionGuess, type SetAside } from './assemble';
