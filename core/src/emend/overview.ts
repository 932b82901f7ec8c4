/** An ebook that is being emended as its windows show it: documents by the names their readers know, lists, metadata. */
import { navigationOf, readingOrder, type Navigation } from '../package';
import type { Emended } from './container';
import { Draft } from './draft';
import { unescapeXml } from './located';
import { metadataRows, type MetadataRow } from './metadata';
import { textOfPart } from './container';

export interface DocumentRow {
  path: string;
  /** As the contents name it, or its title, or its first heading, or its file. */
  label: string;
  type: string;
  linear: boolean;
  fixed: boolean;
  isNavigation: boolean;
  /** Whether its part is there at all. */
  there: boolean;
}
export interface Overview extends Navigation {
  /** Path of the package document; '' where the container names none. */
  packagePath: string;
  navigationPath: string;
  ncxPath: string;
  version: string;
  title: string;
  creators: string[];
  language: string;
  direction: 'ltr' | 'rtl';
  documents: DocumentRow[];
  metadata: MetadataRow[];
  /** Parts of text, which have a source to be edited. */
  sheets: string[];
}

export function overviewOf(e: Emended): Overview {
  const d = new Draft(e);
  const p = d.package;
  const nav = navigationOf(p);
  const order = readingOrder(p);
  const items = new Map(p.manifest.map((i) => [i.path, i]));
  const named = new Map<string, string>();
  for (const c of nav.contents) if (c.path && c.label && !named.has(c.path)) named.set(c.path, c.label);
  return {
    packagePath: p.path,
    navigationPath: p.manifest.find((i) => i.properties.includes('nav'))?.path ?? '',
    ncxPath: p.manifest.find((i) => i.type === 'application/x-dtbncx+xml')?.path ?? '',
    version: p.version,
    title: order.title,
    creators: p.metadata.filter((m) => m.name === 'creator').map((m) => m.value),
    language: order.language,
    direction: order.direction,
    // One that is named twice is shown once.
    documents: [...new Map(order.documents.map((x) => [x.path, x])).values()].map((x) => ({
      path: x.path,
      label: named.get(x.path) ?? ownName(d, x.path),
      type: items.get(x.path)?.type ?? '',
      linear: x.linear,
      fixed: x.fixed,
      isNavigation: items.get(x.path)?.properties.includes('nav') ?? false,
      there: e.parts.has(x.path),
    })),
    ...nav,
    metadata: p.root ? metadataRows(d) : [],
    sheets: p.manifest.filter((i) => i.type === 'text/css' && e.parts.has(i.path)).map((i) => i.path),
  };
}

/** Only the beginning is looked at: what names a document stands there. */
const BEGINNING = 4_000;
function ownName(d: Draft, path: string): string {
  const text = (textOfPart(d.now, path) ?? '').slice(0, BEGINNING);
  const tag = (name: string): string => {
    const found = new RegExp(`<${name}\\b[^>]*>([\\s\\S]*?)</${name}>`, 'i').exec(text)?.[1] ?? '';
    return found
      .replace(/<[^>]*>/g, '')
      .replace(/\s+/g, ' ')
      .trim();
  };
  return unescapeXml(tag('h1') || tag('h2') || tag('title')) || (path.split('/').at(-1) ?? path);
}
