export * from './write';
export { idIn } from './ids';
