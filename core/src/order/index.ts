export * from './number';
export * from './contents';
export * from './rearrange';
export * from './standing';
export * from './putback';
