export { withoutTrackedChanges } from './changes';
export { decodeText } from './text';
export { type Format, formatOf, readRaw } from './formats';
