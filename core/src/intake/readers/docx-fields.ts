/** Fields of a .docx by their instructions (ECMA-376 part 1, §17.16): references to places, entries of the index. */

/** The bookmark to which a field refers: REF, PAGEREF and NOTEREF (§17.16.5.50, .45, .41); null for other fields. */
export function linkOf(code: string): string | null {
  const m = /^\s*(?:REF|PAGEREF|NOTEREF)\s+"?([\p{L}_][\p{L}\p{N}_]*)"?/iu.exec(code);
  return m ? (m[1] as string) : null;
}

/**
 * An XE field (§17.16.5.81): its term, levels apart by ": " as in the book, the entry it leads to ("\t") and the bookmark
 * over whose pages it goes ("\r"); null for other fields.
 */
export function indexEntry(code: string): { term: string; see: string; range: string } | null {
  const m =
    /^\s*XE\s+(?:"((?:[^"\\]|\\.)*)"|[\u201c\u201d]([^\u201c\u201d]*)[\u201c\u201d]|(\S+))([^]*)$/i.exec(
      code,
    );
  const levels = (m?.[1] ?? m?.[2] ?? m?.[3] ?? '')
    .split(/(?<!\\):/)
    .map((t) => t.replace(/\\(.)/g, '$1').trim())
    .filter(Boolean);
  if (levels.length === 0) return null;
  const instead = /\\t\s+["\u201c]([^"\u201d]*)["\u201d]/i.exec(m?.[4] ?? '')?.[1] ?? '';
  const range = /\\r\s+["\u201c]?([\p{L}\p{N}_]+)/iu.exec(m?.[4] ?? '')?.[1] ?? '';
  return { term: levels.join(': '), range, see: instead.trim().replace(SEE, '') };
}
/** Words that an index puts before the entry it leads to, in the languages of the house. */
const SEE =
  /^(?:see(?: also)?|voir(?: aussi)?|siehe(?: auch)?|véase(?: también)?|vedi(?: anche)?|ver(?: também)?|zie(?: ook)?)\s+/iu;

/** A formula typed as an EQ field (ECMA-376 part 4, §2.16.5.22 in its first edition), whose signs are switches. */
export const isFormulaField = (code: string): boolean => /^\s*EQ\s+\\(?!\*)/i.test(code);
