/** Outlets that an author describes: a name, an address, and what its pages ask for. They are filled in by hand. */
import * as z from 'zod';
import { outletIdSchema } from '../book';
import { FIELDS_IN_ORDER, OUTLET_FIELDS, type OutletField } from './asked';
import type { Outlet } from './outlet';

const fieldSchema = z.enum(FIELDS_IN_ORDER as [OutletField, ...OutletField[]]);
export const ownOutletSchema = z.object({
  id: outletIdSchema,
  name: z.string().trim().min(1).max(60),
  web: z.string().trim().max(300).default(''),
  sells: z.enum(['reflow', 'fixed', 'print', 'word']),
  fileName: z.enum(['title', 'isbn', 'title-author']).default('title'),
  /** Hundredths of the price without tax that it keeps. */
  keeps: z.number().int().min(0).max(99).default(30),
  currencies: z
    .array(z.string().regex(/^[A-Z]{3}$/))
    .min(1)
    .max(30)
    .default(['GBP', 'USD', 'EUR']),
  /** Height of the cover in pixels, and its width by its height. */
  cover: z
    .object({ height: z.number().int().min(200).max(10_000), ratio: z.number().min(0.3).max(2) })
    .default({ height: 2_500, ratio: 0.625 }),
  asks: z
    .array(
      z.object({
        field: fieldSchema,
        called: z.string().trim().max(80).default(''),
        need: z.enum(['needed', 'optional']).default('needed'),
        most: z.number().int().min(0).max(100_000).optional(),
        least: z.number().int().min(0).max(100_000).optional(),
        words: z.number().int().min(1).max(50).optional(),
        markup: z.enum(['taken', 'counted']).optional(),
        between: z.string().max(5).optional(),
        as: z.enum(['number', 'words', 'code', 'one', 'two']).optional(),
      }),
    )
    .max(60)
    .refine((asks) => new Set(asks.map((a) => a.field)).size === asks.length, 'A field is asked for twice.'),
});
export type OwnOutlet = z.infer<typeof ownOutletSchema>;

/** As an outlet among the others. */
export const outletFrom = (own: OwnOutlet): Outlet => ({
  id: own.id,
  name: own.name,
  hosts: [],
  fileName: own.fileName,
  ebook: null,
  kind: own.sells === 'print' ? 'printer' : 'shop',
  words: own.web ? `Filled in by hand at ${own.web}.` : 'Filled in by hand in its own pages.',
  sells: [own.sells],
  reached: 'hand',
  asks: own.asks.map((a) => ({ ...a, called: a.called || OUTLET_FIELDS[a.field] })),
  takes: [],
  review: { days: 0, after: [] },
  files: own.sells === 'print' ? ['pages', 'cover sheet'] : own.sells === 'word' ? ['word'] : ['ebook'],
  least: own.currencies.map((currency) => ({ minor: 0, currency })),
  territories: null,
  plans: [
    {
      id: 'one',
      name: 'Its share',
      bands: own.currencies.map((currency) => ({ currency, from: 0, to: null })),
      territories: null,
      steps: [
        { kind: 'share', who: own.name, keeps: own.keeps * 100, of: 'rest' },
        ...(own.sells === 'print' ? [{ kind: 'printing' as const }] : []),
      ],
    },
  ],
  passes: [],
  cover: { height: own.cover.height, least: 0, ratio: own.cover.ratio },
  exclusive: 0,
  preorder: null,
  preview: null,
  adult: 'taken',
  adds: null,
  assigns: null,
  account: { days: 0, needs: [] },
  steps: [],
  print: own.sells === 'print' ? { bindings: ['paperback', 'hardback'] } : null,
  terms: '',
  bookAddress: '',
  affiliate: null,
});
