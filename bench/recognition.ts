/** Manuscripts by six makers, read and compared with what each maker knows of its own. */
import { readManuscript, type Intake } from '@pagina/core/intake';
import { headingsOf } from '@pagina/core/order';
import { numberInWords, toRoman } from '@pagina/core/base';
import { nonfiction } from './makers/nonfiction';
import { plainBold } from './makers/plain-bold';
import { poems } from './makers/poems';
import { scanned } from './makers/scanned';
import { submission } from './makers/submission';
import { translation } from './makers/translation';
import type { Made, TrueSection, Truth } from './makers/truth';

export const MAKERS: Record<string, (seed: number) => Made | Promise<Made>> = {
  submission,
  'bold only': plainBold,
  'non-fiction': nonfiction,
  'poems and letters': poems,
  'a translation': translation,
  scanned,
};

export interface Score {
  right: number;
  of: number;
  false: number;
  /** Right and wanted, by form; what was found beyond the truth counts as wrong. */
  forms: Record<keyof Truth['counts'], { right: number; of: number }>;
  unaccounted: number;
  told: string[];
}

const plain = (t: string): string =>
  t
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

/** The number that a heading of the book shows, as a value. */
function shown(text: string): number | null {
  for (let n = 1; n < 60; n++)
    if (new RegExp(`(^|\\s)(${n}|${toRoman(n)}|${numberInWords(n)})$`, 'i').test(text)) return n;
  return null;
}

interface Got {
  kind: string;
  number: number | null;
  title: string;
}

function sectionsOf(i: Intake): Got[] {
  const headings = headingsOf(i.book.sections, i.book);
  return i.book.sections.map((s) => {
    const h = headings.get(s.id);
    // An appendix is named by its letter and its title together.
    if (s.kind === 'appendix') return { kind: s.kind, number: null, title: `${h?.number} ${s.title}` };
    return { kind: s.kind, number: h?.number ? shown(h.number) : null, title: s.title };
  });
}

const isRight = (t: TrueSection, g: Got): boolean =>
  plain(t.title) === plain(g.title) &&
  t.number === g.number &&
  (t.kind === 'other' ? g.kind !== 'part' : t.kind === g.kind);

/** The longest sequence of sections that are right, in order. */
function rightOf(truth: readonly TrueSection[], got: readonly Got[]): Set<number> {
  const best = Array.from({ length: truth.length + 1 }, () => new Array<number>(got.length + 1).fill(0));
  for (let i = truth.length - 1; i >= 0; i--)
    for (let k = got.length - 1; k >= 0; k--) {
      const same = isRight(truth[i]!, got[k]!) ? 1 + best[i + 1]![k + 1]! : 0;
      best[i]![k] = Math.max(best[i + 1]![k]!, best[i]![k + 1]!, same);
    }
  const out = new Set<number>();
  for (let i = 0, k = 0; i < truth.length && k < got.length;) {
    if (isRight(truth[i]!, got[k]!) && best[i]![k] === 1 + best[i + 1]![k + 1]!) {
      out.add(i++);
      k++;
    } else if (best[i]![k] === best[i + 1]![k]) i++;
    else k++;
  }
  return out;
}

const FORMS: Record<string, keyof Truth['counts']> = {
  letter: 'letters',
  verse: 'verse',
  quotation: 'quotations',
  break: 'breaks',
  list: 'lists',
  subhead: 'subheads',
};

export async function score(made: Made): Promise<Score> {
  const read = await readManuscript(made.bytes, made.name);
  if (!read.ok) throw new Error(`${made.name}: ${read.refusal.message}`);
  const i = read.value;
  const { truth } = made;
  const got = sectionsOf(i);
  const right = rightOf(truth.sections, got);
  const found = { letters: 0, verse: 0, quotations: 0, breaks: 0, lists: 0, captions: 0, subheads: 0 };
  for (const s of i.book.sections)
    s.content.descendants((n) => {
      const form = FORMS[n.type.name];
      if (form) found[form]++;
      if (n.type.name === 'figure' && n.content.size > 0) found.captions++;
      return true;
    });
  const told: string[] = [];
  truth.sections.forEach((t, k) => {
    if (!right.has(k)) told.push(`missed ${t.kind} ${t.number ?? ''} “${t.title}”`);
  });
  const main = got.filter((g) => g.kind === 'part' || g.kind === 'chapter');
  const wanted = truth.sections.filter((t) => t.kind !== 'other').length;
  const bad = truth.notHeadings.filter((l) => got.some((g) => plain(g.title) === plain(l)));
  for (const l of bad) told.push(`made a heading: ${l}`);
  const record = i.book.record;
  if (plain(record.title) !== plain(truth.title)) told.push(`title: ${record.title}`);
  const author = record.contributors.map((c) => c.name).join(', ');
  if (plain(author) !== plain(truth.author)) told.push(`author: ${author}`);
  const forms = Object.fromEntries(
    Object.entries(truth.counts).map(([k, of]) => {
      const n = found[k as keyof Truth['counts']];
      if (n !== of) told.push(`${k}: ${n} of ${of}`);
      return [k, { right: Math.max(0, Math.min(n, of) - Math.max(0, n - of)), of: Math.max(of, n) }];
    }),
  ) as Score['forms'];
  const aside = i.setAside.reduce((n, s) => n + s.words, 0);
  const lost = i.setAside.filter((s) => s.rule === 'not-carried-over').reduce((n, s) => n + s.words, 0);
  if (lost > 0)
    told.push(
      `not carried over: ${i.setAside
        .filter((s) => s.rule === 'not-carried-over')
        .map((s) => s.text)
        .join(' | ')
        .slice(0, 120)}`,
    );
  return {
    right: right.size,
    of: truth.sections.length,
    false: Math.max(0, main.length - wanted) + bad.length,
    forms,
    unaccounted: Math.abs(i.wordsIn - i.wordsOut - aside) + lost,
    told,
  };
}
