/** What single lines of forms may hold, and what is said where one does not fit. Browser and server parse with the same. */
import * as z from 'zod';
import { trimOf } from '@pagina/core/design';
import { isAffiliateCode, isPageName } from '@pagina/core/outlets';

const name = (what: string, most: number) =>
  z
    .string()
    .trim()
    .refine((v) => v.length > 0 && v.length <= most, `${what} needs a name of at most ${most} characters.`);

export const trimName = name('A trim', 60);
export const designName = name('A design', 80);
export const editionName = name('An edition', 60);
export const versionName = name('A version', 200);
/** The title of a new book, which may come later. */
export const bookTitle = z
  .string()
  .trim()
  .refine((v) => v.length <= 400, 'A title has at most 400 characters.');
/** Width × height, as it is listed. */
export const trimSize = z
  .string()
  .max(100)
  .transform((text, context) => {
    const trim = trimOf(text);
    if (trim) return trim.name;
    context.addIssue({
      code: 'custom',
      message: 'Write width × height, such as 140 × 210 mm, between 3.5 and 14 in.',
    });
    return z.NEVER;
  });
/** Whole days. */
export const reminderDays = z
  .string()
  .trim()
  .refine((v) => /^\d{1,3}$|^1000$/.test(v), 'Enter whole days, up to 1,000.');
/** The short address of a page about a book. */
export const pageName = z
  .string()
  .trim()
  .refine(isPageName, 'Small letters, figures and hyphens only, and at most 60 of them.');
/** The key of an account, as an outlet gives it; empty to end the connection. */
export const accountKey = z
  .string()
  .trim()
  .refine((v) => /^[!-~]{0,400}$/.test(v), 'A key has no spaces in it, and at most 400 characters.');
export const affiliateCode = z
  .string()
  .trim()
  .refine(isAffiliateCode, 'Letters, figures, dots and dashes only, no spaces, and at most 60 of them.');
