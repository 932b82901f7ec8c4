/** Endings of files that can be brought in as manuscripts; what a file really is, its bytes tell (intake/formats). */
export const MANUSCRIPT_ENDINGS = [
  '.docx',
  '.odt',
  '.rtf',
  '.doc',
  '.epub',
  '.html',
  '.htm',
  '.xhtml',
  '.md',
  '.markdown',
  '.txt',
  '.pdf',
] as const;

export const isManuscriptName = (name: string): boolean =>
  MANUSCRIPT_ENDINGS.some((e) => name.toLowerCase().endsWith(e));

/** How many files may come with a manuscript at once. */
export const MOST_BESIDE = 12;
