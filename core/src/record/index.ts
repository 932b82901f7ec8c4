export * from './isbn';
export * from './isbnblock';
export * from './codes';
export * from './thema';
export * from './countries';
export * from './names';
export * from './record';
export * from './clauses';
