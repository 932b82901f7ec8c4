/** Languages that a book can be chosen to be in, by name. Their names are Intl's (CLDR). */
import type { Choice } from '@/ui/Select';

/** Languages whose script the typesetter sets, with the regions whose typography differs. */
const TAGS =
  'en-GB en-US en-AU en-CA en-IE af ca cs cy da de de-AT de-CH el es es-MX et eu fi fr fr-CA fr-CH ga gl hr hu id is it la lb lt lv mt nb nl nl-BE nn pl pt pt-BR ro ru sk sl sq sr-Latn sv sw tr uk vi'.split(
    ' ',
  );

/** The choices by name; a tag that the list lacks, as a file may name it, is offered too. */
export function languageChoices(now: string): Choice<string>[] {
  const names = new Intl.DisplayNames(['en'], { type: 'language' });
  const nameOf = (tag: string): string => {
    try {
      return names.of(tag) ?? tag;
    } catch {
      return tag;
    }
  };
  const tags = TAGS.includes(now) || now === '' ? TAGS : [now, ...TAGS];
  return tags
    .map((value) => ({ value, name: nameOf(value) }))
    .sort((a, b) => a.name.localeCompare(b.name, 'en'));
}
