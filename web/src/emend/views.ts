/** The views of an ebook that is open as it is. */
export const VIEWS = [
  ['documents', 'Documents'],
  ['package', 'Package'],
  ['navigation', 'Navigation'],
  ['styles', 'Styles'],
  ['pictures', 'Pictures'],
  ['typefaces', 'Typefaces'],
  ['findings', 'Findings'],
] as const;
export type ViewKey = (typeof VIEWS)[number][0];
