export { Assembler, type SectionGuess } from './assemble';
export { type TidyCount } from './inline';
export { type SetAside } from './nodes';
