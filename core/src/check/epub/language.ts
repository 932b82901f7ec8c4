/** Language tags, as far as form goes (BCP 47, RFC 5646 §2.1: well-formed tags). */
const WELL_FORMED =
  /^(?:(?:[a-z]{2,3}(?:-[a-z]{3}){0,3}|[a-z]{4}|[a-z]{5,8})(?:-[a-z]{4})?(?:-(?:[a-z]{2}|\d{3}))?(?:-(?:[a-z\d]{5,8}|\d[a-z\d]{3}))*(?:-[a-wy-z\d](?:-[a-z\d]{2,8})+)*(?:-x(?:-[a-z\d]{1,8})+)?|x(?:-[a-z\d]{1,8})+)$/i;
/** Tags from before the grammar that it can’t be brought to (§2.2.8). */
const IRREGULAR =
  /^(en-GB-oed|i-(ami|bnn|default|enochian|hak|klingon|lux|mingo|navajo|pwn|tao|tay|tsu)|sgn-(BE-FR|BE-NL|CH-DE))$/i;

export const isLanguage = (tag: string): boolean => WELL_FORMED.test(tag) || IRREGULAR.test(tag);

/** Names of languages as people write them instead of a tag. */
const LANGUAGES: Record<string, string> = {
  english: 'en', german: 'de', deutsch: 'de', french: 'fr', français: 'fr', spanish: 'es', español: 'es', italian: 'it', italiano: 'it',
  portuguese: 'pt', português: 'pt', dutch: 'nl', nederlands: 'nl', polish: 'pl', polski: 'pl', swedish: 'sv', danish: 'da', norwegian: 'no', finnish: 'fi',
}; // prettier-ignore
/** The tag that was meant; null where nobody can tell. */
export function meantTag(value: string): string | null {
  const tag = value.trim().replaceAll('_', '-');
  return LANGUAGES[tag.toLowerCase()] ?? (isLanguage(tag) && /^[a-z]{2,3}(-|$)/i.test(tag) ? tag : null);
}
