/** Territories as one says them. */
const NAMES = new Intl.DisplayNames('en-GB', { type: 'region' });
const LIST = new Intl.ListFormat('en-GB');

export const territoryName = (code: string): string => NAMES.of(code) ?? code;
/** "Germany, France and 12 more" from four on. */
export function territoryNames(codes: readonly string[]): string {
  const named = codes.map(territoryName);
  return named.length <= 4
    ? LIST.format(named)
    : `${named.slice(0, 2).join(', ')} and ${named.length - 2} more`;
}
