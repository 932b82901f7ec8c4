/** What a reading program adds to a book's own style sheet: pages or a scroll, type, light. */
import { FACES, LIGHTS, type Light, type ReadingSettings } from './settings';

/** The room of the text on a screen, in CSS pixels. */
export interface Box {
  width: number;
  height: number;
  columns: number;
  /** Between two columns, and between one screen and the next. */
  gap: number;
  /** Around the text of a scroll. */
  padding: number;
}

/** Type at 100 %, in pixels: what browsers and reading programs begin with. */
const PLAIN = 16;
/** Read where neither book nor reader names a face. */
const FALLBACK = 'Literata';

export function dress(s: ReadingSettings, box: Box, paper: string): string {
  const light: Light = LIGHTS[s.light];
  const { family, sort } = FACES[s.face];
  return [
    `:root { font-family: "${FALLBACK}", serif; font-size: ${(PLAIN * s.type) / 100}px !important; color: ${light.ink}; background: ${paper} !important; margin: 0 !important; padding: 0 !important; max-width: none !important; line-height: 1.4; }`,
    'body { max-width: none !important; height: auto !important; min-height: 0 !important; }',
    s.moves === 'turned' ? turned(box) : scrolled(box),
    family
      ? `body, body *:not(pre, pre *, code, kbd, samp, math, math *) { font-family: "${family}", ${sort} !important; }`
      : '',
    s.leading === 'own'
      ? ''
      : `body, p, li, dt, dd, blockquote, td, th, div, section, aside { line-height: ${s.leading} !important; }`,
    light.overrides ? overriding(light) : '',
    OVER,
  ].join('\n');
}

/** The typefaces that there are to choose from: a sheet of its own, since one that is put anew has its faces sent again. */
export const faceSheet = (): string =>
  [...new Set([FALLBACK, ...Object.values(FACES).flatMap((f) => f.family ?? [])])].map(rulesOf).join('');

const rulesOf = (family: string): string => {
  const file = family.replaceAll(' ', '-');
  const face = (name: string, weight: number, style: string): string =>
    `@font-face { font-family: "${family}"; font-weight: ${weight}; font-style: ${style}; src: url("${location.origin}/type/${name}.ttf"); }\n`;
  return (
    face(file, 400, 'normal') +
    face(`${file}-Italic`, 400, 'italic') +
    face(`${file}-Bold`, 700, 'normal') +
    face(`${file}-Bold-Italic`, 700, 'italic')
  );
};

/** Columns as wide as the text, one beyond the other: turning a page is a step to the side. */
function turned({ width, height, columns, gap }: Box): string {
  const column = (width - gap * (columns - 1)) / columns;
  return `:root { overflow: hidden !important; height: ${height}px !important; column-width: ${column}px; column-gap: ${gap}px; column-fill: auto; }
body { margin: 0 !important; padding: 0 !important; }
img, svg, video { max-width: 100%; max-height: ${height}px !important; object-fit: contain; break-inside: avoid; }`;
}
const scrolled = ({ padding }: Box): string =>
  `:root { overflow-x: auto; overflow-y: scroll; }
body { margin: 0 !important; padding: ${padding}px !important; }
img, svg, video { max-width: 100%; }`;

const overriding = ({ ink, link }: Light): string =>
  `:root { color: ${ink} !important; }
body, body *:not(svg, svg *, a, a *) { color: inherit !important; background-color: transparent !important; border-color: currentColor !important; }
a, a * { color: ${link} !important; }`;

/** What is found, and a note laid over the foot of the screen: all that a page of a fixed size is dressed in. */
export const OVER = `::highlight(found) { background-color: #e7c873; color: #20242a; }
[data-reader-note] { position: fixed; left: 0; right: 0; bottom: 0; max-height: 55vh; overflow: auto; box-sizing: border-box; padding: 0.8em 1em; border-top: 2px solid currentColor; font-size: 0.95em; line-height: 1.4; z-index: 9; }
[data-reader-note] button { font: inherit; font-size: 0.85em; color: inherit; background: none; border: 1px solid currentColor; border-radius: 2px; padding: 0.1em 0.6em; margin: 0.6em 0.6em 0 0; cursor: pointer; }`;
