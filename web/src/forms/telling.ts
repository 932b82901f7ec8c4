/** What a mark says about its words: where a link leads, how the index lists them, which language they are in. */
import * as z from 'zod';
import { bareIsbn, isbnFault } from '@pagina/core/record';

const ASKED = {
  web: 'Enter a web address.',
  place: 'Choose a place in the book.',
  shop: 'Enter the ISBN of the book.',
  indexed: 'Enter the words of the index entry.',
  language: 'Use a language tag, such as fr, de-AT or la.',
} as const;
/** What can be told; the first three are kinds of link. */
export type Told = keyof typeof ASKED;

const isTag = (tag: string): boolean => {
  try {
    return Intl.getCanonicalLocales(tag).length === 1;
  } catch {
    return false;
  }
};
function isAddress(address: string): boolean {
  try {
    const { protocol, hostname, pathname } = new URL(address);
    return protocol === 'mailto:' ? /^[^@]+@[^@]+$/.test(pathname) : /^[^.]+(?:\.[^.]+)+$/.test(hostname);
  } catch {
    return false;
  }
}
const words = (of: Told) => z.string().trim().min(1, ASKED[of]);

/** An address of the web or of mail; one without a scheme is taken for the web. */
export const webAddress = words('web')
  .refine((v) => !/\s/.test(v), 'A web address can’t contain spaces.')
  .transform((v) => (/^(https?|mailto):/i.test(v) ? v : `https://${v}`))
  .refine(isAddress, 'This isn’t a web address. Write it like example.com/page.');

/** The attributes of the mark (core/book): a link's kind and target, an entry's term, a tag. */
export const telling = z.discriminatedUnion('of', [
  z.object({ of: z.literal('web'), value: webAddress }),
  z.object({ of: z.literal('place'), value: words('place') }),
  z.object({
    of: z.literal('shop'),
    value: words('shop')
      .refine((v) => !isbnFault(v), 'This isn’t a valid ISBN.')
      .transform(bareIsbn),
  }),
  z.object({ of: z.literal('indexed'), value: words('indexed') }),
  z.object({ of: z.literal('language'), value: words('language').refine(isTag, ASKED.language) }),
]);
