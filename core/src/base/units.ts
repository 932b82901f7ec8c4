/**
 * Lengths. Everything the typesetter measures is an integer count of **millipoints** (mp):
 * 1 mp = 1/1000 pt, 1 pt = 1/72 in (the point of PDF, ISO 32000-1 §8.3.2.3).
 * Integers make a page the same in a browser and on a server.
 */
export type Mp = number;

const MP_PER = { pt: 1000, in: 72_000, mm: 72_000 / 25.4, cm: 720_000 / 25.4, p: 12_000 } as const;
export type LengthUnit = keyof typeof MP_PER;

export const pt = (n: number): Mp => Math.round(n * MP_PER.pt);
export const inches = (n: number): Mp => Math.round(n * MP_PER.in);
export const mm = (n: number): Mp => Math.round(n * MP_PER.mm);

/**
 * Reads a length as a person types it: "5.5in", "140 mm", "11pt", "33p" (picas), "33p6" (picas and points),
 * a decimal comma allowed. A bare number is taken in `assumed`. Answers null when it is no length.
 */
export function parseLength(text: string, assumed: LengthUnit = 'pt'): Mp | null {
  const s = text
    .trim()
    .toLowerCase()
    .replace(',', '.')
    .replace(/[”"″]$/, 'in');
  const picas = /^(\d+)p(\d+(?:\.\d+)?)$/.exec(s);
  if (picas) return Math.round(Number(picas[1]) * MP_PER.p + Number(picas[2]) * MP_PER.pt);
  const m = /^(\d+(?:\.\d+)?|\.\d+)\s*(pt|in|inch|inches|mm|cm|p)?$/.exec(s);
  if (!m) return null;
  const unit = (m[2] ?? assumed).replace(/^inch(es)?$/, 'in') as LengthUnit;
  return Math.round(Number(m[1]) * MP_PER[unit]);
}

/** Reads a trim such as "5.5x8.5in", "140 × 210 mm": width and height in mp, or null. */
export function parseTrim(text: string): { width: Mp; height: Mp } | null {
  const m = /^\s*([\d.,]+)\s*([a-z]*)\s*[x×]\s*([\d.,]+)\s*([a-z]*)\s*$/i.exec(text);
  if (!m) return null;
  const unit = m[4] || m[2] || 'in';
  const width = parseLength(`${m[1]}${m[2] || unit}`);
  const height = parseLength(`${m[3]}${unit}`);
  return width && height ? { width, height } : null;
}

/** A decimal string of a length in points with no more than three places: "306", "13.2". */
export function ptString(mp: Mp): string {
  const sign = mp < 0 ? '-' : '';
  const abs = Math.abs(Math.round(mp));
  const frac = abs % 1000;
  if (frac === 0) return `${sign}${abs / 1000}`;
  return `${sign}${(abs - frac) / 1000}.${String(frac).padStart(3, '0').replace(/0+$/, '')}`;
}

/** A length in millimetres for people, to a tenth. */
export const mmString = (mp: Mp): string => String(Math.round((mp / MP_PER.mm) * 10) / 10);

/** A length in inches for people: 5.5 × 8.5 in is "5.5", at most three places. */
export function inchString(mp: Mp): string {
  return String(Math.round((mp / MP_PER.in) * 1000) / 1000);
}
