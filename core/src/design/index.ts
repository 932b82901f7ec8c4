export * from './interior';
