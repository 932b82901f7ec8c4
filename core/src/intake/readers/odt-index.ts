/** Entries for the index in an OpenDocument text (ODF 1.3 part 3, §7.1.18 to §7.1.20). */
import type { XmlElement } from '../../base';

/** Term of an entry, its keys before it, levels apart by ": " as in the book. `shown`: the words it goes over, if any. */
export function termOf(mark: XmlElement, shown = ''): string {
  const said = mark.attrs['text:string-value'] ?? shown;
  return [mark.attrs['text:key1'] ?? '', mark.attrs['text:key2'] ?? '', said]
    .map((t) => t.replace(/\s+/g, ' ').trim())
    .filter(Boolean)
    .join(': ');
}

/** Terms of the entries that go over words, by the ids of their beginnings; those that never end have none. */
export function termsOver(body: XmlElement): Map<string, string> {
  const open = new Map<string, { mark: XmlElement; shown: string }>();
  const terms = new Map<string, string>();
  const walk = (e: XmlElement): void => {
    for (const c of e.children) {
      if (typeof c === 'string') for (const o of open.values()) o.shown += c;
      else if (c.name === 'alphabetical-index-mark-start')
        open.set(c.attrs['text:id'] ?? '', { mark: c, shown: '' });
      else if (c.name === 'alphabetical-index-mark-end') {
        const id = c.attrs['text:id'] ?? '';
        const begun = open.get(id);
        open.delete(id);
        const term = begun ? termOf(begun.mark, begun.shown) : '';
        if (term) terms.set(id, term);
      } else if (c.name === 's' || c.name === 'tab') for (const o of open.values()) o.shown += ' ';
      else if (c.name !== 'note' && c.name !== 'annotation') walk(c);
    }
  };
  walk(body);
  return terms;
}
