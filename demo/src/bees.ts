/** The pictures of the book on bees: a plan, a frame of comb, and a curve. */
import type { Letters } from './letters';

const INK = '#24282a';
const svg = (width: number, height: number, inside: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}"><rect width="${width}" height="${height}" fill="#f1efe9"/>${inside}</svg>`;

/** The roof from above, eleven paces by seven. */
export function roofPlan(set: Letters): string {
  const felt = Array.from(
    { length: 10 },
    (_, i) => `<path d="M${112 + i * 68} 92 v436" stroke="#c9c7bf" stroke-width="1.5"/>`,
  ).join('');
  const hive = (x: number, y: number): string =>
    `<rect x="${x - 14}" y="${y - 14}" width="104" height="104" fill="#d8d5cb" stroke="${INK}" stroke-width="1.5"/><rect x="${x}" y="${y}" width="76" height="76" fill="#fff" stroke="${INK}" stroke-width="3"/><path d="M${x + 76} ${y + 22} h10 v32 h-10 z" fill="${INK}"/>`;
  const herbs = Array.from(
    { length: 4 },
    (_, i) =>
      `<rect x="430" y="${150 + i * 76}" width="36" height="62" fill="#bdbbb2" stroke="${INK}" stroke-width="1.5"/><circle cx="448" cy="${166 + i * 76}" r="9" fill="#84867f"/><circle cx="444" cy="${190 + i * 76}" r="11" fill="#6d6f69"/>`,
  ).join('');
  const away = [190, 250, 310, 370]
    .map(
      (y, i) =>
        `<path d="M${640 + (i % 2) * 12} ${y} C 720 ${y - 14}, 760 ${y - 40}, 850 ${y - 90 + i * 18}" fill="none" stroke="${INK}" stroke-width="2" stroke-dasharray="9 7"/><path d="M850 ${y - 90 + i * 18} l-16 -1 l8 13 z" fill="${INK}"/>`,
    )
    .join('');
  const rails = Array.from(
    { length: 16 },
    (_, i) => `<path d="M868 ${20 + i * 38} h62" stroke="#8d908f" stroke-width="5"/>`,
  ).join('');
  return svg(
    960,
    620,
    `<rect x="80" y="80" width="720" height="460" fill="#e2e0d8" stroke="${INK}" stroke-width="12"/>${felt}<rect x="110" y="260" width="92" height="92" fill="#fff" stroke="${INK}" stroke-width="3"/><path d="M110 260 l92 92 M202 260 l-92 92" stroke="${INK}" stroke-width="1.5"/>${herbs}${hive(540, 180)}${hive(540, 340)}<rect x="250" y="440" width="110" height="66" rx="6" fill="#fff" stroke="${INK}" stroke-width="2.5"/><path d="M262 462 q12 -8 24 0 t24 0 t24 0 M262 482 q12 -8 24 0 t24 0 t24 0" fill="none" stroke="${INK}" stroke-width="2"/>${away}<path d="M882 0 v620 M916 0 v620" stroke="${INK}" stroke-width="4"/>${rails}${set('hatch', 30, 388, 0, INK, 156)}${set('herbs', 30, 138, 0, INK, 448)}${set('hives', 30, 148, 0, INK, 578)}${set('water', 30, 430, 0, INK, 305)}`,
  );
}

/** A frame of comb: honey at the corners, a band of pollen, and the brood. */
export function frame(): string {
  const cells: string[] = [];
  for (let r = 0; r < 20; r++)
    for (let c = 0; c < 38; c++) {
      const x = 92 + c * 21 + (r % 2) * 10.5;
      const y = 96 + r * 18.3;
      const from = Math.hypot((x - 490) / 330, (y - 330) / 200);
      const fill =
        from < 0.72
          ? (r * 7 + c * 5) % 23 === 0
            ? '#f1efe9'
            : '#9a978c'
          : from < 0.92
            ? '#55585a'
            : '#dad7cc';
      const sign =
        from >= 0.72 && from < 0.92
          ? `<circle cx="${x}" cy="${y}" r="3.4" fill="#c9c7bf"/>`
          : from >= 0.92 && y < 250
            ? `<path d="M${x - 5} ${y - 2} q5 -4 10 0" stroke="#fff" stroke-width="2" fill="none"/>`
            : '';
      const hex = [0, 1, 2, 3, 4, 5]
        .map((k) => {
          const a = (Math.PI / 3) * k + Math.PI / 6;
          return `${(x + 10.4 * Math.cos(a)).toFixed(1)} ${(y + 10.4 * Math.sin(a)).toFixed(1)}`;
        })
        .join(' L');
      cells.push(`<path d="M${hex} z" fill="${fill}" stroke="${INK}" stroke-width="1"/>${sign}`);
    }
  return svg(
    980,
    540,
    `<path d="M20 34 h940 v40 h-58 v400 h-824 v-400 h-58 z" fill="#fff" stroke="${INK}" stroke-width="4"/>${cells.join('')}<path d="M78 470 h824 v28 h-824 z" fill="#fff" stroke="${INK}" stroke-width="4"/>`,
  );
}

/** What the hive weighed each evening in June, in pounds. */
const JUNE = [
  71, 71, 72, 72, 73, 73, 74, 74, 75, 75, 77, 80, 83, 86, 86, 85, 87, 90, 93, 95, 97, 106, 108, 110, 112, 113,
  115, 116, 117, 118,
];

export function weights(set: Letters): string {
  const x = (day: number): number => 110 + (day - 1) * 27;
  const y = (pounds: number): number => 470 - (pounds - 60) * 6.4;
  const across = [60, 80, 100, 120]
    .map(
      (p) =>
        `<path d="M100 ${y(p)} h806" stroke="#c9c7bf" stroke-width="1.5"/>${set(String(p), 28, y(p) + 9, 0, INK, 66)}`,
    )
    .join('');
  const days = [1, 10, 20, 30].map((d) => set(String(d), 28, 512, 0, INK, x(d))).join('');
  const line = JUNE.map((p, i) => `${x(i + 1)} ${y(p).toFixed(1)}`).join(' L');
  const dots = JUNE.map(
    (p, i) => `<circle cx="${x(i + 1)}" cy="${y(p).toFixed(1)}" r="5" fill="${INK}"/>`,
  ).join('');
  return svg(
    960,
    540,
    `${across}<path d="M100 470 h806" stroke="${INK}" stroke-width="2"/><path d="M${line}" fill="none" stroke="${INK}" stroke-width="3"/>${dots}${days}`,
  );
}
