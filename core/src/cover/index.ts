export * from './geometry';
export * from './sheet';
export * from './svg';
export { priceAddOn, priceOfAddOn } from './barcode';
export { type CoverPart, type PlacedPart } from './pen';
