/** Book faces and the shaping engine, opened. */
import { readFileSync } from 'node:fs';
import { startHarfBuzz, type FaceFile, type FamilyFiles, type HarfBuzz } from '@pagina/core/type';
import type { TypeSource } from '@pagina/core/compose';
import { facePath, wasmPath } from './places';

const faceFile = (name: string): FaceFile => ({ name, bytes: readFileSync(facePath(name)) });

/** The family of the interior *Harrow*: files are read when first asked for. */
export function garamond(): FamilyFiles {
  const files = new Map<string, FaceFile>();
  const lazy = (name: string): FaceFile => ({
    name,
    get bytes() {
      let f = files.get(name);
      if (!f) {
        f = faceFile(name);
        files.set(name, f);
      }
      return f.bytes;
    },
  });
  return {
    name: 'EB Garamond',
    regular: lazy('EB Garamond'),
    italic: lazy('EB Garamond Italic'),
    bold: lazy('EB Garamond Bold'),
    boldItalic: lazy('EB Garamond Bold Italic'),
    fallback: [lazy('Gentium Book Plus')],
    monospace: lazy('Source Code Pro'),
  };
}

let engine: Promise<HarfBuzz> | null = null;
export async function typeSource(): Promise<TypeSource> {
  engine ??= startHarfBuzz(readFileSync(wasmPath('harfbuzz')));
  return { harfbuzz: await engine, family: garamond() };
}
