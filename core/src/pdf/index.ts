export * from './file';
export { type FontTools } from './font';
export { type PdfKind } from './standards';
export * from './drawing';
export * from './drawing-file';
