export * from './compose';
export * from './cache';
export * from './engine';
export * from './sheets';
export * from './facts';
export * from './positions';
export { pageOffsets, SAFE } from './picturepages';
export {
  After,
  breakLines,
  breakpointsOf,
  DEMERITS,
  Divider,
  Kind,
  MAX_LADDER,
  otherLengths,
  ParagraphBuilder,
  partOf,
  Spaces,
  type Broken,
  type FlowBlock,
  type LinePart,
  type LineWidths,
  type Paragraph,
  type SetLine,
  type Variant,
} from './lines';
export { planPages, type PagePlan, type PageShape, type Plan } from './pages';
export {
  BLEED,
  COARSE,
  MASKS,
  maskCurves,
  Setter,
  type PassageForm,
  type Passage,
  passage,
  type Manner,
  type Mask,
} from './blocks';
