export * from './demands';
