/** Passages in another language than they are marked as: hyphenation, spelling and reading aloud go by the mark. */
import { primaryLanguage } from '../../base';
import type { Breach, Rule } from '../rules';
import type { Block, Reading } from './reading';
import { atBlock, type BookSubject } from './subject';

/** The commonest words of languages, which few sentences do without; from memory of them. */
const COMMON: Record<string, string> = {
  en: 'the of and to in that it was he his is with as for had you not be her on at by which have or from this him but all she they were are my me we there been when who would out',
  fr: 'le la les de des du et à un une il elle que qui dans ne pas pour sur au avec est son sa ses se ce cette mais nous vous était avait plus par je tout comme où on',
  de: 'der die das und in den von zu mit sich des auf für ist im dem nicht ein eine als auch es an er sie ich war wie aber hatte nach aus bei einen noch nur so wir über vor',
  es: 'el la los las de y a en un una que no se con por su para como más pero sus le ya o este sí porque cuando muy sin sobre también me hasta hay donde era había del al lo',
  it: 'il lo la i gli le di e a in un una che non si con per come più ma del della dei nel alla da sono era aveva anche suo sua io mi ci questo quella perché quando al dal',
  pt: 'o a os as de e em um uma que não se com por para como mais mas do da dos das no na ao seu sua ele ela era tinha também eu me quando já muito foi pelo pela',
  nl: 'de het een en van in is dat op te zijn met voor niet aan er hij ze om ook als maar bij of uit nog naar dan wat haar was had door over die dit ik je wij',
  la: 'et in est non ad ut cum sed ex quod qui quae per ab si nec de atque sunt hoc esse enim quam etiam aut eius ac',
};
const tables = new Map(Object.entries(COMMON).map(([tag, words]) => [tag, new Set(words.split(' '))]));

/** A passage has to have so many words before its language can be told. */
const LEAST = 12;
const CLEAR = { own: 0.22, other: 0.07 };

/** The share of a text's words that are common in a language. */
function shares(text: string): { words: number; of: Map<string, number> } {
  const words = text.toLowerCase().match(/\p{L}[\p{L}\p{M}]*/gu) ?? [];
  const of = new Map<string, number>();
  for (const [tag, common] of tables)
    of.set(tag, words.reduce((n, w) => n + (common.has(w) ? 1 : 0), 0) / Math.max(1, words.length));
  return { words: words.length, of };
}

/** The language that a text is in, where it is clearly not `marked`; null otherwise. */
export function otherLanguage(text: string, marked: string): string | null {
  const own = primaryLanguage(marked);
  // Capital letters or a script that the tables don't know tell nothing.
  if (!tables.has(own)) return null;
  const { words, of } = shares(text);
  if (words < LEAST) return null;
  const [best, share] = [...of].sort((a, b) => b[1] - a[1])[0] as [string, number];
  // Short words are shared: "a", "as" and "no" are Portuguese, too.
  const mine = of.get(own) as number;
  return best !== own && share >= CLEAR.own && mine <= Math.max(CLEAR.other, share / 3) ? best : null;
}

const names = new Intl.DisplayNames('en', { type: 'language' });
const nameOf = (tag: string): string => names.of(primaryLanguage(tag)) ?? tag;

/** Stretches of a block by the language that they are marked as; '' for none. */
function stretches({ node }: Block): { tag: string; text: string; from: number }[] {
  const out: { tag: string; text: string; from: number }[] = [];
  node.forEach((n, from) => {
    const tag = (n.marks.find((m) => m.type.name === 'language')?.attrs.tag as string | undefined) ?? '';
    const text = n.isText ? (n.text as string) : ' ';
    const last = out.at(-1);
    if (last?.tag === tag) last.text += text;
    else out.push({ tag, text, from });
  });
  return out;
}

/** Stretches that look like another language than the one they go by; `marked` tells which of them are asked for. */
function* astray({ section, language, blocks }: Reading, marked: boolean): Generator<Breach> {
  for (const b of blocks)
    for (const { tag, text, from } of stretches(b)) {
      const found = (tag !== '') === marked ? otherLanguage(text, tag || language) : null;
      if (found)
        yield atBlock(
          section,
          b,
          marked
            ? `This is marked as ${nameOf(tag)} and looks like ${nameOf(found)}.`
            : `This looks like ${nameOf(found)} and isn’t marked as such.`,
          from,
          { words: `${text.trim().slice(0, 60).trim()} …` },
        );
    }
}

const WRONG_VOICE = {
  severity: 'caution',
  profiles: ['book', 'accessibility'],
  source: 'WCAG 2.2, 3.1.2 Language of Parts (from memory)',
  why: 'It is hyphenated by the wrong rules, and read aloud with the wrong voice.',
} as const;

export const LANGUAGE_RULES: readonly Rule<Reading>[] = [
  {
    ...WRONG_VOICE,
    name: 'language/not-marked',
    remedy: 'Select it in Manuscript and mark its language.',
    look: (reading) => astray(reading, false),
  },
  {
    ...WRONG_VOICE,
    name: 'language/marked-wrongly',
    remedy: 'Choose its language in Manuscript, or take the mark off.',
    look: (reading) => astray(reading, true),
  },
];

/** How many of a book's sections have to be in another language before it is the record that is wrong. */
const MOST = 0.5;

export const BOOK_LANGUAGE_RULES: readonly Rule<BookSubject>[] = [
  {
    name: 'record/language',
    severity: 'caution',
    profiles: ['book', 'accessibility'],
    source: 'WCAG 2.2, 3.1.1 Language of Page (from memory)',
    why: 'Hyphenation, spelling, reading aloud and the shops’ shelves go by the record’s language.',
    remedy: 'Choose the language in the record.',
    *look({ book, readings }) {
      const long = readings
        .map((r) =>
          r.blocks
            .map((b) => b.text)
            .join(' ')
            .slice(0, 4_000),
        )
        .filter((t) => t.length > 400);
      const found = new Map<string, number>();
      for (const text of long) {
        const other = otherLanguage(text, book.record.language);
        if (other) found.set(other, (found.get(other) ?? 0) + 1);
      }
      for (const [tag, n] of found)
        if (n > long.length * MOST)
          yield {
            message: `The record says that the book is in ${nameOf(book.record.language)}; its text looks like ${nameOf(tag)}.`,
          };
    },
  },
];
