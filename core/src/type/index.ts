export * from './harfbuzz';
export * from './face';
export * from './subset';
export * from './hyphenation';
export * from './style';
export * from './wordbook';
export * from './family';
export * from './hang';
