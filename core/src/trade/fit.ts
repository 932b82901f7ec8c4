/** What of a print edition a file that someone else made has to fit, and what has changed since it was checked. */
import * as z from 'zod';
import { moneySchema, moneyString } from '../base';
import type { PrintEdition } from '../book';
import { bareIsbn } from '../record';
import { paperOf } from './printing';

export const fitSchema = z.object({
  pages: z.number(),
  trim: z.string(),
  paper: z.string(),
  binding: z.enum(['paperback', 'hardback']),
  isbn: z.string(),
  /** List price. Files attached by earlier versions don’t say. */
  price: moneySchema.nullable().default(null),
});
export type Fit = z.infer<typeof fitSchema>;
export const fitOf = ({ trim, paper, binding, isbn, price }: PrintEdition, pages: number): Fit => ({
  pages,
  trim,
  paper,
  binding,
  isbn: bareIsbn(isbn),
  price,
});

const moneyLine = (price: Fit['price']): string => (price ? moneyString(price) : 'none');

/**
 * What has changed since a file was checked, in a sentence; null where nothing has. An interior has no spine: pages and
 * paper are nothing to it. `now.pages` is 0 while they are not known.
 */
export function outgrown(then: Fit, now: Fit, what: 'cover' | 'interior'): string | null {
  const cover = what === 'cover';
  const changes = [
    then.trim !== now.trim ? `trim (now ${now.trim})` : '',
    cover && now.pages > 0 && then.pages !== now.pages ? `pages (${now.pages}, then ${then.pages})` : '',
    cover && then.paper !== now.paper ? `paper (now ${paperOf(now.paper).name})` : '',
    then.binding !== now.binding ? `binding (now ${now.binding})` : '',
    cover && moneyLine(then.price) !== moneyLine(now.price) ? `list price (now ${moneyLine(now.price)})` : '',
    cover && then.isbn !== now.isbn ? `ISBN (now ${now.isbn || 'none'})` : '',
  ].filter(Boolean);
  return changes.length === 0
    ? null
    : `Changed since this was checked: ${changes.join(', ')}. Check it again.`;
}
