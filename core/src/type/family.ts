/** A family: the four faces of a design, and the faces asked for what they lack. */
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

export type Variant = 'regular' | 'italic' | 'bold' | 'boldItalic' | 'monospace';

/** Opened faces and every style made of them, kept for as long as the typesetter lives. */
export class TypeCase {
  private readonly faces = new Map<string, Face>();
  private readonly styles = new Map<string, Style>();
  readonly words = new WordBook();

  constructor(
    private readonly hb: HarfBuzz,
    readonly family: FamilyFiles,
  ) {}

  chain(variant: Variant): Face[] {
    const f = this.family;
    const files = variant === 'regular' ? [f.regular, ...f.fallback] : [f[variant], f.regular, ...f.fallback];
    return files.map((file) => this.open(file));
  }

  style(variant: Variant, more: Omit<StyleSpec, 'chain' | 'words'>): Style {
    const key = [variant, more.size, more.features, more.language, more.rise, more.tracking].join('|');
    let s = this.styles.get(key);
    if (!s) {
      s = new Style({ chain: this.chain(variant), words: this.words, ...more });
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
