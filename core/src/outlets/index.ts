export * from './ebooks';
export * from './outlets';
export * from './links';
export * from './demands';
