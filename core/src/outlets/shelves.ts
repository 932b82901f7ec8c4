/**
 * Shelves that outlets have of their own, for the subjects of Thema: that shops sort books by trees of their own, into which
 * a scheme has to be translated, is common practice; these shelves are invented.
 */
const SHELVES: readonly [prefix: string, shelf: string][] = [
  ['FBC', 'Novels › Classics'],
  ['FB', 'Novels › General'],
  ['FC', 'Novels › Lives'],
  ['FD', 'Novels › Other worlds'],
  ['FF', 'Novels › Crime'],
  ['FH', 'Novels › Suspense'],
  ['FJ', 'Novels › Adventure'],
  ['FK', 'Novels › Ghosts and horror'],
  ['FL', 'Novels › Science fiction'],
  ['FM', 'Novels › Fantasy'],
  ['FR', 'Novels › Love'],
  ['FS', 'Novels › Families'],
  ['FV', 'Novels › Historical'],
  ['FY', 'Novels › Short forms'],
  ['F', 'Novels › General'],
  ['DC', 'Verse › Poets'],
  ['DD', 'Stage › Plays'],
  ['DN', 'Lives › Memoir and reportage'],
  ['D', 'Letters › On books'],
  ['A', 'Arts › All arts'],
  ['C', 'Letters › Language'],
  ['J', 'Ideas › Society'],
  ['K', 'Work › Business'],
  ['L', 'Work › Law'],
  ['M', 'Body › Medicine'],
  ['N', 'Past › History'],
  ['P', 'Nature › Science'],
  ['Q', 'Ideas › Thought and faith'],
  ['R', 'Nature › Earth'],
  ['T', 'Work › Making things'],
  ['U', 'Work › Computers'],
  ['VS', 'Body › Self-help'],
  ['V', 'Body › Health'],
  ['W', 'House › Home, food, travel'],
  ['Y', 'Children › All ages'],
  ['X', 'Novels › In pictures'],
];
/** The shelf of the longest prefix; null where there is none. */
export const onShelves = (code: string): string | null =>
  SHELVES.filter(([prefix]) => code.startsWith(prefix)).sort((a, b) => b[0].length - a[0].length)[0]?.[1] ??
  null;
