export * from './faces';
export * from './pictures';
export * from './print';
export * from './bookfile';
export * from './ebook';
