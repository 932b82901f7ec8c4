/** Language facts the whole house shares. Tags are BCP 47; the words here are written from memory of the languages. */
/** Words that only the label before a chapter number uses, by language. */
export const CHAPTER_WORDS = [
  'chapter',
  'chapitre',
  'kapitel',
  'capítulo',
  'capitulo',
  'capitolo',
  'hoofdstuk',
  'kapittel',
  'rozdział',
  'kapitola',
  'luku',
  'fejezet',
  'глава',
  'розділ',
  'bölüm',
  'capitolul',
  'poglavlje',
];
export const PART_WORDS = [
  'part',
  'book',
  'partie',
  'teil',
  'parte',
  'deel',
  'buch',
  'libro',
  'livre',
  'livro',
  'boek',
  'część',
  'часть',
  'частина',
  'rész',
];

/**
 * What a table says of a language: of the whole tag first ("en-gb"), then of the language alone ("en"). Only what the
 * table itself holds counts: a tag is whatever a file says, `__proto__` too.
 */
export function byLanguage<T>(table: Readonly<Record<string, T>>, language: string): T | undefined {
  const tag = language.toLowerCase();
  const key = [tag, primaryLanguage(tag)].find((k) => Object.hasOwn(table, k));
  return key === undefined ? undefined : table[key];
}

/** The language of a tag without its region or script: "en" of "en-GB". */
export const primaryLanguage = (tag: string): string => (tag.split(/[-_]/)[0] ?? '').toLowerCase();

/** The label a chapter or part carries in a language: "Chapter", "Kapitel". English where we have no word. */
export function numberLabel(kind: 'chapter' | 'part', language: string): string {
  const table: Record<string, [string, string]> = {
    en: ['Chapter', 'Part'],
    fr: ['Chapitre', 'Partie'],
    de: ['Kapitel', 'Teil'],
    es: ['Capítulo', 'Parte'],
    it: ['Capitolo', 'Parte'],
    pt: ['Capítulo', 'Parte'],
    nl: ['Hoofdstuk', 'Deel'],
  };
  const row = byLanguage(table, language) ?? ['Chapter', 'Part'];
  return kind === 'chapter' ? row[0] : row[1];
}

/** Scripts that the typesetter does not set: right-to-left, and those written downwards or without word spaces. */
const UNSET =
  /[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufefc\u0e00-\u0eff\u1000-\u109f\u1780-\u17ff\u3040-\u30ff\u3400-\u9fff\uac00-\ud7af]/;
/** Most books have nothing there at all, which one range tells sooner. */
const SELDOM = /[\u0590-\u1fff\u3040-\ufefc]/;
export const hasUnsetScript = (text: string): boolean => SELDOM.test(text) && UNSET.test(text);

const LETTER = /\p{L}/gu;
const UNSET_LETTERS = new RegExp(UNSET.source, 'g');
/** How many letters a text has, and how many of them are of scripts that are not set. */
export const unsetShare = (text: string): { letters: number; unset: number } =>
  hasUnsetScript(text)
    ? { letters: text.match(LETTER)?.length ?? 0, unset: text.match(UNSET_LETTERS)?.length ?? 0 }
    : { letters: text.length, unset: 0 };

/** Words of a text; counting ends when there are more than `most`, for those who only ask whether there are. */
export function countWords(text: string, most = Infinity): number {
  let n = 0;
  /** The word that stands here has been counted. */
  let counted = false;
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i);
    if (c < 128) {
      // By far the most: no pattern is asked.
      if (c === 32 || (c >= 9 && c <= 13)) counted = false;
      else if (!counted && ((c >= 97 && c <= 122) || (c >= 65 && c <= 90) || (c >= 48 && c <= 57))) {
        counted = true;
        if (++n > most) return n;
      }
      continue;
    }
    const sign = String.fromCodePoint(text.codePointAt(i) as number);
    if (SPACE.test(sign)) counted = false;
    else if (!counted && LETTER_OR_FIGURE.test(sign)) {
      counted = true;
      if (++n > most) return n;
    }
  }
  return n;
}
const SPACE = /\s/u;
const LETTER_OR_FIGURE = /[\p{L}\p{N}]/u;
