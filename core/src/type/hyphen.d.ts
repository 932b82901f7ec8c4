declare module 'hyphen/patterns/*';
declare module 'hyphen' {
  export default function createHyphenator(patterns: never, options: object): unknown;
}
