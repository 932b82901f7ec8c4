/** The one contents list: the printed contents page, the ebook's navigation and the running order all read it. */
import { kindRule, type Book, type Section } from '../book';
import { headingsOf, type Heading } from './number';

export interface ContentsEntry {
  section: Section;
  heading: Heading;
  /** 0 for parts and sections outside parts, 1 for chapters in parts. */
  depth: number;
}

export function contentsOf(sections: readonly Section[], record: Book['record']): ContentsEntry[] {
  const headings = headingsOf(sections, record);
  const present = new Set(sections.map((s) => s.id));
  return sections
    .filter((s) => kindRule(s.kind).inContents)
    .map((section) => ({
      section,
      heading: headings.get(section.id) as Heading,
      depth: section.parent && present.has(section.parent) ? 1 : 0,
    }));
}
