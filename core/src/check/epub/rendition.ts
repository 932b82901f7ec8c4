/** Rules of what the metadata says of pages of a fixed size (EPUB 3.3 §8.2.2, §8.3). */
import type { Rule } from '../rules';
import { each, metaOf, property, value } from './metas';
import { at, type EpubSubject } from './subject';

const renditionValues: Record<string, [values: string[], section: string]> = {
  'rendition:layout': [['reflowable', 'pre-paginated'], '§8.2.2.1'],
  'rendition:orientation': [['landscape', 'portrait', 'auto'], '§8.2.2.3'],
  'rendition:spread': [['none', 'landscape', 'both', 'auto', 'portrait'], '§8.2.2.4'],
  'rendition:flow': [['paginated', 'scrolled-continuous', 'scrolled-doc', 'auto'], '§8.3.2'],
};

export const RENDITION_RULES: Rule<EpubSubject>[] = [
  ...Object.entries(renditionValues).map(([name, [values, section]]) =>
    each(
      {
        name: `fixed/${name.replace('rendition:', '')}`,
        severity: 'blocker',
        profiles: ['EPUB 3.3'],
        source: `EPUB 3.3 ${section}: values of ${name}`,
        remedy: `Write one of: ${values.join(', ')}.`,
      },
      (e) =>
        property(e) === name && !values.includes(value(e))
          ? `“${value(e)}” is not a value of ${name}.`
          : null,
    ),
  ),
  {
    name: 'fixed/said-twice',
    severity: 'blocker',
    profiles: ['EPUB 3.3'],
    source: 'EPUB 3.3 §8.2.2, §8.3: each rendition property once',
    remedy: 'Keep one of them.',
    *look(s) {
      const m = metaOf(s);
      const seen = new Set<string>();
      for (const e of m?.all ?? []) {
        const p = property(e);
        if (m && renditionValues[p] && !e.attrs.refines && seen.has(p))
          yield { message: `“${p}” is given twice.`, ...at(m.part, e) };
        seen.add(p);
      }
    },
  },
  each(
    {
      name: 'fixed/portrait-spread',
      severity: 'caution',
      profiles: ['EPUB 3.3'],
      source: 'EPUB 3.3 §8.2.2.4: the value portrait is deprecated',
      remedy: 'Write “both”.',
    },
    (e) =>
      property(e) === 'rendition:spread' && value(e) === 'portrait'
        ? 'Spreads for portrait alone are no longer used.'
        : null,
  ),
];
