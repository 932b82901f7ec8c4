export * from './units';
export * from './finding';
export * from './outcome';
export * from './zip';
export * from './xml';
export * from './language';
export * from './picture';
export * from './manuscripts';
