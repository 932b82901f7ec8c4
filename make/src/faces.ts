/** Book faces and the shaping engine, read from the packages that ship them. Their licences are listed in docs/faces.md. */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import {
  startHarfBuzz,
  startSubsetter,
  type FaceFile,
  type FamilyFiles,
  type HarfBuzz,
  type Subsetter,
} from '@pagina/core/type';
import type { TypeSource } from '@pagina/core/compose';

const require_ = createRequire(import.meta.url);

/** Files of the faces by name, relative to their package. The browser asks for them by the same names. */
export const FACE_FILES: Record<string, { package: string; file: string }> = Object.fromEntries(
  [
    ['EB Garamond', 'eb-garamond', '400Regular/EBGaramond_400Regular.ttf'],
    ['EB Garamond Italic', 'eb-garamond', '400Regular_Italic/EBGaramond_400Regular_Italic.ttf'],
    ['EB Garamond Bold', 'eb-garamond', '700Bold/EBGaramond_700Bold.ttf'],
    ['EB Garamond Bold Italic', 'eb-garamond', '700Bold_Italic/EBGaramond_700Bold_Italic.ttf'],
    ['Gentium Book Plus', 'gentium-book-plus', '400Regular/GentiumBookPlus_400Regular.ttf'],
    ['Source Code Pro', 'source-code-pro', '400Regular/SourceCodePro_400Regular.ttf'],
  ].map(([name, pkg, file]) => [name, { package: `@expo-google-fonts/${pkg}`, file }]),
) as Record<string, { package: string; file: string }>;

/** Path of a face's file; throws for a name that is not in the table. */
export function facePath(name: string): string {
  const entry = FACE_FILES[name];
  if (!entry) throw new Error(`there is no face "${name}"`);
  return join(dirname(require_.resolve(`${entry.package}/package.json`)), entry.file);
}

export const wasmPath = (name: 'harfbuzz' | 'harfbuzz-subset'): string =>
  require_.resolve(`harfbuzzjs/dist/${name}.wasm`);

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

let subsetter: Promise<Subsetter> | null = null;
export const faceSubsetter = (): Promise<Subsetter> =>
  (subsetter ??= startSubsetter(readFileSync(wasmPath('harfbuzz-subset'))));
