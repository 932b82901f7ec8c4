export * from './printing';
