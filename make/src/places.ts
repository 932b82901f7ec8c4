/** Where book faces and the shaping engine lie: in the packages that ship them. Their licences are listed in docs/faces.md. */
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
/** Families with the package of each and the name that its files begin with; every family has the same four cuts. */
import families from './families.json' with { type: 'json' };

const require_ = createRequire(import.meta.url);

const CUTS: Record<string, string> = {
  '': '400Regular',
  ' Italic': '400Regular_Italic',
  ' Bold': '700Bold',
  ' Bold Italic': '700Bold_Italic',
};

/** Files of the faces by name, relative to their package. */
export const FACE_FILES: Readonly<Record<string, { package: string; file: string }>> = Object.fromEntries(
  Object.entries(families).flatMap(([name, [pkg, stem]]) =>
    Object.entries(CUTS).map(([cut, file]) => [
      name + cut,
      { package: `@expo-google-fonts/${pkg}`, file: `${file}/${stem}_${file}.ttf` },
    ]),
  ),
);

/** Path of a face's file; throws for a name that is not in the table. */
export function facePath(name: string): string {
  const entry = FACE_FILES[name];
  if (!entry) throw new Error(`there is no face "${name}"`);
  return join(dirname(require_.resolve(`${entry.package}/package.json`)), entry.file);
}

/** The licence under which a family comes: the SIL Open Font License, with the names that it reserves. */
export const licencePath = (family: string): string =>
  join(dirname(require_.resolve(`${FACE_FILES[family]?.package}/package.json`)), 'LICENSE_FONT');

export const wasmPath = (name: 'harfbuzz' | 'harfbuzz-subset'): string =>
  require_.resolve(`harfbuzzjs/dist/${name}.wasm`);

/** A folder of what pdf.js draws others' files with: faces that aren't embedded, character maps, decoders of pictures. */
export const pdfjsFolder = (name: 'standard_fonts' | 'cmaps' | 'wasm'): string =>
  `${join(dirname(require_.resolve('pdfjs-dist/package.json')), name)}/`;
