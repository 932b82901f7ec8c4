export * from './printing';
export * from './printer';
