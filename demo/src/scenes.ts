/** The pictures of the demo’s picture book: flat shapes, one palette, a girl in a yellow coat. Drawn as SVG, sent out as JPEG. */
import sharp from 'sharp';

const C = {
  day: '#bcd7d9',
  dusk: '#e7b98f',
  night: '#1f2f45',
  dark: '#16202e',
  sea: '#3f6f78',
  deep: '#2b4f5c',
  foam: '#dfe9e4',
  fog: '#c9d0cc',
  rock: '#5a5753',
  shade: '#403e3c',
  grass: '#7f9b5c',
  cream: '#f4ebd7',
  red: '#c5482f',
  coat: '#efb336',
  lamp: '#ffd86b',
  skin: '#e6b48c',
  wood: '#8a5a3a',
} as const;

/** A picture’s shapes; one page is 1,000 units square, a spread twice as wide. */
type Shapes = string;
const rect = (x: number, y: number, w: number, h: number, fill: string, more = ''): Shapes =>
  `<rect x="${x}" y="${y}" width="${w}" height="${h}" fill="${fill}" ${more}/>`;
const path = (d: string, fill: string, more = ''): Shapes => `<path d="${d}" fill="${fill}" ${more}/>`;
const circle = (x: number, y: number, r: number, fill: string, more = ''): Shapes =>
  `<circle cx="${x}" cy="${y}" r="${r}" fill="${fill}" ${more}/>`;
const at = (x: number, y: number, scale: number, shapes: Shapes): Shapes =>
  `<g transform="translate(${x} ${y}) scale(${scale})">${shapes}</g>`;

/** Sea from `top` to the foot, its waves in rows. */
function sea(width: number, top: number, fill: string, crest: string): Shapes {
  const rows = Array.from({ length: 5 }, (_, i) => {
    const y = top + 30 + i * ((1000 - top) / 5);
    const waves = Array.from({ length: Math.ceil(width / 160) + 1 }, () => 'q40 -26 80 0 t80 0').join(' ');
    return `<path d="M${-((i * 67) % 160)} ${y} ${waves}" fill="none" stroke="${crest}" stroke-width="${5 + i * 2}" stroke-opacity="0.45"/>`;
  });
  return rect(-10, top, width + 20, 1010 - top, fill) + rows.join('');
}

const stars = (width: number, from = 0): Shapes =>
  Array.from({ length: Math.round(width / 26) }, (_, i) =>
    circle((i * 271) % width, from + ((i * 157) % (420 - from)), 2 + (i % 3), C.foam, 'fill-opacity="0.8"'),
  ).join('');

/** A tower of 320 by 620, its foot at 0, 0. */
const tower = (lit: boolean): Shapes =>
  path('M-92 0 L-58 -470 H58 L92 0 Z', C.cream) +
  path('M-81 -150 L-71 -290 H71 L81 -150 Z', C.red) +
  path('M-63 -400 L-58 -470 H58 L63 -400 Z', C.red) +
  rect(-74, -490, 148, 24, C.shade) +
  rect(-46, -570, 92, 82, lit ? C.lamp : C.deep) +
  [-46, -18, 10, 38].map((x) => rect(x, -570, 8, 82, C.shade)).join('') +
  path('M-60 -570 L0 -640 L60 -570 Z', C.red) +
  rect(-22, -96, 44, 96, C.wood) +
  rect(-14, -240, 28, 40, C.deep);

const headland = (x: number, width: number, top: number): Shapes =>
  path(
    `M${x} 1000 L${x + 30} ${top + 60} Q${x + width * 0.3} ${top - 40} ${x + width * 0.6} ${top} T${x + width} 1000 Z`,
    C.rock,
  ) +
  path(
    `M${x + 20} ${top + 90} Q${x + width * 0.3} ${top - 60} ${x + width * 0.6} ${top - 10} T${x + width * 0.92} ${top + 160} Q${x + width * 0.6} ${top + 50} ${x + 20} ${top + 90} Z`,
    C.grass,
  );

