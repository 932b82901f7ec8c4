/** What a proofreader marks in a paragraph by itself: words set twice, small letters at the start, marks that don't close. */
import { primaryLanguage } from '../../base';
import { ATOM, styleFor } from '../../tidy';
import type { Rule } from '../rules';
import { matchesIn, wordsAround, type Block, type Reading } from './reading';
import { atBlock } from './subject';

const PRACTICE = 'common practice';

/** A word and the same again; both in small letters, or the first alone with a capital. */
const TWICE =
  /(?<![\p{L}\p{N}\p{M}'\u2019-])(\p{L}[\p{L}\p{M}'\u2019]*)[ \u00a0]{1,3}(\1)(?![\p{L}\p{N}\p{M}'\u2019-])/giu;
/** Words that sentences do hold twice, and those that are doubled for effect; from memory of the languages. */
const DOUBLED: Record<string, string> = {
  en: 'had that her no yes so very very really long far ha ho hee bye there now well never many much more again on over round out la tut knock please blah chop hush go come ever dear ay aye hear dat',
  de: 'der die das dem den des sie ihr ja nein sehr so nie',
  fr: 'nous vous non oui si très',
  nl: 'die dat ja nee zo heel',
  es: 'no sí muy',
  it: 'no sì molto piano',
  pt: 'não sim muito',
};
const doubledIn = new Map(Object.entries(DOUBLED).map(([tag, words]) => [tag, new Set(words.split(' '))]));

/** Blocks whose words repeat on purpose, or begin small because a line goes on. */
const VERSE: ReadonlySet<string> = new Set(['verseLine']);
const isProse = (b: Block): boolean => b.type === 'paragraph' && b.holder !== 'cell' && b.holder !== 'item';

/** Shortened words after which a sentence goes on; from memory. */
const SHORTENED = new Set(
  'anm см стр гл рис др пр гг ул им cent mr mrs ms dr st prof rev fr sr jr capt col gen lt sgt maj adm gov sen rep hon messrs mme mlle etc vs cf viz ca al ed eds vol vols no nos nr p pp ch chap fig figs eq sec art op cit ibid id approx dept est inc ltd co bros ave rd blvd mt ft lb lbs oz hr hrs min mins sec yd yds in bzw usw evtl ggf bd hg hrsg abb kap str tel ggfs sog vgl z.b d.h u.a av bd m mm mme n° env éd p.ex ej pág págs núm sig sr sra sras dra ud uds ecc pag'.split(
    ' ',
  ),
);
const SMALL_AFTER_STOP =
  /\.(?<![.\u2026]\.)(?<=([\p{L}\p{M}\p{N}]{1,40})\.)[ \u00a0]{1,3}(\p{Ll}[\p{L}\p{M}]{0,40})/gu;

export const WORDING_RULES: readonly Rule<Reading>[] = [
  {
    name: 'wording/repeated-word',
    severity: 'caution',
    profiles: ['book'],
    source: PRACTICE,
    why: 'The eye passes over it while writing; readers trip on it.',
    remedy: 'Delete one of the two.',
    mend: 'one-word',
    *look({ section, language, blocks }) {
      const meant = doubledIn.get(primaryLanguage(language));
      for (const b of blocks) {
        if (VERSE.has(b.type)) continue;
        for (const m of matchesIn(b, TWICE)) {
          const [all, first = '', second = ''] = m;
          if (first.length > 1 && /^\p{Lu}/u.test(second)) continue;
          if (meant?.has(first.toLowerCase())) continue;
          // "A a" and "I i" are labels and numbers.
          if (first.length === 1 && first !== second) continue;
          yield atBlock(section, b, `“${first}” is set twice.`, m.index, {
            about: all,
            words: wordsAround(b.text, m.index, m.index + all.length),
          });
        }
      }
    },
  },
  {
    name: 'wording/no-capital',
    severity: 'caution',
    profiles: ['book'],
    source: PRACTICE,
    why: 'A sentence begins with a capital; a full stop may stand for a comma here.',
    remedy: 'Write a capital, or another sign.',
    *look({ section, blocks }) {
      const counts = smallAfter(blocks);
      for (const [i, b] of blocks.entries()) {
        if (!isProse(b) && b.type !== 'attribution') continue;
        for (const { at, word } of counts.get(b) ?? [])
          yield atBlock(section, b, `“${word}” begins small after a full stop.`, at, {
            words: wordsAround(b.text, at, at + word.length),
          });
        if (isProse(b) && !b.note && startsSmall(b, blocks[i - 1]))
          yield atBlock(section, b, 'A paragraph begins small.', 0, {
            words: wordsAround(b.text, 0, 1, 40),
            why: 'It may be the rest of the paragraph before it, divided by mistake.',
            remedy: 'Join it to the paragraph before, or write a capital.',
          });
      }
    },
  },
  {
    name: 'wording/unclosed-quotation',
    severity: 'caution',
    profiles: ['book'],
    source:
      'The Chicago Manual of Style, 17th ed., 13.30: speech over several paragraphs opens each anew (from memory)',
    why: 'Readers can’t tell who is speaking.',
    remedy: 'Close or open it; speech that goes on in the next paragraph opens there again.',
    *look({ section, language, blocks }) {
      const marks = marksOf(language);
      const prose = blocks.filter((b) => !VERSE.has(b.type) && b.type !== 'subhead' && !b.note);
      for (const [i, b] of prose.entries()) {
        const fault = marks && quotationFault(b, marks);
        if (!fault) continue;
        const next = prose[i + 1];
        if (fault.open && next && marks && next.text.trimStart().startsWith(marks[0])) continue;
        yield atBlock(
          section,
          b,
          fault.open ? 'A quotation doesn’t close.' : 'A quotation closes that wasn’t opened.',
          fault.at,
          { words: wordsAround(b.text, fault.at, fault.at + 1) },
        );
      }
    },
  },
  {
    name: 'wording/doubled-sign',
    severity: 'caution',
    profiles: ['book'],
    source: PRACTICE,
    remedy: 'Keep the one that is meant.',
    *look({ section, blocks }) {
      for (const b of blocks)
        for (const m of matchesIn(
          b,
          /([,;:])[ \u00a0]?\1|(?<![.\u2026])\.[ \u00a0]?\.(?![ \u00a0]?\.)|[,;:][ \u00a0]?\.(?!\p{N})|(?<![.\u2026])\.[;:](?!-?[)(])|[,;:][,;:](?!-?[)(])/gu,
        ))
          if (!/^\p{L}?$/u.test(b.text.slice(0, m.index)) && !isAbbreviation(b.text, m.index, m[0]))
            yield atBlock(section, b, `Two signs meet: “${m[0]}”.`, m.index, {
              words: wordsAround(b.text, m.index, m.index + m[0].length),
            });
    },
  },
  {
    name: 'wording/placeholder',
    severity: 'caution',
    profiles: ['book'],
    source: 'common practice: marks for what is to come, rows of crosses, printers’ filler text',
    why: 'What was to be written later is still missing.',
    remedy: 'Write it, or delete it.',
    *look({ section, blocks }) {
      for (const b of blocks)
        for (const m of b.text.matchAll(PLACEHOLDER))
          yield atBlock(section, b, 'Placeholder text is left in the manuscript.', m.index, {
            words: wordsAround(b.text, m.index, m.index + m[0].length),
          });
    },
  },
];

/** "To come", as it is marked in the trade, rows of crosses that are no numeral, and the filler text of printers (common practice). */
const PLACEHOLDER =
  /\b(?:TK)+K?\b|\bX{4,}\b|\[X+\]|\b[Ll]orem ipsum\b|\[(?:[Ii]nsert|INSERT|[Tt]odo|TODO|tbd|TBD|[Ff]ill in|[Cc]heck)\b[^\]]*\]|\bTO ?DO:|\bTBD\b|\?{3,}/g;

/** "etc.,", "z. B.:" and "EE.UU.," are a shortened word and a sign. */
function isAbbreviation(text: string, at: number, signs: string): boolean {
  if (!signs.startsWith('.')) return false;
  const before = /[\p{L}\p{M}.]{1,40}$/u.exec(text.slice(Math.max(0, at - 40), at))?.[0] ?? '';
  return /(?:^|\.)(?:\p{L}|\p{Lu}{1,5})$/u.test(before) || SHORTENED.has(before.toLowerCase());
}

interface SmallStart {
  at: number;
  word: string;
}
/** Small letters after a full stop, block by block; not after shortened words, which are known or told by their habit. */
function smallAfter(blocks: readonly Block[]): Map<Block, SmallStart[]> {
  const found: (SmallStart & { b: Block; before: string })[] = [];
  const often = new Map<string, number>();
  for (const b of blocks)
    for (const m of matchesIn(b, SMALL_AFTER_STOP)) {
      const [all, before = '', word = ''] = m;
      often.set(before.toLowerCase(), (often.get(before.toLowerCase()) ?? 0) + 1);
      found.push({ b, at: m.index + all.length - word.length, word, before });
    }
  const out = new Map<Block, SmallStart[]>();
  for (const { b, at, word, before } of found) {
    const isShort =
      // A letter, a number, capitals alone: "p. m.", "3. bis 5.", "EE.UU. a".
      /^(?:\p{L}|\p{N}+|\p{Lu}{1,5})$/u.test(before) ||
      SHORTENED.has(before.toLowerCase()) ||
      (often.get(before.toLowerCase()) ?? 0) > 2 ||
      // "Anm. d. Ü."
      (word.length < 3 && b.text.charAt(at + word.length) === '.');
    if (!isShort) out.set(b, [...(out.get(b) ?? []), { at, word }]);
  }
  return out;
}

/** After these a paragraph may go on where it was left. */
const GOES_ON: ReadonlySet<string> = new Set([
  'quotation',
  'verse',
  'passage',
  'letter',
  'stanza',
  'item',
  'cell',
]);

/** A paragraph that begins small after one that has come to its end. */
function startsSmall({ text, node, holder }: Block, before: Block | undefined): boolean {
  if (holder !== 'doc' || !before || before.holder !== 'doc' || before.type !== 'paragraph') return false;
  if (GOES_ON.has(before.holder) || before.note) return false;
  const m = /^[\s\u201c\u2018"'\u00ab\u201e(]*(\p{L}[\p{L}\p{M}'\u2019]*)(.?)/u.exec(text);
  // "iPhone", "von Arnim", "eBay"; a line that ends in a colon is an entry; marked letters are meant.
  if (!m || !/^\p{Ll}[\p{Ll}'\u2019]*$/u.test(m[1] as string) || m[2] === ')' || m[2] === '.') return false;
  if (node.firstChild?.marks.length) return false;
  return /[\p{L}\p{N},;]["\u201d\u2019]?$|[.!?]["\u201d\u2019]?$/u.test(before.text.trim());
}

/** The marks that open and close quotations in a language, where they differ and are no apostrophe. */
function marksOf(language: string): [open: string, close: string] | null {
  const [open, close] = styleFor(language).double.map((m) => m.replace(/[\s\u00a0\u202f]/g, '')) as [
    string,
    string,
  ];
  return open === close ? null : [open, close];
}

/** The mark of a block that has no partner; null where all have. */
function quotationFault(
  b: Block,
  [open, close]: readonly [string, string],
): { at: number; open: boolean } | null {
  if (!b.text.includes(open) && !b.text.includes(close)) return null;
  const stack: number[] = [];
  for (const [i, c] of [...b.text.split('')].entries()) {
    if (c === open) stack.push(i);
    else if (c === close) {
      if (stack.length > 0) stack.pop();
      // A measure in inches.
      else if (!/\p{N}/u.test(b.text.charAt(i - 1))) return { at: i, open: false };
    } else if (c === ATOM) continue;
  }
  const at = stack[0];
  return at === undefined ? null : { at, open: true };
}
