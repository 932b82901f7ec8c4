export * from './cold';
export * from './places';
export * from './faces';
export * from './pictures';
export * from './print';
export * from './bookfile';
export * from './ebook';
export * from './strays';
