/** Words in pictures, drawn as outlines: what letters the machine has makes no difference. */
import { readFileSync } from 'node:fs';
import { Face } from '@pagina/core/type';
import { facePath, typeSource } from '@pagina/make';

/** Draws words around `x`. */
export type Letters = (
  words: string,
  size: number,
  y: number,
  spacing: number,
  ink: string,
  x?: number,
) => string;
export async function letters(): Promise<Letters> {
  const { harfbuzz } = await typeSource();
  const face = new Face('EB Garamond', readFileSync(facePath('EB Garamond')), harfbuzz);
  return (words, size, y, spacing, ink, middle = 850) => {
    const scale = size / face.upem;
    const g = face.shape(words, '', 'en');
    let x = 0;
    const drawn: string[] = [];
    for (let i = 0; i < g.count; i++) {
      drawn.push(`<path transform="translate(${x} 0)" d="${face.path(g.ids[i] as number)}"/>`);
      x += (g.advances[i] as number) + spacing / scale;
    }
    const left = middle - ((x - spacing / scale) * scale) / 2;
    return `<g fill="${ink}" transform="translate(${left} ${y}) scale(${scale} ${-scale})">${drawn.join('')}</g>`;
  };
}
