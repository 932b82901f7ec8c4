export * from './open';
export * from './files';
export * from './titles';
export * from './jobs';
export * from './products';
export { titles } from './schema';
export * from './listings';
export * from './arrivals';
export * from './refusals';
