export { recogniseHeadings } from './recognise';
export {
  emptiesAreSpacing,
  numberWordsOf,
  pageKind,
  typedLines,
  withCallsOf,
  withPictureAbove,
} from './stretches';
export { withoutFurniture } from './debris';
