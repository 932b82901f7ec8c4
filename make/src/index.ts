export * from './faces';
