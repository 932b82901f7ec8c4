/** Outlines that a picture can be cut to, as curves in its box: an oval, and an arch as of a window. */
export const MASKS = ['none', 'oval', 'arch'] as const;
export type Mask = (typeof MASKS)[number];

/** The number that a page's commands use for a mask; an unknown one means no mask. */
export const maskNumber = (name: string): number => Math.max(0, MASKS.indexOf(name as Mask));

export type Curve =
  | { to: 'move' | 'line'; x: number; y: number }
  | { to: 'curve'; x1: number; y1: number; x2: number; y2: number; x: number; y: number };

/** A quarter of a circle by one Bézier curve: the handle's length as a share of the radius, 4/3·(√2 − 1). */
const QUARTER = 0.5522847498;

/** A closed outline in a box of that size, y downwards; null for none. */
export function maskCurves(mask: number, width: number, height: number): Curve[] | null {
  const rx = width / 2;
  const [kx, full] = [rx * QUARTER, height];
  if (MASKS[mask] === 'oval') {
    const ry = height / 2;
    const ky = ry * QUARTER;
    return [
      { to: 'move', x: rx, y: 0 },
      { to: 'curve', x1: rx + kx, y1: 0, x2: width, y2: ry - ky, x: width, y: ry },
      { to: 'curve', x1: width, y1: ry + ky, x2: rx + kx, y2: full, x: rx, y: full },
      { to: 'curve', x1: rx - kx, y1: full, x2: 0, y2: ry + ky, x: 0, y: ry },
      { to: 'curve', x1: 0, y1: ry - ky, x2: rx - kx, y2: 0, x: rx, y: 0 },
    ];
  }
  if (MASKS[mask] === 'arch') {
    const ry = Math.min(rx, height);
    const ky = ry * QUARTER;
    return [
      { to: 'move', x: 0, y: full },
      { to: 'line', x: 0, y: ry },
      { to: 'curve', x1: 0, y1: ry - ky, x2: rx - kx, y2: 0, x: rx, y: 0 },
      { to: 'curve', x1: rx + kx, y1: 0, x2: width, y2: ry - ky, x: width, y: ry },
      { to: 'line', x: width, y: full },
    ];
  }
  return null;
}
