export * from './rules';
export * from './epub';
export * from './pdf';
export * from './agreement';
export * from './book';
export * from './glyphs';
export * from './pages';
