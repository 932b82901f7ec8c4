/** Families: the four faces of each, and the faces asked for what they lack. */
import { Face } from './face';
import type { HarfBuzz } from './harfbuzz';
import { Style, type StyleSpec } from './style';
import type { FaceFile } from './face';
import { WordBook } from './wordbook';

export interface FamilyFiles {
  name: string;
  regular: FaceFile;
  italic: FaceFile;
  bold: FaceFile;
  boldItalic: FaceFile;
  /** Asked, in order, for glyphs that the family lacks. */
  fallback: readonly FaceFile[];
  /** Set fixed in width. */
  monospace: FaceFile;
}

/** A family's files by the names of its faces: "Spectral", "Spectral Italic", "Spectral Bold", "Spectral Bold Italic". */
export const familyOf = (
  name: string,
  file: (face: string) => FaceFile,
  fallbacks: readonly string[],
  monospace: string,
): FamilyFiles => ({
  name,
  regular: file(name),
  italic: file(`${name} Italic`),
  bold: file(`${name} Bold`),
  boldItalic: file(`${name} Bold Italic`),
  fallback: fallbacks.filter((f) => f !== name).map(file),
  monospace: file(monospace),
});

export type Variant = 'regular' | 'italic' | 'bold' | 'boldItalic' | 'monospace';

/** Opened faces and every style made of them, kept for as long as the typesetter lives. */
export class TypeCase {
  private readonly faces = new Map<string, Face>();
  private readonly styles = new Map<string, Style>();
  readonly words = new WordBook();

  constructor(private readonly hb: HarfBuzz) {}

  chain(family: FamilyFiles, variant: Variant): Face[] {
    const files =
      variant === 'regular'
        ? [family.regular, ...family.fallback]
        : [family[variant], family.regular, ...family.fallback];
    return files.map((file) => this.open(file));
  }

  /** Whether a cut of the family has small capitals of its own. */
  hasSmallCapitals(family: FamilyFiles, variant: Variant): boolean {
    return this.open(family[variant]).changesBy('smcp');
  }

  style(family: FamilyFiles, variant: Variant, more: Omit<StyleSpec, 'chain' | 'words'>): Style {
    const key = [
      family.name,
      variant,
      more.size,
      more.features,
      more.language,
      more.rise,
      more.tracking,
      more.struck ?? false,
      more.underlined ?? false,
    ].join('|');
    let s = this.styles.get(key);
    if (!s) {
      s = new Style({ chain: this.chain(family, variant), words: this.words, ...more });
      this.styles.set(key, s);
    }
    return s;
  }

  private open(file: FaceFile): Face {
    let face = this.faces.get(file.name);
    if (!face) {
      face = new Face(file.name, file.bytes, this.hb);
      this.faces.set(file.name, face);
    }
    return face;
  }
}
