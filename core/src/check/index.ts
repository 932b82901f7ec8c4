export * from './rules';
export * from './epub';
export { accessReport, type AccessReport } from './epub-access';
export * from './pdf';
export * from './agreement';
export * from './book';
export * from './glyphs';
export * from './pages';
