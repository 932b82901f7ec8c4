export * from './isbn';
export * from './names';
export * from './record';
export * from './clauses';
