export { Assembler, type SectionGuess, type SetAside } from './assemble';
export { type TidyCount } from './inline';
