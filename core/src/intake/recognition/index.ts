export { linesOf, typedLines, withCallsOf, withPictureAbove } from './around';
export { frontPages } from './frontpages';
export { withoutFurniture } from './furniture';
export { recogniseHeadings, type Recognition } from './headings';
export { type TitleBlock } from './titleblock';
export { withoutTypewriter } from './typewriter';
