export {
  ANCHOR,
  type RawBlock,
  type RawCell,
  type RawComment,
  type RawListPlace,
  type RawManuscript,
  type RawNote,
  type RawParagraph,
  type RawPicture,
  type RawTable,
  indexedAt,
  isDisplayed,
  isEmpty,
  isText,
  linkToAnchor,
  looksOf,
  paragraphsOf,
  rawManuscript,
  rawParagraph,
  termsPlace,
  withoutFirst,
} from './raw';
export { Vocabulary } from './vocabulary';
export {
  COPYRIGHT_WORDS,
  bareNumber,
  isBreakText,
  isCaptionText,
  isTableCaption,
  kindByWords,
  numberThenTitle,
} from './words';
export { type HeadingGuess } from './heading';
export {
  type ConvertPicture,
  type Pixels,
  type RawOptions,
  type Turn,
  asPng,
  reduced,
  turned,
} from './pixels';
