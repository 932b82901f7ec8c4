/** What stays from one composition to the next: opened faces, shaped words, and sections composed alone. */
import type { Section } from '../book';
import { TypeCase, type FamilyFiles, type HarfBuzz } from '../type';
import { KeptParagraphs } from './blocks';
import type { SectionPages } from './sectionpages';
import type { Setter } from './blocks';

export interface TypeSource {
  harfbuzz: HarfBuzz;
  /** The files of a family, by its name; fetched when first asked for. */
  family(name: string): Promise<FamilyFiles>;
}

const SETTERS = 6;
/** Blocks of a section that would take long to set again: it is made ready for writing at once. */
const LONG = 1_500;
/** Sections whose paragraphs are kept: one writes in few at a time, and a long one takes some room. */
const WRITTEN = 3;

export class ComposeCache {
  private faces: TypeCase | null = null;
  private readonly setters = new Map<string, Setter>();
  private readonly sections = new Map<
    string,
    { content: Section['content']; key: string; pages: SectionPages }
  >();

  private readonly written = new Map<string, KeptParagraphs>();

  typeCase(source: TypeSource): TypeCase {
    this.faces ??= new TypeCase(source.harfbuzz);
    return this.faces;
  }
  setter(key: string, make: () => Setter): Setter {
    let s = this.setters.get(key);
    if (!s) {
      s = make();
      this.setters.set(key, s);
      // Every setting that is tried makes one: only the last few are kept.
      for (const old of this.setters.keys()) {
        if (this.setters.size <= SETTERS) break;
        this.setters.delete(old);
      }
    }
    return s;
  }
  /** `make` is given the lines of the section's paragraphs where it is set again (somebody is writing in it) or is long. */
  section(
    id: string,
    { content }: Section,
    key: string,
    setter: Setter,
    make: (kept: KeptParagraphs | null) => SectionPages,
  ): SectionPages {
    const known = this.sections.get(id);
    if (known && known.content === content && known.key === key) return known.pages;
    const writing = known !== undefined || content.childCount > LONG;
    const pages = make(writing ? this.paragraphs(id, setter).begin() : null);
    this.sections.set(id, { content, key, pages });
    return pages;
  }

  private paragraphs(id: string, setter: Setter): KeptParagraphs {
    const found = this.written.get(id);
    const kept = found?.s === setter ? found : new KeptParagraphs(setter);
    // Put at the end again, so that the first is the one unused for longest.
    this.written.delete(id);
    this.written.set(id, kept);
    for (const old of this.written.keys()) {
      if (this.written.size <= WRITTEN) break;
      this.written.delete(old);
    }
    return kept;
  }
}
