/** An EPUB read for its rules: the package, and its XHTML files with their ids. */
import { done, parseXml, type Outcome, type XmlElement } from '../base';
import { readPackage, textPart, type EpubPackage } from '../package';

/** A package with its XHTML files read, shared by all rules. */
export interface EpubSubject extends EpubPackage {
  bytes: Uint8Array;
  documents: {
    path: string;
    root: XmlElement | null;
    ids: Map<string, number>;
    fault: { message: string; line: number; column: number } | null;
  }[];
}

export const XHTML = 'application/xhtml+xml';

/** Reads the EPUB's parts for the rules. Errors: those of `readPackage`. */
export function epubSubject(bytes: Uint8Array): Outcome<EpubSubject> {
  const read = readPackage(bytes);
  if (!read.ok) return read;
  const p = read.value;
  const documents = p.manifest
    .filter((i) => i.type === XHTML && i.path)
    .flatMap((i) => {
      const text = textPart(p.zip, i.path);
      if (text === null) return [];
      const r = parseXml(text);
      return [
        {
          path: i.path,
          root: r.root,
          fault: r.fault,
          ids: r.root ? idsOf(r.root) : new Map<string, number>(),
        },
      ];
    });
  return done({ ...p, bytes, documents });
}

function idsOf(root: XmlElement): Map<string, number> {
  const ids = new Map<string, number>();
  const walk = (el: XmlElement): void => {
    if (el.attrs.id !== undefined) ids.set(el.attrs.id, (ids.get(el.attrs.id) ?? 0) + 1);
    for (const c of el.children) if (typeof c !== 'string') walk(c);
  };
  walk(root);
  return ids;
}
