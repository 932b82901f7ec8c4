export * from './file';
export { type FontTools } from './font';
