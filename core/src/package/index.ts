export * from './addresses';
export * from './navigation';
export * from './read';
export * from './reading';
export * from './sizes';
