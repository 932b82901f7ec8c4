/** A record's names and titles as pages, files and catalogues write them. */
import { contributor, type BookRecord, type Contributor } from './record';

/** "Ada Marsh", "Ada Marsh and Tom Pell", "A, B and C": the authors as a title page names them. */
export function authorsLine(record: BookRecord): string {
  const names = record.contributors.filter((c) => c.role === 'author').map((c) => c.name);
  if (names.length < 2) return names[0] ?? '';
  return `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;
}

/**
 * Contributors with the authors that a line names ("Ada Marsh, Kit Lowe and Ansel Brandt"); authors that stay keep what
 * is known of them. Names with a comma in them, such as "Marsh, Jr.", stay whole where they were known as one.
 */
export function withAuthors(contributors: readonly Contributor[], line: string): Contributor[] {
  const known = new Map(contributors.filter((c) => c.role === 'author').map((c) => [c.name, c]));
  const whole = known.get(line.trim());
  const names = whole
    ? [whole.name]
    : line
        .split(/\s*;\s*|,\s+(?!(?:Jr|Sr|I{1,3}|PhD|MD)\b)|\s+(?:and|und|et|y|&)\s+/u)
        .map((n) => n.trim())
        .filter(Boolean);
  return [
    ...names.map((name) => known.get(name) ?? contributor(name, 'author')),
    ...contributors.filter((c) => c.role !== 'author'),
  ];
}

/** "Marsh, Ada": the given sort name, else the last word first. */
export function sortNameOf(c: Contributor): string {
  if (c.sortName) return c.sortName;
  const words = c.name.trim().split(/\s+/);
  return words.length < 2 ? c.name.trim() : `${words.at(-1)}, ${words.slice(0, -1).join(' ')}`;
}

/** A name a file can carry everywhere: "The Salt Ledger" → "the-salt-ledger". */
export function fileStem(title: string): string {
  const s = title
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase();
  return (
    s
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '')
      .slice(0, 60) || 'untitled'
  );
}
