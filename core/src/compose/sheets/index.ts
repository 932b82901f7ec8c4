export * from './sheet';
export * from './composition';
export * from './display';
export * from './textline';
