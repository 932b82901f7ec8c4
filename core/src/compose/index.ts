export * from './composition';
export * from './compose';
export * from './display';
export { type PagePlan } from './pages';
export {
  breakLines,
  otherLengths,
  MAX_LADDER,
  DEMERITS,
  type Broken,
  type SetLine,
  type LineWidths,
} from './lines';
export { breakpointsOf, Kind } from './breakpoints';
export { ParagraphBuilder, Spaces, After, type Paragraph } from './paragraph';
export { planPages, type PageShape, type Plan } from './pages';
export { type FlowBlock, type Variant } from './flow';
