export * from './asked';
export * from './blocks';
export * from './commands';
export * from './container';
export * from './contents';
export * from './depth';
export * from './draft';
export * from './files';
export * from './lines';
export * from './lists';
export * from './located';
export * from './media';
export * from './merge';
export * from './markup';
export * from './metadata';
export {
  addItem,
  addItemref,
  attributeEdit,
  freshId,
  lineWithin,
  packageSource,
  removeItem,
  setProperties,
} from './opf';
export * from './overview';
export * from './references';
export * from './renaming';
export * from './styles';
