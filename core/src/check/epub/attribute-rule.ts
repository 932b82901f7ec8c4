/** Rules that look at elements by the attributes that they have. */
import type { XmlElement } from '../../base';
import type { Breach, Rule } from '../rules';
import { atAttribute, having, isHtml, type EpubDocument, type EpubSubject } from './subject';

export type Said = [message: string, attribute: string];

/** A rule that looks at each element of HTML, or `all` elements, that has such an attribute. */
export const each = (
  where: (attribute: string) => boolean,
  of: Omit<Rule<EpubSubject>, 'look'>,
  look: (e: XmlElement, d: EpubDocument) => Said | Said[] | null,
  all = false,
): Rule<EpubSubject> => ({
  ...of,
  *look(s): Iterable<Breach> {
    for (const d of s.documents)
      for (const e of having(d, where)) {
        const said = all || isHtml(e) ? look(e, d) : null;
        if (said === null) continue;
        for (const [message, attribute] of Array.isArray(said[0]) ? (said as Said[]) : [said as Said])
          yield { message, ...atAttribute(d, e, attribute) };
      }
  },
});

export const NEW = ['EPUB 3.3'] as const;

export const BOTH = ['EPUB 3.3', 'EPUB 2.0.1'] as const;
