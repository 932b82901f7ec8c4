/** What stays from one composition to the next: opened faces, shaped words, and sections composed alone. */
import type { Section } from '../book';
import { TypeCase, type FamilyFiles, type HarfBuzz } from '../type';
import type { SectionPages } from './section';
import type { Setter } from './setter';

export interface TypeSource {
  harfbuzz: HarfBuzz;
  /** The files of a family, by its name; fetched when first asked for. */
  family(name: string): Promise<FamilyFiles>;
}

const SETTERS = 6;

export class ComposeCache {
  private faces: TypeCase | null = null;
  private readonly setters = new Map<string, Setter>();
  private readonly sections = new Map<
    string,
    { content: Section['content']; key: string; pages: SectionPages }
  >();

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
  section(id: string, content: Section['content'], key: string, make: () => SectionPages): SectionPages {
    const known = this.sections.get(id);
    if (known && known.content === content && known.key === key) return known.pages;
    const pages = make();
    this.sections.set(id, { content, key, pages });
    return pages;
  }
}
