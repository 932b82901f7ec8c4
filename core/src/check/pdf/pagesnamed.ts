/** Pages named in a sentence. */
const SHOWN = 6;

/** "4", "4, 7 and 9", "4, 7, 9 and 12 more". */
export function listed(numbers: readonly number[]): string {
  if (numbers.length > SHOWN + 1)
    return `${numbers.slice(0, SHOWN).join(', ')} and ${numbers.length - SHOWN} more`;
  return numbers.length < 2
    ? numbers.join('')
    : `${numbers.slice(0, -1).join(', ')} and ${numbers.at(-1) as number}`;
}

/** "page 4", "pages 4, 7 and 9". */
export const pagesNamed = (numbers: readonly number[]): string =>
  `${numbers.length === 1 ? 'page' : 'pages'} ${listed(numbers)}`;
