export * from './write';
export { idIn } from './ids';
export { fixedPages, type FixedInput, type FixedPages } from './fixed';
