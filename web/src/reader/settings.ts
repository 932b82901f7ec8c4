/** How an ebook is read: on which screen, in which type, by which light. Kept in this browser. */
import * as z from 'zod';

export interface ScreenSize {
  name: string;
  /** CSS pixels. Width and height 0: as large as there is room. */
  width: number;
  height: number;
  columns: 1 | 2;
  /** Shows greys alone. */
  greys: boolean;
}
const size = (name: string, width: number, height: number, more: Partial<ScreenSize> = {}): ScreenSize => ({
  name,
  width,
  height,
  columns: 1,
  greys: false,
  ...more,
});
/** Sizes such as are sold (common practice), in the pixels that a style sheet counts in. */
export const SCREENS = {
  'small-phone': size('Small phone', 320, 568),
  phone: size('Phone', 390, 844),
  'e-paper': size('Six-inch e-paper', 440, 590, { greys: true }),
  tablet: size('Tablet', 768, 1024),
  'wide-tablet': size('Large tablet on its side', 1366, 1024, { columns: 2 }),
  room: size('This window', 0, 0),
} as const satisfies Record<string, ScreenSize>;
export type ScreenId = keyof typeof SCREENS;

/** Typefaces that a reader may choose instead of the file's, as Pagina ships them. */
export const FACES = {
  own: { name: 'The book’s own', family: null, sort: 'serif' },
  literata: { name: 'Literata', family: 'Literata', sort: 'serif' },
  gentium: { name: 'Gentium Book Plus', family: 'Gentium Book Plus', sort: 'serif' },
  sans: { name: 'Source Sans 3', family: 'Source Sans 3', sort: 'sans-serif' },
} as const;
export type FaceId = keyof typeof FACES;

/** Type sizes in per cent. */
export const TYPE_SIZES = [70, 80, 90, 100, 115, 130, 150, 175, 200, 250] as const;
export const LEADINGS = { own: 'The book’s own', '1.2': 'Tight', '1.5': 'Open', '1.8': 'Wide' } as const;
/** White at the sides, as a share of the screen's width. */
export const MARGINS = { narrow: 0.035, medium: 0.07, wide: 0.13 } as const;

export interface Light {
  name: string;
  paper: string;
  ink: string;
  link: string;
  /** Whether colours of the book give way to these. */
  overrides: boolean;
}
export const LIGHTS = {
  day: { name: 'Day', paper: '#fffdf8', ink: '#20242a', link: '#1c5a52', overrides: false },
  lamp: { name: 'Lamp', paper: '#f2e3c6', ink: '#3b2f20', link: '#6b4413', overrides: true },
  night: { name: 'Night', paper: '#151412', ink: '#cfc8bb', link: '#8fc7bb', overrides: true },
} as const satisfies Record<string, Light>;
export type LightId = keyof typeof LIGHTS;

const keysOf = <K extends string>(of: Record<K, unknown>): [K, ...K[]] => Object.keys(of) as [K, ...K[]];
const schema = z.object({
  screen: z.enum(keysOf(SCREENS)).catch('phone'),
  beside: z.enum(['none', ...keysOf(SCREENS)]).catch('none'),
  moves: z.enum(['turned', 'scrolled']).catch('turned'),
  face: z.enum(keysOf(FACES)).catch('own'),
  type: z.literal(TYPE_SIZES).catch(100),
  leading: z.enum(keysOf(LEADINGS)).catch('own'),
  margins: z.enum(keysOf(MARGINS)).catch('medium'),
  light: z.enum(keysOf(LIGHTS)).catch('day'),
  notes: z.enum(['over', 'followed']).catch('over'),
});
export type ReadingSettings = z.infer<typeof schema>;

const KEY = 'reading-settings';
export function keptSettings(): ReadingSettings {
  let kept: unknown = {};
  try {
    kept = JSON.parse(localStorage.getItem(KEY) ?? '{}');
  } catch {
    // Rubbish is as good as nothing.
  }
  return schema.parse(kept !== null && typeof kept === 'object' ? kept : {});
}
export const keepSettings = (s: ReadingSettings): void => localStorage.setItem(KEY, JSON.stringify(s));
