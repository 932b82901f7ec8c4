export { isBreak, usualBlanks } from './breaks';
export { captionsOf } from './captions';
export { markLength } from './lists';
export { isPoetry, stretchesOf, type Whole } from './stretches';
export { type Stretch } from './stretch';
