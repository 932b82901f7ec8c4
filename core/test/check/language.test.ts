/** Language tags: the examples of RFC 5646 Appendix A, and Intl as another judge. */
import { expect, it } from 'vitest';
import { isLanguage } from '../../src/check/epub/language';

it.each(
  'de fr ja i-enochian zh-Hant zh-Hans sr-Cyrl zh-cmn-Hans-CN cmn-Hans-CN zh-yue-HK yue-HK zh-Hans-CN sr-Latn-RS sl-rozaj sl-rozaj-biske sl-nedis de-CH-1901 sl-IT-nedis hy-Latn-IT-arevela de-DE en-US es-419 de-CH-x-phonebk az-Arab-x-AZE-derbend x-whatever qaa-Qaaa-QM-x-southern de-Qaaa sr-Latn-QM sr-Qaaa-RS en-US-u-islamcal zh-CN-a-myext-x-private en-a-myext-b-another'.split(
    ' ',
  ),
)('%s is one (RFC 5646 Appendix A)', (tag) => expect(isLanguage(tag)).toBe(true));
it.each(['', 'english language', 'a-DE', 'en_GB', 'de-419-DE-', 'e', 'en-', '-en', 'françaisx'])(
  '“%s” is none',
  (tag) => expect(isLanguage(tag)).toBe(false),
);
it('whatever Intl takes for one is one', () => {
  for (const tag of [
    'en',
    'pt-BR',
    'gsw',
    'sr-Latn-RS',
    'ca-valencia',
    'en-u-ca-gregory',
    'und',
    'ar-EG-x-y',
  ])
    expect([tag, isLanguage(tag), Intl.getCanonicalLocales(tag).length]).toEqual([tag, true, 1]);
});
