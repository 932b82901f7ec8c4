export * from './source-text';
export * from './missing';
