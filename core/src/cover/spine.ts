/** The spine: author, title and device along it, as large as fits between the folds. */
import type { Mp } from '../base';
import type { Picture } from '../book';
import type { Passage } from '../compose';
import { fitted, type Pen } from './pen';
import type { CoverGeometry } from './geometry';

const LEAST: Mp = 6_500;
const MOST: Mp = 22_000;
/** Width that stands in for endless: a spine's words are one line. */
const ENDLESS: Mp = 20_000_000;

export interface SpineWords {
  title: string;
  author: string;
}
export type SpineFault = 'narrow' | 'long';

/** Draws the words; answers what forbids them. */
export function drawSpine(
  pen: Pen,
  words: SpineWords,
  device: Picture | null,
  { spine, safe }: Pick<CoverGeometry, 'spine' | 'safe'>,
  turn: 'down' | 'up',
): SpineFault | null {
  pen.part('spine', spine);
  if (!pen.plan.spine.words) return null;
  const room = safe.spine;
  if (!room) return 'narrow';
  // The device stands at the foot, upright.
  let foot = 0;
  if (device) {
    const box = fitted(device, { x: room.x, y: 0, width: room.width, height: Math.round(room.width * 1.3) });
    pen.picture(device.id, { ...box, y: room.y + room.height - box.height });
    foot = box.height + room.width;
  }
  const length = room.height - foot;
  const capitals = pen.capital(100_000) / 100_000;
  let size = Math.min(MOST, Math.floor((room.width * 0.8) / capitals / 500) * 500);
  const line = (text: string, at: Mp, author: boolean): Passage =>
    pen.set([text], {
      manner: author
        ? { size: Math.round(at * 0.82), display: true, capitals: true, tracking: Math.round(at * 0.08) }
        : {
            size: at,
            display: true,
            capitals: pen.plan.letters === 'capitals',
            smallCaps: pen.plan.letters === 'small-capitals',
            lining: true,
          },
      measure: ENDLESS,
      leading: at,
      align: 'left',
    });
  for (; size >= LEAST; size -= 500) {
    const author = words.author ? line(words.author, size, true) : null;
    const title = line(words.title, size, false);
    const space = author ? size * 2 : 0;
    if ((author?.width ?? 0) + space + title.width > length) continue;
    const { ink } = pen.plan;
    // The capitals stand in the middle between the folds.
    const lay = (set: Passage, from: Mp, at: Mp): void => {
      const cap = pen.capital(at);
      const across = room.x + (room.width >> 1) + (turn === 'down' ? -(cap >> 1) : cap >> 1);
      // Read upwards, what comes first stands lowest.
      pen.words(set, across, turn === 'down' ? room.y + from : room.y + length - from, ink, turn);
    };
    if (author) lay(author, 0, Math.round(size * 0.82));
    const at = author ? length - title.width : (length - title.width) >> 1;
    lay(title, at, size);
    return null;
  }
  return 'long';
}
