/** The demo's pictures and covers, drawn here as SVG and turned into files by sharp. */
import sharp from 'sharp';
import { frame, roofPlan, weights } from './bees';
import { letters, type Letters } from './letters';

const png = async (svg: string, width: number): Promise<Uint8Array> =>
  new Uint8Array(
    await sharp(Buffer.from(svg)).resize({ width }).png({ compressionLevel: 9, palette: true }).toBuffer(),
  );

/** Posts that grow smaller toward the horizon, each in a streak of wet. */
function posts(): string {
  const all = Array.from({ length: 11 }, (_, i) => {
    const t = i / 10;
    const near = (1 - t) * (1 - t);
    const x = 110 + 640 * (1 - near) * 0.92;
    const foot = 262 + 250 * near;
    const height = 26 + 200 * near;
    const width = 3 + 24 * near;
    return `<ellipse cx="${x}" cy="${foot + 3}" rx="${width * 2.4}" ry="${2 + 7 * near}" fill="#b9bcbd"/><path d="M${x - width / 2} ${foot} l${width * 0.08} ${-height} l${width * 0.84} ${-2 - 3 * near} l${width * 0.08} ${height + 2 + 3 * near} z" fill="#1f2224"/><path d="M${x - width / 2} ${foot - height * 0.62} h${width * 0.36} v${4 * near + 1} h${-width * 0.36} z" fill="#e9e7e1"/>`;
  });
  const mud = Array.from({ length: 46 }, (_, i) => {
    const y = 268 + ((i * 37) % 250);
    const x = (i * 173) % 900;
    return `<path d="M${x} ${y} q${40 + (i % 5) * 18} ${(i % 3) - 4} ${90 + (i % 7) * 22} 0" stroke="#8f9393" stroke-width="${0.8 + (y - 260) / 160}" fill="none"/>`;
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 900 540"><rect width="900" height="540" fill="#efede7"/><rect y="258" width="900" height="282" fill="#d6d6d2"/><path d="M0 258 h900" stroke="#55595a" stroke-width="1.4"/>${mud.join('')}${all.reverse().join('')}</svg>`;
}

function beam(): string {
  const chain = (x: number): string =>
    Array.from(
      { length: 11 },
      (_, i) =>
        `<ellipse cx="${x}" cy="${182 + i * 18}" rx="${i % 2 ? 2 : 5}" ry="11" fill="none" stroke="#24282a" stroke-width="2.6"/>`,
    ).join('');
  const pan = (x: number): string =>
    `${chain(x)}<path d="M${x} 378 l-96 62 h192 z" fill="none" stroke="#24282a" stroke-width="3"/><path d="M${x - 112} 440 h224 q-16 46 -112 46 t-112 -46 z" fill="#2a2e30"/>`;
  const rafters = Array.from(
    { length: 7 },
    (_, i) => `<path d="M450 -40 L${-140 + i * 200} 330" stroke="#c9c6bd" stroke-width="7"/>`,
  ).join('');
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 900 600"><rect width="900" height="600" fill="#efede7"/>${rafters}<path d="M450 0 v120" stroke="#24282a" stroke-width="9"/><path d="M150 168 Q450 118 750 168 l-4 14 Q450 142 154 182 z" fill="#24282a"/><circle cx="450" cy="140" r="19" fill="#efede7" stroke="#24282a" stroke-width="8"/><path d="M450 120 l-7 -40 h14 z" fill="#24282a"/>${pan(154)}${pan(746)}<path d="M0 560 h900 v40 h-900 z" fill="#bdbab1"/></svg>`;
}

/** A cover of 1,700 × 2,600: type over a field of lines, in two colours, its author on the ground below. */
function cover(
  set: Letters,
  title: string[],
  author: string,
  ground: string,
  ink: string,
  mark: string,
): string {
  const lines = Array.from({ length: 26 }, (_, i) => {
    const y = 1180 + i * (20 + i * 0.75);
    return `<path d="M0 ${y} C 420 ${y - 40 + i * 2}, 900 ${y + 46 - i}, 1700 ${y - 10}" fill="none" stroke="${ink}" stroke-opacity="${0.25 + i * 0.02}" stroke-width="${1.5 + i * 0.22}"/>`;
  });
  const words = title.map((t, i) => set(t, 250, 460 + i * 240, 0, ink));
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1700 2600"><rect width="1700" height="2600" fill="${ground}"/>${lines.join('')}${mark}${words.join('')}${set(author, 104, 2370, 8, ink)}</svg>`;
}

const row = (n: number): string =>
  Array.from(
    { length: n },
    (_, i) =>
      `<rect x="${330 + i * 104 - i * i * 1.6}" y="${1560 - i * 36}" width="${30 - i * 2.2}" height="${330 - i * 27}" fill="#1d2a30"/>`,
  ).join('');

/** Pixels across a cover: 300 an inch and some over on the largest trim of the demo, bleed and all. */
const ACROSS = 1_850;

export async function demoPictures(): Promise<Map<string, Uint8Array>> {
  const set = await letters();
  return new Map([
    ['post', await png(posts(), 1800)],
    ['beam', await png(beam(), 1800)],
    ['roof-plan', await png(roofPlan(set), 1800)],
    ['frame', await png(frame(), 1800)],
    ['weights', await png(weights(set), 1800)],
    [
      'cover-salt',
      await png(cover(set, ['The Salt', 'Clerk'], 'Maren Oakhollis', '#e8e1d0', '#1d2a30', row(11)), ACROSS),
    ],
    [
      'cover-bees',
      await png(
        cover(
          set,
          ['Bees on a', 'Flat Roof'],
          'Tobin Aldergate',
          '#ead9a6',
          '#3a2c12',
          '<path d="M560 1240 h580 v60 h-580 z M600 1300 h500 v230 h-500 z M600 1545 h500 v230 h-500 z M720 1700 h260 v34 h-260 z" fill="#3a2c12" fill-rule="evenodd"/>',
        ),
        ACROSS,
      ),
    ],
    [
      'cover-ferry',
      await png(
        cover(
          set,
          ['The Winter', 'Ferry'],
          'Maren Oakhollis',
          '#22303a',
          '#e9e4d6',
          '<path d="M480 1500 h740 l-90 130 h-560 z M640 1400 h360 v90 h-360 z M930 1290 h60 v110 h-60 z" fill="#e9e4d6"/>',
        ),
        ACROSS,
      ),
    ],
  ]);
}
