export * from './file';
export { type FontTools } from './font';
export { screenFacts } from './facts';
export { type ScreenFacts } from './screen';
export { type PdfKind } from './standards';
export * from './drawing';
export * from './drawing-file';
