export { Divider } from './divide';
export {
  After,
  type InlineSetter,
  type MadeWords,
  type Paragraph,
  ParagraphBuilder,
  Spaces,
  addInline,
} from './paragraph';
export { Kind, breakpointsOf } from './breakpoints';
export {
  type Broken,
  DEMERITS,
  type LineWidths,
  MAX_LADDER,
  type SetLine,
  breakLines,
  otherLengths,
} from './lines';
export { type LinePart, PART_MASK, PART_SHIFT, partNumber, partOf } from './lineparts';
export {
  type Around,
  type Flow,
  type FlowBlock,
  type Item,
  LineItem,
  type PictureItem,
  type RuleItem,
  type SetNote,
  type Variant,
} from './flow';
export { lineSpace, shownWord } from './setline';
