export * from './write';