/** The girl, 150 by 260, her feet at 0, 0. */
const tamsin = (arm: 'down' | 'up' | 'out' = 'down'): Shapes => {
  const reach = {
    down: 'M44 -150 q30 50 22 86',
    up: 'M40 -160 q44 -40 40 -110',
    out: 'M42 -150 q50 -6 92 -14',
  }[arm];
  return (
    rect(-34, -40, 24, 40, C.shade) +
    rect(10, -40, 24, 40, C.shade) +
    path('M-62 -34 Q-56 -150 -34 -178 H34 Q56 -150 62 -34 Z', C.coat) +
    path('M-44 -150 q-30 50 -22 86', 'none', `stroke="${C.coat}" stroke-width="26" stroke-linecap="round"`) +
    path(reach, 'none', `stroke="${C.coat}" stroke-width="26" stroke-linecap="round"`) +
    circle(0, -212, 44, C.skin) +
    path('M-50 -206 Q-56 -268 0 -272 Q56 -268 50 -206 Q30 -236 0 -236 Q-30 -236 -50 -206 Z', C.red) +
    circle(-15, -212, 5, C.dark) +
    circle(15, -212, 5, C.dark) +
    path('M-12 -190 q12 10 24 0', 'none', `stroke="${C.dark}" stroke-width="4" stroke-linecap="round"`)
  );
};

/** Grandfather, 180 by 330. */
const grandfather: Shapes =
  rect(-44, -60, 34, 60, C.shade) +
  rect(10, -60, 34, 60, C.shade) +
  path('M-80 -52 Q-72 -220 -44 -240 H44 Q72 -220 80 -52 Z', '#6b8494') +
  circle(0, -282, 50, C.skin) +
  path('M-46 -276 Q-40 -190 0 -184 Q40 -190 46 -276 Q20 -250 0 -252 Q-20 -250 -46 -276 Z', C.foam) +
  path('M-58 -300 H58 V-318 Q40 -352 0 -352 Q-40 -352 -58 -318 Z', C.shade) +
  circle(-16, -288, 5, C.dark) +
  circle(16, -288, 5, C.dark);

const goat: Shapes =
  path('M-90 -110 Q-96 -150 -60 -152 H50 Q84 -150 84 -100 V-70 H-84 Z', C.foam) +
  [-78, -44, 34, 66].map((x) => rect(x, -76, 18, 76, C.foam)).join('') +
  path('M70 -150 L84 -214 Q112 -224 130 -192 L146 -164 Q126 -150 104 -158 L84 -120 Z', C.foam) +
  path('M90 -212 q-8 -40 -34 -46 q20 22 18 54 Z', C.shade) +
  circle(112, -190, 5, C.dark) +
  path('M122 -152 l4 30 -14 -26 Z', C.foam) +
  rect(72, -142, 34, 10, C.red) +
  circle(92, -120, 12, C.lamp);

const boat = (lit: boolean): Shapes =>
  path('M-130 -40 H130 L96 20 H-96 Z', C.red) +
  rect(-50, -104, 84, 64, C.cream) +
  rect(-34, -92, 22, 26, lit ? C.lamp : C.deep) +
  rect(0, -92, 22, 26, lit ? C.lamp : C.deep) +
  rect(50, -160, 8, 120, C.shade) +
  path('M58 -158 l60 40 -60 14 Z', C.cream);

const gull = (x: number, y: number, s: number): Shapes =>
  at(x, y, s, path('M-50 0 q26 -30 50 0 q24 -30 50 0 q-26 -12 -50 8 q-24 -20 -50 -8 Z', C.foam));

const fogBands = (width: number, dense: number): Shapes =>
  Array.from({ length: 8 }, (_, i) =>
    path(
      `M-40 ${150 + i * 105} q${width / 6} ${-70 + (i % 3) * 20} ${width / 3} 0 t${width / 3} 0 t${width / 3 + 80} 0 v130 h${-width - 80} Z`,
      C.fog,
      `fill-opacity="${dense}"`,
    ),
  ).join('');

/** Steps that wind up inside the tower, from the foot to `top`. */
const stairs = (x: number, width: number, count: number): Shapes =>
  Array.from({ length: count }, (_, i) =>
    rect(x + (i % 2 ? 6 : 0) + (i * width) / count, 960 - (i * 900) / count, width / count + 14, 18, C.cream),
  ).join('');

const lampGlass = (lit: boolean): Shapes =>
  rect(-150, -40, 300, 40, C.wood) +
  path('M-120 -40 Q-150 -230 -70 -380 H70 Q150 -230 120 -40 Z', lit ? C.lamp : C.day, 'fill-opacity="0.9"') +
  [-70, -24, 24, 70]
    .map((x) =>
      path(`M${x} -40 Q${x * 1.25} -230 ${x * 0.6} -380`, 'none', `stroke="${C.foam}" stroke-width="7"`),
    )
    .join('') +
  rect(-80, -410, 160, 34, C.wood) +
  circle(0, -200, lit ? 46 : 20, lit ? C.foam : C.shade);

