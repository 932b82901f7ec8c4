export * from './schema';
export * from './kinds';
export * from './model';
export * from './ids';
export * from './changes';
export * from './arrival';
export * from './numbering';
export * from './compare';
