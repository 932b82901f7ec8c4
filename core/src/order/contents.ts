/** The one contents list: the printed contents page, the ebook's navigation and the running order all read it. */
import { kindRule, onOneLine, type Edition, type Section } from '../book';
import { captionNumbers, forCaptions } from './captions';
import { headingsOf, type Heading, type Naming } from './number';
import { hasText } from './text';

export interface ContentsEntry {
  section: Section;
  /** Id of the subhead it points to; null for the section itself. */
  block: string | null;
  heading: Heading;
  /** 0 for parts and for sections outside parts. */
  depth: number;
}

/** Whether the contents lists the section: as its kind does, or as was chosen. The contents never lists itself. */
export const isListed = ({ kind, listed }: Section): boolean =>
  listed === 'usual' ? kindRule(kind).inContents : listed === 'yes' && kind !== 'contents';

/** Entries an edition lists, at most three levels deep, down to subheads where the edition's levels reach them. */
export function contentsOf(
  sections: readonly Section[],
  naming: Naming,
  levels: Edition['contents']['levels'] = null,
): ContentsEntry[] {
  const headings = headingsOf(sections, naming);
  const present = new Map(sections.map((s) => [s.id, s]));
  const entries: ContentsEntry[] = [];
  for (const section of sections) {
    if (!isListed(section)) continue;
    let depth = 0;
    for (let p = section.parent; p && present.has(p); p = present.get(p)?.parent ?? null) depth++;
    if (levels !== null && depth >= levels) continue;
    entries.push({
      section,
      block: null,
      heading: headings.get(section.id) as Heading,
      depth: Math.min(depth, 2),
    });
    if (levels === null || section.kind === 'contents') continue;
    section.content.forEach((n) => {
      const at = depth + Number(n.attrs.level);
      const title = onOneLine(n);
      if (n.type.name !== 'subhead' || at >= levels || title === '') return;
      entries.push({
        section,
        block: n.attrs.id as string,
        heading: { number: '', bare: '', title, subtitle: '', label: title },
        depth: at,
      });
    });
  }
  return entries;
}

/** What the section's page lists by itself, where nothing was written on it: the captions of the book. */
export function captionsListedBy(s: Section): 'figures' | 'tables' | null {
  const of = s.kind === 'list-of-figures' ? 'figures' : s.kind === 'list-of-tables' ? 'tables' : null;
  return of && !hasText(s.content) ? of : null;
}

/** Entries of a list of figures or tables: every one with a caption, in the order of the book. */
export function captionsOf(
  sections: readonly Section[],
  naming: Naming,
  of: 'figures' | 'tables',
): ContentsEntry[] {
  const numbers = captionNumbers(sections, naming);
  const entries: ContentsEntry[] = [];
  for (const section of sections)
    forCaptions(section.content, (caption, table) => {
      if ((table !== null) !== (of === 'tables')) return;
      const title = firstSentence(onOneLine(caption));
      const block = caption.attrs.id as string;
      const bare = numbers.get(block)?.number ?? '';
      const heading = { number: bare, bare, title, subtitle: '', label: title };
      entries.push({ section, block, heading, depth: 0 });
    });
  return entries;
}

/** A caption is listed by its first sentence; what follows explains the picture. */
const firstSentence = (caption: string): string =>
  /^(.{12,}?\p{L}{3,})\.(?=\s+\p{Lu})/u.exec(caption)?.[1] ?? caption;
