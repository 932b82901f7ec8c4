/** Puts faces and the shaping engine where the browser's worker fetches them: web/public/type. */
import { copyFileSync, mkdirSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';

const require = createRequire(import.meta.url);
const to = 'web/public/type';
mkdirSync(to, { recursive: true });
copyFileSync(require.resolve('harfbuzzjs/dist/harfbuzz.wasm'), join(to, 'harfbuzz.wasm'));
const faces = {
  'eb-garamond': [
    '400Regular/EBGaramond_400Regular.ttf',
    '400Regular_Italic/EBGaramond_400Regular_Italic.ttf',
    '700Bold/EBGaramond_700Bold.ttf',
    '700Bold_Italic/EBGaramond_700Bold_Italic.ttf',
  ],
  'gentium-book-plus': ['400Regular/GentiumBookPlus_400Regular.ttf'],
  'source-code-pro': ['400Regular/SourceCodePro_400Regular.ttf'],
};
for (const [name, files] of Object.entries(faces)) {
  const folder = dirname(require.resolve(`@expo-google-fonts/${name}/package.json`));
  for (const f of files) copyFileSync(join(folder, f), join(to, f.split('/').at(-1)));
}
