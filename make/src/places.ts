/** Where book faces and the shaping engine lie: in the packages that ship them. Their licences are listed in docs/faces.md. */
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';

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
