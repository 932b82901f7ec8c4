export * from './printing';
export * from './printer';
export * from './fit';
export * from './ebooks';
export * from './listed';
