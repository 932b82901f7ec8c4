export {
  ANCHOR,
  type RawBlock,
  type RawManuscript,
  type RawNote,
  type RawParagraph,
  type RawPicture,
  isDisplayed,
  isEmpty,
  isText,
  linkToAnchor,
  looksOf,
  paragraphsOf,
  rawManuscript,
  rawParagraph,
} from './raw';
export { COPYRIGHT_WORDS, bareNumber, isBreakText, kindByWords, numberThenTitle } from './words';
export { type HeadingGuess } from './heading';
