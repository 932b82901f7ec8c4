export * from './edits';
export * from './fields';
export * from './find';
export * from './making';
export * from './spelling';
export * from './tidy';
export * from './typing';
export { RULE_NAMES, type RuleName } from './rules';
export { styleFor, type TypographicStyle } from './styles';
