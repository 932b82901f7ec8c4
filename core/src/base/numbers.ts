/** Numbers as books write them: roman, and in words. The words are written from memory of the languages. */
import { byLanguage, primaryLanguage } from './language';

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

/** How the items of a list are counted. */
export type ListNumbers = 'figures' | 'letters' | 'roman';

/** The number of a list's item: "3", "c" (after "z" comes "aa"), "iii". */
export function listNumber(n: number, numbers: ListNumbers): string {
  if (numbers === 'roman') return toRoman(n).toLowerCase();
  if (numbers === 'figures') return String(n);
  const letter = String.fromCharCode(97 + ((n - 1) % 26));
  return letter.repeat(Math.floor((n - 1) / 26) + 1);
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

/** Cardinals from 1 on, by language; what counts further is made of these where a language puts them together simply. */
const CARDINALS: Record<string, string> = {
  fr: 'un deux trois quatre cinq six sept huit neuf dix onze douze treize quatorze quinze seize dix-sept dix-huit dix-neuf vingt vingt-et-un vingt-deux vingt-trois vingt-quatre vingt-cinq vingt-six vingt-sept vingt-huit vingt-neuf trente trente-et-un trente-deux trente-trois trente-quatre trente-cinq trente-six trente-sept trente-huit trente-neuf quarante',
  de: 'eins zwei drei vier fünf sechs sieben acht neun zehn elf zwölf dreizehn vierzehn fünfzehn sechzehn siebzehn achtzehn neunzehn zwanzig einundzwanzig zweiundzwanzig dreiundzwanzig vierundzwanzig fünfundzwanzig sechsundzwanzig siebenundzwanzig achtundzwanzig neunundzwanzig dreißig einunddreißig zweiunddreißig dreiunddreißig vierunddreißig fünfunddreißig sechsunddreißig siebenunddreißig achtunddreißig neununddreißig vierzig',
  es: 'uno dos tres cuatro cinco seis siete ocho nueve diez once doce trece catorce quince dieciséis diecisiete dieciocho diecinueve veinte veintiuno veintidós veintitrés veinticuatro veinticinco veintiséis veintisiete veintiocho veintinueve treinta treinta-y-uno treinta-y-dos treinta-y-tres treinta-y-cuatro treinta-y-cinco treinta-y-seis treinta-y-siete treinta-y-ocho treinta-y-nueve cuarenta',
  it: 'uno due tre quattro cinque sei sette otto nove dieci undici dodici tredici quattordici quindici sedici diciassette diciotto diciannove venti ventuno ventidue ventitré ventiquattro venticinque ventisei ventisette ventotto ventinove trenta trentuno trentadue trentatré trentaquattro trentacinque trentasei trentasette trentotto trentanove quaranta',
  pt: 'um dois três quatro cinco seis sete oito nove dez onze doze treze catorze quinze dezesseis dezessete dezoito dezenove vinte vinte-e-um vinte-e-dois vinte-e-três vinte-e-quatro vinte-e-cinco vinte-e-seis vinte-e-sete vinte-e-oito vinte-e-nove trinta trinta-e-um trinta-e-dois trinta-e-três trinta-e-quatro trinta-e-cinco trinta-e-seis trinta-e-sete trinta-e-oito trinta-e-nove quarenta',
  nl: 'een twee drie vier vijf zes zeven acht negen tien elf twaalf dertien veertien vijftien zestien zeventien achttien negentien twintig eenentwintig tweeëntwintig drieëntwintig vierentwintig vijfentwintig zesentwintig zevenentwintig achtentwintig negenentwintig dertig eenendertig tweeëndertig drieëndertig vierendertig vijfendertig zesendertig zevenendertig achtendertig negenendertig veertig',
};

/** A number in a language's words, capitalised; in figures where no words are known. */
export function wordsFor(n: number, language: string): string {
  const code = primaryLanguage(language);
  if (code === 'en') return numberInWords(n);
  const word = byLanguage(CARDINALS, language)?.split(' ')[n - 1];
  if (!word) return String(n);
  const spaced = code === 'es' || code === 'pt' ? word.replaceAll('-', ' ') : word;
  return spaced.charAt(0).toUpperCase() + spaced.slice(1);
}

/** Stems of ordinals from 1 on; each language's endings by gender and number follow. */
const ORDINALS: [stems: string, endings: string[]][] = [
  [
    'first second third fourth fifth sixth seventh eighth ninth tenth eleventh twelfth thirteenth fourteenth fifteenth sixteenth seventeenth eighteenth nineteenth twentieth',
    [''],
  ],
  [
    'premier deuxième troisième quatrième cinquième sixième septième huitième neuvième dixième onzième douzième',
    [''],
  ],
  ['première second', ['']],
  ['erst zweit dritt viert fünft sechst siebt acht neunt zehnt elft zwölft', ['er', 'es', 'e']],
  ['primer segund tercer cuart quint sext séptim octav noven décim undécim duodécim', ['o', 'a', '']],
  ['prim second terz quart quint sest settim ottav non decim undicesim dodicesim', ['o', 'a']],
  ['primeir segund terceir quart quint sext sétim oitav non décim', ['o', 'a']],
  ['eerste tweede derde vierde vijfde zesde zevende achtste negende tiende elfde twaalfde', ['']],
];

/** Made when the first number is looked up: few programs read any. */
let tables: { cardinals: ReadonlyMap<string, number>; ordinals: ReadonlyMap<string, number> } | null = null;
function valuesOf(): NonNullable<typeof tables> {
  if (tables) return tables;
  const cardinals = new Map<string, number>();
  const ordinals = new Map<string, number>();
  const add = (to: Map<string, number>, name: string, value: number): void => {
    if (!to.has(name)) to.set(name, value);
  };
  for (let n = 1; n < 1000; n++) add(cardinals, numberInWords(n).toLowerCase().replace(/\s+/g, '-'), n);
  for (const words of Object.values(CARDINALS)) words.split(' ').forEach((w, i) => add(cardinals, w, i + 1));
  for (const [stems, endings] of ORDINALS)
    stems.split(' ').forEach((stem, i) => endings.forEach((e) => add(ordinals, stem + e, i + 1)));
  return (tables = { cardinals, ordinals });
}

const word = (text: string): string =>
  text.trim().toLowerCase().normalize('NFC').replace(/\s+/g, '-').replace(/-and-/g, '-');

/** The value of a number in words ("Seven", "twenty one", "dreizehn"), or null. English up to 999, others up to 40. */
export const fromWords = (text: string): number | null => valuesOf().cardinals.get(word(text)) ?? null;

/** The value of an ordinal ("First", "Premier", "Erstes", "Segunda"), or null. */
export const fromOrdinal = (text: string): number | null =>
  valuesOf().ordinals.get(word(text).replace(/^the-/, '')) ?? null;
