/** Changes of a file's text by places, made all at once. */
export interface Edit {
  from: number;
  to: number;
  text: string;
}

/** The text with its edits made; one that begins within another is left out. */
export function edited(text: string, edits: readonly Edit[]): string {
  let out = '';
  let at = 0;
  for (const e of [...edits].sort((a, b) => a.from - b.from)) {
    if (e.from < at) continue;
    out += text.slice(at, e.from) + e.text;
    at = e.to;
  }
  return out + text.slice(at);
}
