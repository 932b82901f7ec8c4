export * from './composition';
export * from './compose';
export * from './cache';
export * from './sheet';
export * from './display';
export { partOf, type LinePart } from './lineparts';
export { type PagePlan, type PageShape, type Plan } from './pagestate';
export {
  breakLines,
  otherLengths,
  MAX_LADDER,
  DEMERITS,
  type Broken,
  type SetLine,
  type LineWidths,
} from './lines';
export { Divider } from './divide';
export { breakpointsOf, Kind } from './breakpoints';
export { ParagraphBuilder, Spaces, After, type Paragraph } from './paragraph';
export { planPages } from './plan';
export { BLEED } from './figure';
export { type FlowBlock, type Variant } from './flow';
export { MASKS, maskCurves, type Mask } from './mask';
export * from './passage';
export { Setter, type Manner } from './setter';
