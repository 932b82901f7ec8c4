export * from './outlets';
export * from './links';
export * from './demands';
export * from './changes';
export * from './filenames';
