/** Where the pages of the print edition begin in the text of an ebook. */
import { notesIn, type Section } from '../book';
import { textLines, type Composition } from '../compose';
import type { Addresses } from './addresses';
import { addressOf } from './addresses';
import { pageId, type PageMark } from './xhtml';

export class PrintPages {
  /** Pages that begin within a block, by its id. */
  readonly inBlocks = new Map<string, PageMark[]>();
  /** Pages that begin with a section. */
  private readonly opening = new Map<string, string[]>();
  /** Labels in the order of the pages, with the number of the section that each begins in. */
  private readonly labels: { label: string; section: number }[] = [];

  /**
   * Finds for every print page the first character on it that this edition carries. `gatherer`: the section that holds the
   * notes of others, whose words are not its own.
   */
  constructor(composition: Composition | null, sections: readonly Section[], gatherer: Section | null) {
    if (!composition) return;
    const blocks = new Map(sections.map((s) => [s.id, blocksOf(s)]));
    const notes = gatherer && blocks.get(gatherer.id);
    if (notes)
      for (const s of sections)
        for (const note of notesIn(s.content)) note.forEach((p) => void notes.add(p.attrs.id as string));
    const numbers = new Map(sections.map((s, i) => [s.id, i]));
    for (const page of composition.pages) {
      const section = numbers.get(page.section);
      if (page.blank || section === undefined || page.label === '') continue;
      if (sections[section]?.kind === 'contents') continue;
      this.labels.push({ label: page.label, section });
      if (page.opens) {
        this.opening.set(page.section, [...this.opensWith(page.section), page.label]);
        continue;
      }
      const own = blocks.get(page.section);
      const first = [...textLines(page.body)].find((l) => own?.has(l.block));
      if (!first) continue;
      const marks = this.inBlocks.get(first.block) ?? [];
      marks.push({ offset: first.offset, label: page.label });
      this.inBlocks.set(first.block, marks);
    }
  }

  opensWith(section: string): readonly string[] {
    return this.opening.get(section) ?? [];
  }

  /** The list of pages whose marks stand in the files: a page without one is not listed. */
  list(addresses: Addresses): { label: string; href: string }[] {
    return this.labels.flatMap(({ label, section }) =>
      addresses.has(section, pageId(label))
        ? [{ label, href: addresses.href(addressOf(section, pageId(label))) }]
        : [],
    );
  }
}

/** Ids of the blocks of a section that hold words. */
function blocksOf({ content }: Section): Set<string> {
  const ids = new Set<string>();
  content.descendants((n) => {
    if (n.isTextblock) ids.add(n.attrs.id as string);
    return !n.isTextblock;
  });
  return ids;
}
