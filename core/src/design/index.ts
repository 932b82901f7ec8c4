export * from './trims';
export * from './families';
export * from './design';
export * from './interiors/index';
export * from './margins';
export * from './interior';
export * from './editions';
