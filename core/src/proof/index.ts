export * from './impression';
export { impressionOfPages } from './pages';
export { impressionOfEbook } from './ebook';
export * from './difference';
export * from './addresses';
export * from './signing';
export * from './comment';
