/** What the parts of a cover draw with: words set in the cover's faces, laid down as marks of one drawing. */
import type { Mp } from '../base';
import type { CoverPlan } from '../book';
import { DisplayIndex, displayList, passage, type Passage, type PassageForm, type Setter } from '../compose';
import type { Box, Colour, Drawn } from '../pdf';
import type { Face } from '../type';

/** Where a part of the cover lies, to be pointed at. */
export type CoverPart =
  'front' | 'title' | 'author' | 'spine' | 'back' | 'life' | 'portrait' | 'device' | 'barcode';

export interface PlacedPart extends Box {
  part: CoverPart;
}

export class Pen {
  readonly drawn: Drawn[] = [];
  readonly parts: PlacedPart[] = [];
  readonly missing = new Set<string>();
  private readonly index = new DisplayIndex();

  constructor(
    readonly setter: Setter,
    readonly plan: CoverPlan,
  ) {}

  get faces(): Face[] {
    return this.index.faces.map((n) => this.setter.faces.words.faces[n] as Face);
  }

  part(part: CoverPart, box: Box): void {
    this.parts.push({ part, ...box });
  }
  fill(box: Box, colour: Colour): void {
    this.drawn.push({ kind: 'fill', colour, ...box });
  }
  frame(box: Box, colour: Colour, thickness: Mp, dashed = false): void {
    this.drawn.push({ kind: 'frame', colour, thickness, dashed, ...box });
  }
  picture(picture: string, box: Box, clip: Box = box): void {
    this.drawn.push({ kind: 'picture', picture, box, clip });
  }

  set(paragraphs: readonly string[], form: PassageForm): Passage {
    const set = passage(this.setter, paragraphs, form);
    for (const c of set.missing) this.missing.add(c);
    return set;
  }
  /** Lays words down with their first baseline at y. */
  words(set: Passage, x: Mp, y: Mp, colour: Colour, turn: 'none' | 'down' | 'up' = 'none'): void {
    const page = { body: set.sheet, furniture: EMPTY, left: 0, width: 0, height: 0 };
    this.drawn.push({
      kind: 'words',
      list: displayList(page, this.setter.faces.words, this.index),
      x,
      y,
      turn,
      colour,
    });
  }

  /** Height of a capital at a size, in the cover's display face. */
  capital(size: Mp): Mp {
    const { face } = this.setter.style({ size, display: true });
    return Math.round((face.capHeight * size) / face.upem);
  }
}

const EMPTY = { ops: new Int32Array(0), blocks: [], pictures: [] };

/** A picture that fills a box: the box it is drawn in whole, by which part of it stays. Shares are hundredths. */
export function filling(
  picture: { width: number; height: number },
  box: Box,
  focus: { x: number; y: number } = { x: 50, y: 50 },
): Box {
  const scale = Math.max(box.width / picture.width, box.height / picture.height);
  const width = Math.round(picture.width * scale);
  const height = Math.round(picture.height * scale);
  return {
    x: box.x - Math.round(((width - box.width) * focus.x) / 100),
    y: box.y - Math.round(((height - box.height) * focus.y) / 100),
    width,
    height,
  };
}

/** A picture as large as it can be shown whole in a box, in its middle. */
export function fitted(picture: { width: number; height: number }, box: Box): Box {
  const scale = Math.min(box.width / picture.width, box.height / picture.height);
  const width = Math.round(picture.width * scale);
  const height = Math.round(picture.height * scale);
  return {
    x: box.x + ((box.width - width) >> 1),
    y: box.y + ((box.height - height) >> 1),
    width,
    height,
  };
}
