/** The one contents list: the printed contents page, the ebook's navigation and the running order all read it. */
import { kindRule, type Edition, type Section } from '../book';
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
    if (!kindRule(section.kind).inContents) continue;
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
      const title = n.textContent.replace(/\s+/g, ' ').trim();
      if (n.type.name !== 'subhead' || at >= levels || title === '') return;
      entries.push({
        section,
        block: n.attrs.id as string,
        heading: { number: '', title, subtitle: '', label: title },
        depth: at,
      });
    });
  }
  return entries;
}

/** Entries of a list of figures: every picture with a caption, in the order of the book. */
export function figuresOf(sections: readonly Section[]): ContentsEntry[] {
  const entries: ContentsEntry[] = [];
  for (const section of sections)
    section.content.descendants((n) => {
      const title = n.textContent.replace(/\s+/g, ' ').trim();
      if (n.type.name === 'figure' && title !== '')
        entries.push({
          section,
          block: n.attrs.id as string,
          heading: { number: '', title, subtitle: '', label: title },
          depth: 0,
        });
      return n.type.name !== 'figure' && !n.isTextblock;
    });
  return entries;
}

/** A list of figures is made by itself where nothing was written on its page. */
export const listsFigures = (s: Section): boolean => s.kind === 'list-of-figures' && !hasText(s.content);
