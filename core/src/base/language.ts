/** Language facts the whole house shares. Tags are BCP 47; the words here are written from memory of the languages. */
const UNITS =
  'one two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen sixteen seventeen eighteen nineteen'.split(
    ' ',
  );
const TENS = ['', '', 'twenty', 'thirty', 'forty', 'fifty', 'sixty', 'seventy', 'eighty', 'ninety'];

/** 1–999 in English words, capitalised: 21 → "Twenty-One". */
export function numberInWords(n: number): string {
  const below100 = (k: number): string =>
    k < 20
      ? (UNITS[k - 1] ?? '')
      : [TENS[Math.floor(k / 10)], k % 10 ? UNITS[(k % 10) - 1] : ''].filter(Boolean).join('-');
  const hundreds = Math.floor(n / 100);
  const rest = n % 100;
  const words = [hundreds ? `${UNITS[hundreds - 1]} hundred` : '', rest ? below100(rest) : '']
    .filter(Boolean)
    .join(' ');
  return words.replace(/(^|[ -])([a-z])/g, (_, a: string, b: string) => a + b.toUpperCase());
}

const ROMAN: [number, string][] = [
  [1000, 'M'],
  [900, 'CM'],
  [500, 'D'],
  [400, 'CD'],
  [100, 'C'],
  [90, 'XC'],
  [50, 'L'],
  [40, 'XL'],
  [10, 'X'],
  [9, 'IX'],
  [5, 'V'],
  [4, 'IV'],
  [1, 'I'],
];

export function toRoman(n: number): string {
  let rest = n;
  let out = '';
  for (const [value, letters] of ROMAN) {
    while (rest >= value) {
      out += letters;
      rest -= value;
    }
  }
  return out;
}

/** The value of a well-formed roman numeral in either case, or null. */
export function fromRoman(text: string): number | null {
  const s = text.toUpperCase();
  if (!/^M{0,3}(CM|CD|D?C{0,3})(XC|XL|L?X{0,3})(IX|IV|V?I{0,3})$/.test(s) || s === '') return null;
  let rest = s;
  let value = 0;
  for (const [v, letters] of ROMAN) {
    while (rest.startsWith(letters)) {
      value += v;
      rest = rest.slice(letters.length);
    }
  }
  return value;
}

/** The value of an English number word up to 999 ("Seven", "twenty one"), or null. */
export function fromWords(text: string): number | null {
  const s = text.trim().toLowerCase().replace(/\s+/g, '-');
  if (!/^[a-z]+(-[a-z]+){0,4}$/.test(s)) return null;
  return WORD_VALUES.get(s.replace(/-and-/g, '-')) ?? null;
}
const WORD_VALUES = new Map<string, number>();
for (let n = 1; n < 1000; n++) WORD_VALUES.set(numberInWords(n).toLowerCase().replace(/\s+/g, '-'), n);

/** Words that only the label before a chapter number uses, by language. */
export const CHAPTER_WORDS = [
  'chapter',
  'chapitre',
  'kapitel',
  'capítulo',
  'capitulo',
  'capitolo',
  'hoofdstuk',
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
];

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
  const row = table[language.toLowerCase().split('-')[0] ?? 'en'] ?? ['Chapter', 'Part'];
  return kind === 'chapter' ? row[0] : row[1];
}

/** Scripts that the typesetter does not set: right-to-left, and those written downwards or without word spaces. */
const UNSET =
  /[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufefc]|[\u0e00-\u0eff\u1000-\u109f\u1780-\u17ff\u3040-\u30ff\u3400-\u9fff\uac00-\ud7af]/u;
export const hasUnsetScript = (text: string): boolean => UNSET.test(text);

export function countWords(text: string): number {
  let n = 0;
  for (const w of text.split(/\s+/u)) if (/[\p{L}\p{N}]/u.test(w)) n++;
  return n;
}
