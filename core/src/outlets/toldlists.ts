/** Fields that are lists, or chosen from some: keywords, subjects, territories, shops, and the choices that an outlet offers. */
import { territoryNames } from './territories';
import { subjectOf } from '../record';
import type { Asked } from './asked';
import type { Outlet } from './outlet';
import { onShelves } from './shelves';
import { told, type Facts, type Told } from './told';

function countFault({ least = 0, most = Infinity, need }: Asked, n: number, what: string): string | null {
  const needed = need === 'needed' ? Math.max(least, 1) : least;
  if (n === 0) return `The record has no ${what}s.`;
  if (n < needed) return `It has ${n}, and needs ${needed}.`;
  if (n <= most) return null;
  return `There are ${n} ${what}s; only ${most === 1 ? 'one is' : `${most} are`} accepted. Remove some, or give this outlet its own.`;
}

function keywordsTold(asked: Asked, keywords: readonly string[]): Told {
  const { words = Infinity, between } = asked;
  const long = keywords.find((k) => k.split(/\s+/).length > words);
  const parted = between?.trim() ? keywords.find((k) => k.includes(between.trim())) : undefined;
  const fault =
    countFault(asked, keywords.length, 'keyword') ??
    (long ? `“${long}” has more than ${words} words.` : null) ??
    (parted ? `“${parted}” contains the mark that separates keywords here.` : null);
  return told(keywords.join(between ?? ', '), fault, {
    ...(between === undefined ? { parts: keywords } : {}),
    shown: keywords.length === 1 ? '1 keyword' : `${keywords.length} keywords`,
  });
}

function subjectsTold(asked: Asked, codes: readonly string[]): Told {
  if (asked.as === 'shelves') {
    const shelves = [...new Set(codes.map(onShelves))];
    const named = shelves.filter((s): s is string => s !== null);
    const taken = named.slice(0, asked.most);
    const fault =
      codes.length === 0
        ? 'The record has no subjects.'
        : taken.length === 0
          ? 'None of the subjects has a shelf there. Add one that has.'
          : null;
    return told(taken.join('; '), fault, { parts: taken.flatMap((s) => s.split(' › ')) });
  }
  return told(codes.join('; '), countFault(asked, codes.length, 'subject'), {
    parts: codes,
    shown: codes.map((c) => `${c} ${subjectOf(c)?.name ?? ''}`.trim()).join('; '),
  });
}

/** Null for a field that is none of these. */
export function listTold(outlet: Outlet, asked: Asked, { book, placing }: Facts): Told | null {
  const { record } = book;
  const here = { station: 'outlets' as const };
  switch (asked.field) {
    case 'keywords':
      return keywordsTold(asked, placing.variants.keywords ?? record.keywords);
    case 'subjects':
      return subjectsTold(asked, placing.variants.subjects ?? record.subjects);
    case 'territories': {
      const sold = territoriesAt(outlet, record.territories);
      return told(
        sold === null ? 'The whole world' : sold.join(' '),
        sold?.length === 0 ? `${outlet.name} sells in none of the territories of the record.` : null,
        {
          shown: sold === null ? 'the whole world' : territoryNames(sold),
          ...(sold ? { parts: sold } : {}),
        },
      );
    }
    case 'shops': {
      const shops = outlet.passes.filter((s) => placing.shops?.includes(s.id) ?? true).map((s) => s.name);
      return told(shops.join('; '), shops.length === 0 ? 'Choose at least one.' : null, {
        ...here,
        parts: shops,
      });
    }
    case 'exclusive':
      return told(placing.exclusiveUntil ? `Until ${placing.exclusiveUntil}` : 'No', null, here);
    case 'protection':
      return told(placing.protection ? 'Yes' : 'No', null, here);
    case 'lending':
      return told(placing.lending ? 'Yes' : 'No', null, here);
    case 'copies': {
      const { most = 100 } = asked;
      return told(
        `${placing.copies} %`,
        placing.copies > most ? `At most ${most} % may be copied there.` : null,
        here,
      );
    }
    case 'preview': {
      const { most = 100 } = asked;
      const own = outlet.preview?.own ?? 0;
      if (placing.preview === null)
        return told('', asked.need === 'needed' ? 'Choose how much may be read before buying.' : null, {
          ...here,
          shown: `the outlet’s own: the first ${own} %`,
        });
      return told(
        `${placing.preview} %`,
        placing.preview > most ? `A preview is ${most} % of the book at most.` : null,
        here,
      );
    }
    case 'preorder':
      return told(
        placing.preorder ? `Yes, on sale ${record.published}` : 'No',
        preorderFault(outlet, placing.preorder, record.published),
        here,
      );
    default:
      return null;
  }
}

/** Without a date nothing is counted down. What depends on today is told in the outlet's own panel. */
function preorderFault(outlet: Outlet, preorder: boolean, published: string): string | null {
  if (!preorder) return null;
  if (!outlet.preorder) return `${outlet.name} takes no pre-orders.`;
  return published === '' ? 'Set the day of publication in the record.' : null;
}

/** Where an outlet may sell a book; null for the whole world. */
export function territoriesAt(
  outlet: Pick<Outlet, 'territories'>,
  record: readonly string[] | null,
): readonly string[] | null {
  if (outlet.territories === null) return record;
  return record === null ? outlet.territories : outlet.territories.filter((t) => record.includes(t));
}
