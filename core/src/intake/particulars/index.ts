export * from './copyright';
export * from './fill';
export * from './sheet';
