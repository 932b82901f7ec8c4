/** Puts faces and the shaping engine where the browser's worker fetches them, by the names of the faces: web/public/type. */
import { copyFileSync, mkdirSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';

const require = createRequire(import.meta.url);
const to = 'web/public/type';
mkdirSync(to, { recursive: true });
copyFileSync(require.resolve('harfbuzzjs/dist/harfbuzz.wasm'), join(to, 'harfbuzz.wasm'));
const families = JSON.parse(readFileSync('make/src/families.json', 'utf8'));
const cuts = {
  '': '400Regular',
  ' Italic': '400Regular_Italic',
  ' Bold': '700Bold',
  ' Bold Italic': '700Bold_Italic',
};
for (const [name, [folder, stem]] of Object.entries(families))
  for (const [cut, file] of Object.entries(cuts)) {
    const from = dirname(require.resolve(`@expo-google-fonts/${folder}/package.json`));
    copyFileSync(
      join(from, file, `${stem}_${file}.ttf`),
      join(to, `${(name + cut).replaceAll(' ', '-')}.ttf`),
    );
  }
