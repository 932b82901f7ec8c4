/** Items of the manifest, and the files that are meant by names which are not quite theirs. */
import type { XmlElement } from '../../base';
import type { ManifestItem } from '../../package';
import type { Breach, Rule } from '../rules';
import { elementsIn, type EpubSubject } from './subject';

export const itemPlace = (s: EpubSubject, i: ManifestItem): Pick<Breach, 'file' | 'line' | 'column'> => ({
  file: s.path,
  line: i.line,
  column: i.column,
});

export const elements = (s: EpubSubject): XmlElement[] => {
  const root = s.packageFile?.root;
  const manifest = root && elementsIn(root).find((e) => e.name === 'manifest');
  return manifest ? elementsIn(manifest).filter((e) => e.name === 'item') : [];
};

/** A rule that looks at each item. */
export const each = (
  of: Omit<Rule<EpubSubject>, 'look'>,
  look: (i: ManifestItem, s: EpubSubject) => string | Breach | null,
): Rule<EpubSubject> => ({
  ...of,
  *look(s) {
    for (const i of s.manifest) {
      const said = look(i, s);
      if (said) yield { ...(typeof said === 'string' ? { message: said } : said), ...itemPlace(s, i) };
    }
  },
});

export const folded = new WeakMap<Set<string>, Map<string, string>>();

/** A name in the container that differs in capitals, accents or percent-encoding alone. */
export function otherCase(s: EpubSubject, path: string): string | undefined {
  let known = folded.get(s.names);
  if (!known) folded.set(s.names, (known = new Map([...s.names].map((n) => [fold(n), n]))));
  return known.get(fold(path));
}

export const fold = (name: string): string => name.normalize('NFC').toLowerCase();

/** The one file of that name, wherever it is; null where there are several or none. */
export function elsewhere(names: ReadonlySet<string>, path: string): string | null {
  const base = (path.split('/').at(-1) ?? '').toLowerCase();
  const found = base === '' ? [] : [...names].filter((n) => n.split('/').at(-1)?.toLowerCase() === base);
  return found.length === 1 ? (found[0] as string) : null;
}
