/** Where the book points: links, cross-references, and words that name a chapter, a figure or a table. */
import type { Node } from 'prosemirror-model';
import type { SectionKind } from '../../book';
import { forCaptions } from '../../order';
import { ReferenceFinder, typedCaption } from '../../tidy';
import type { Rule } from '../rules';
import { wordsAround, type Reading } from './reading';
import { atBlock, type BookSubject } from './subject';

const PRACTICE = 'common practice';

/** Where a text leads to within the book, and which places it has itself. */
interface Pointed {
  targets: { target: string; block: string }[];
  ids: Set<string>;
}
const pointed = new WeakMap<Node, Pointed>();

function pointedIn(content: Node): Pointed {
  let known = pointed.get(content);
  if (!known) {
    const found: Pointed = (known = { targets: [], ids: new Set() });
    let block = '';
    content.descendants((n) => {
      if (typeof n.attrs.id === 'string') found.ids.add(n.attrs.id);
      if (n.isTextblock) block = n.attrs.id as string;
      if (n.type.name === 'reference') found.targets.push({ target: n.attrs.target as string, block });
      const link = n.marks.find((m) => m.type.name === 'link' && m.attrs.kind === 'place');
      if (link) found.targets.push({ target: link.attrs.target as string, block });
    });
    pointed.set(content, found);
  }
  return known;
}

/** Sections whose words point to places in other books. */
const CITES: ReadonlySet<SectionKind> = new Set([
  'bibliography',
  'notes',
  'extract',
  'also-by',
  'copyright-page',
]);

const astray = new WeakMap<
  Node,
  { by: string; found: { block: string; at: number; words: string; what: string }[] }
>();

/** Why an address leads nowhere; null for one that may lead somewhere. */
function addressFault(target: string): string | null {
  if (/^mailto:/i.test(target))
    return /^mailto:[^\s@]+@[^\s@]+\.[^\s@]+$/i.test(target) ? null : 'it isn’t an e-mail address';
  let url: URL;
  try {
    url = new URL(target);
  } catch {
    return 'it isn’t a web address';
  }
  if (!/^https?:$/.test(url.protocol))
    return `it begins with “${url.protocol}”, which leads to a file or a program of one computer`;
  if (/^(localhost|127\.|10\.|192\.168\.|\[)/.test(url.hostname) || !url.hostname.includes('.'))
    return 'it leads to a computer that readers can’t reach';
  if (/(?:^|\.)example\.(?:com|org|net)$/.test(url.hostname))
    return 'it is an example and leads to no site of yours';
  return null;
}

export const REFERENCE_RULES: readonly Rule<BookSubject>[] = [
  {
    name: 'reference/dead-place',
    severity: 'caution',
    profiles: ['book'],
    source: PRACTICE,
    why: 'The page number can’t be printed, and the link leads nowhere.',
    remedy: 'Choose another place, or make it plain text.',
    *look({ book }) {
      const ids = book.sections.map((s) => pointedIn(s.content).ids);
      for (const s of book.sections)
        for (const { target, block } of pointedIn(s.content).targets) {
          const [section = '', place = ''] = target.split('#');
          const there =
            place === '' ? book.sections.some((x) => x.id === section) : ids.some((x) => x.has(place));
          if (!there)
            yield atBlock(
              s,
              { id: block },
              'A link or cross-reference leads to a place that is no longer in the book.',
            );
        }
    },
  },
  {
    name: 'reference/no-such-place',
    severity: 'caution',
    profiles: ['book'],
    source: PRACTICE,
    why: 'Readers look for it in vain.',
    remedy: 'Correct the number, or make it a cross-reference that follows its place.',
    *look({ book }) {
      const finder = new ReferenceFinder(book);
      for (const { id, kind, content } of book.sections) {
        if (CITES.has(kind)) continue;
        let known = astray.get(content);
        if (known?.by !== finder.key) {
          known = { by: finder.key, found: [] };
          const { found } = known;
          content.descendants((n) => {
            if (n.type.name === 'monospace') return false;
            if (!n.isTextblock) return n.type.name !== 'noteBody';
            for (const a of finder.astray(n)) {
              const text = n.textBetween(0, n.content.size, '', '\ufffc');
              found.push({
                block: n.attrs.id as string,
                at: a.from,
                words: wordsAround(text, a.from, a.to),
                what: `${a.kind} ${a.number}`,
              });
            }
            return false;
          });
          astray.set(content, known);
        }
        for (const { block, at, words, what } of known.found)
          yield atBlock({ id }, { id: block }, `The book has no ${what}.`, at, { about: what, words });
      }
    },
  },
  {
    name: 'reference/captions-out-of-order',
    severity: 'caution',
    profiles: ['book'],
    source: PRACTICE,
    why: 'Readers look for a figure by its number.',
    remedy: 'Let the book number its captions, or correct the numbers.',
    *look({ book }) {
      const last: Record<'figure' | 'table', { number: string; values: number[] } | null> = {
        figure: null,
        table: null,
      };
      for (const s of book.sections) {
        const found: { block: string; of: 'figure' | 'table'; number: string }[] = [];
        forCaptions(s.content, (caption, table) => {
          const typed = typedCaption(caption);
          if (typed)
            found.push({
              block: caption.attrs.id as string,
              of: table ? 'table' : 'figure',
              number: typed.number,
            });
        });
        for (const { block, of, number } of found) {
          const values = number.split('.').map(Number);
          const before = last[of];
          if (values.some(Number.isNaN)) continue;
          if (before && !isAfter(values, before.values))
            yield atBlock(
              s,
              { id: block },
              `The caption of ${of} ${number} follows that of ${of} ${before.number}.`,
            );
          last[of] = { number, values };
        }
      }
    },
  },
];

function isAfter(a: readonly number[], b: readonly number[]): boolean {
  for (let i = 0; i < Math.max(a.length, b.length); i++) {
    const d = (a[i] ?? 0) - (b[i] ?? 0);
    if (d !== 0) return d > 0;
  }
  return false;
}

export const ADDRESS_RULES: readonly Rule<Reading>[] = [
  {
    name: 'reference/dead-address',
    severity: 'caution',
    profiles: ['book'],
    source: 'RFC 3986 (from memory); RFC 2606 §3: example.com, .net and .org are reserved',
    why: 'Shops refuse ebooks whose links lead nowhere.',
    remedy: 'Correct the address, or make it plain text.',
    *look({ section }) {
      const found: { block: string; target: string }[] = [];
      let block = '';
      section.content.descendants((n) => {
        if (n.isTextblock) block = n.attrs.id as string;
        const link = n.marks.find((m) => m.type.name === 'link' && m.attrs.kind === 'web');
        const target = (link?.attrs.target ?? (n.type.name === 'figure' ? n.attrs.link : '')) as string;
        if (target !== '' && found.at(-1)?.target !== target) found.push({ block, target });
      });
      for (const { block: id, target } of found) {
        const fault = addressFault(target);
        if (fault) yield atBlock(section, { id }, `The link “${target}” leads nowhere: ${fault}.`);
      }
    },
  },
];
