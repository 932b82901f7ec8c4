export * from './geometry';
export * from './sheet';
export * from './svg';
export { priceAddOn } from './barcode';
export { spineTurn } from './spine';
export { frontOf } from './front';
export { type CoverPart, type PlacedPart } from './pen';
