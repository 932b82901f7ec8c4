export * from './isbn';
export * from './record';