const rays = (x: number, y: number, length: number): Shapes =>
  Array.from({ length: 14 }, (_, i) => {
    const a = (i * Math.PI) / 7;
    const b = a + 0.14;
    const p = (t: number, r: number): string => `${x + Math.cos(t) * r} ${y + Math.sin(t) * r}`;
    return path(
      `M${p(a, 120)} L${p(a, length)} L${p(b, length)} L${p(b, 120)} Z`,
      C.lamp,
      'fill-opacity="0.55"',
    );
  }).join('');

const table: Shapes =
  rect(-220, -150, 440, 26, C.wood) +
  rect(-196, -126, 26, 126, C.wood) +
  rect(170, -126, 26, 126, C.wood) +
  path('M-40 -150 q-30 -70 30 -84 h40 q56 14 30 84 Z', C.red) +
  path('M66 -206 q50 -6 40 44', 'none', `stroke="${C.red}" stroke-width="12"`);

const sky = (width: number, ...bands: string[]): Shapes =>
  bands
    .map((fill, i) => rect(-10, (i * 620) / bands.length, width + 20, 620 / bands.length + 400, fill))
    .join('');

const S = 2000;
const PICTURES: Record<string, [width: number, shapes: Shapes]> = {
  title: [
    1000,
    sky(1000, C.night, C.night, '#31465c') +
      stars(1000, 250) +
      sea(1000, 790, C.deep, C.sea) +
      headland(300, 640, 740) +
      rays(560, 412, 180) +
      at(560, 775, 0.68, tower(true)) +
      at(440, 780, 0.38, tamsin()),
  ],
  home: [
    1000,
    sky(1000, C.day, '#cfe1df', '#dfe7dd') +
      sea(1000, 700, C.sea, C.foam) +
      headland(360, 700, 620) +
      at(700, 640, 0.8, tower(false)) +
      at(520, 690, 0.4, tamsin('up')) +
      at(860, 700, 0.4, goat) +
      gull(200, 260, 1) +
      gull(330, 180, 0.7),
  ],
  steps: [
    S,
    rect(-10, -10, S + 20, 1020, C.dusk) +
      rect(560, -10, 1450, 1020, C.deep) +
      stairs(600, 1300, 34) +
      at(1370, 410, 0.8, grandfather) +
      at(1180, 545, 0.7, tamsin('up')) +
      rect(1640, 90, 160, 190, C.lamp) +
      rect(1640, 180, 160, 12, C.shade),
  ],
  kitchen: [
    1000,
    rect(-10, -10, 1020, 1020, '#d9c7a3') +
      rect(-10, 820, 1020, 200, C.wood) +
      rect(620, 160, 240, 260, C.dusk) +
      rect(734, 160, 12, 260, C.cream) +
      rect(620, 284, 240, 12, C.cream) +
      at(500, 860, 1.2, table) +
      at(240, 880, 1.3, tamsin('out')),
  ],
  window: [
    1000,
    rect(-10, -10, 1020, 1020, C.night) +
      rect(140, 120, 720, 620, C.dusk) +
      rect(140, 560, 720, 180, C.sea) +
      at(620, 580, 0.5, boat(false)) +
      rect(488, 120, 24, 620, C.cream) +
      rect(140, 430, 720, 24, C.cream) +
      at(330, 1000, 1.3, grandfather),
  ],
  fogcomes: [
    1000,
    sky(1000, '#9fb1b3', C.fog, '#d9dcd5') +
      sea(1000, 720, C.sea, C.foam) +
      headland(420, 620, 660) +
      at(740, 690, 0.72, tower(false)) +
      fogBands(1000, 0.42),
  ],
  bell: [
    1000,
    rect(-10, -10, 1020, 1020, C.fog) +
      fogBands(1000, 0.5) +
      rect(430, 520, 140, 36, C.red) +
      circle(500, 610, 54, C.lamp) +
      rect(494, 640, 12, 40, C.shade),
  ],
  dark: [
    S,
    sky(S, C.dark, C.dark, C.night) +
      sea(S, 760, C.dark, C.deep) +
      headland(1180, 760, 640) +
      at(1500, 670, 0.84, tower(false)) +
      fogBands(S, 0.12),
  ],
  bay: [
    1000,
    sky(1000, C.night, '#31465c', '#4a6070') +
      sea(1000, 560, C.deep, C.sea) +
      at(560, 700, 1.1, boat(false)) +
      at(500, 640, 0.62, grandfather) +
      fogBands(1000, 0.2),
  ],
  stair1: [
    1000,
    rect(-10, -10, 1020, 1020, C.dark) +
      stairs(120, 800, 12) +
      at(330, 690, 0.9, tamsin('up')) +
      circle(410, 566, 36, C.lamp) +
      circle(410, 566, 90, C.lamp, 'fill-opacity="0.25"'),
  ],
  stair2: [
    1000,
    rect(-10, -10, 1020, 1020, C.night) +
      stairs(60, 900, 14) +
      rect(640, 120, 130, 200, C.fog) +
      rect(640, 210, 130, 10, C.shade) +
      at(470, 550, 0.9, tamsin('out')),
  ],
  legs: [1000, at(500, 860, 2.6, tamsin())],
  joke: [
    1000,
    at(420, 860, 2.4, tamsin('up')) +
      at(
        720,
        520,
        1.6,
        path('M0 0 q40 -50 90 -30 q50 -40 90 10 q40 50 -20 70 q-60 40 -110 6 q-60 -6 -50 -56 Z', C.day),
      ),
  ],
  lampcold: [
    S,
    rect(-10, -10, S + 20, 1020, C.night) +
      rect(-10, 860, S + 20, 200, C.wood) +
      at(1000, 0, 1, stars(1000)) +
      at(1460, 860, 1.8, lampGlass(false)) +
      at(700, 860, 1.5, tamsin('out')),
  ],
  match: [
    1000,
    rect(-10, -10, 1020, 1020, C.dark) +
      at(440, 940, 2.2, tamsin('up')) +
      circle(624, 330, 26, C.lamp) +
      circle(624, 330, 120, C.lamp, 'fill-opacity="0.22"'),
  ],
  smoke: [
    1000,
    rect(-10, -10, 1020, 1020, C.night) +
      at(440, 940, 2.2, tamsin('out')) +
      path(
        'M760 560 q40 -60 0 -120 t20 -120 t-10 -110',
        'none',
        `stroke="${C.fog}" stroke-width="16" stroke-linecap="round"`,
      ),
  ],
  oh: [
    S,
    rect(-10, -10, S + 20, 1020, '#2c4560') +
      rays(1480, 520, 1900) +
      rect(-10, 930, S + 20, 90, C.wood) +
      at(1480, 930, 1.9, lampGlass(true)) +
      at(620, 940, 1.6, tamsin('up')),
  ],
  turns: [
    1000,
    sky(1000, C.night, '#31465c', '#4a6070') +
      path('M-10 300 L1010 40 V240 Z', C.lamp, 'fill-opacity="0.5"') +
      sea(1000, 600, C.deep, C.sea) +
      at(480, 720, 1.2, boat(true)),
  ],
  laughed: [
    1000,
    sky(1000, '#31465c', '#4a6070', '#8b8f86') +
      path('M-10 190 L1010 400 V500 Z', C.lamp, 'fill-opacity="0.5"') +
      sea(1000, 640, C.sea, C.foam) +
      at(620, 740, 0.9, boat(true)) +
      at(300, 760, 1.1, boat(true)) +
      at(280, 690, 0.6, grandfather),
  ],
  beard: [
    1000,
    rect(-10, -10, 1020, 1020, '#d9c7a3') +
      rect(-10, 820, 1020, 200, C.wood) +
      at(560, 900, 2, grandfather) +
      at(250, 900, 1.4, tamsin('up')),
  ],
  waiting: [
    1000,
    sky(1000, C.dusk, '#efcfa6', C.cream) +
      sea(1000, 700, C.sea, C.foam) +
      headland(-60, 900, 640) +
      at(180, 680, 0.8, tower(true)) +
      at(520, 690, 0.5, grandfather) +
      at(430, 690, 0.46, tamsin('up')),
  ],
  home2: [
    1000,
    sky(1000, C.cream, '#efcfa6') +
      sea(1000, 720, C.sea, C.foam) +
      headland(-80, 1160, 700) +
      at(480, 760, 2.1, goat),
  ],
};

/** 8.5 inches and what bleeds over them, at 300 pixels an inch. */
const PIXELS = 2_625;

/** A picture by its name, with more drawn over it where asked. */
export async function scene(name: string, over: Shapes = ''): Promise<Uint8Array> {
  const [width, shapes] = PICTURES[name] as [number, Shapes];
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} 1000">${rect(-10, -10, width + 20, 1020, C.cream)}${shapes}${over}</svg>`;
  const file = sharp(Buffer.from(svg)).resize({ height: PIXELS });
  return new Uint8Array(await file.jpeg({ quality: 88, chromaSubsampling: '4:4:4' }).toBuffer());
}
