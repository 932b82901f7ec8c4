/** The metadata as rules look at it: element by element. */
import { textOf, type XmlElement } from '../../base';
import type { Breach, Rule } from '../rules';
import { at, atAttribute, elementsIn, type EpubSubject, type XmlPart } from './subject';

export const DC_NS = 'http://purl.org/dc/elements/1.1/';

export interface Meta {
  part: XmlPart;
  root: XmlElement;
  all: XmlElement[];
  metadata: XmlElement;
}

export function metaOf(s: EpubSubject): Meta | null {
  const part = s.packageFile;
  const root = part?.root;
  const metadata = root ? elementsIn(root).find((e) => e.name === 'metadata') : undefined;
  if (!part || !root || !metadata) return null;
  // The older form may put them in a box of their own (OPF 2.0.1 §2.2).
  const all = elementsIn(metadata).flatMap((e) =>
    e.name === 'dc-metadata' || e.name === 'x-metadata' ? elementsIn(e) : [e],
  );
  return { part, root, all, metadata };
}

export const value = (e: XmlElement): string => textOf(e).replace(/\s+/g, ' ').trim();

export const property = (e: XmlElement): string => (e.name === 'meta' ? (e.attrs.property ?? '').trim() : '');

/** Metadata of a sort, not those that refine another. */
export const dc = (m: Meta, name: string): XmlElement[] =>
  m.all.filter((e) => e.ns === DC_NS && e.name === name);

export const properties = (m: Meta, name: string): XmlElement[] => m.all.filter((e) => property(e) === name);

/** A rule that looks at each element of the metadata. */
export const each = (
  of: Omit<Rule<EpubSubject>, 'look'>,
  look: (
    e: XmlElement,
    m: Meta,
    s: EpubSubject,
  ) => string | [message: string, attribute: string] | Breach | null,
): Rule<EpubSubject> => ({
  ...of,
  *look(s): Iterable<Breach> {
    const m = metaOf(s);
    for (const e of m?.all ?? []) {
      const said = m && look(e, m, s);
      if (said && m)
        yield typeof said === 'string'
          ? { message: said, ...at(m.part, e) }
          : Array.isArray(said)
            ? { message: said[0], ...atAttribute(m.part, e, said[1]) }
            : { ...said, ...at(m.part, e) };
    }
  },
});
