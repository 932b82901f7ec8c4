/** Book faces and the shaping engine, opened. */
import { readFileSync } from 'node:fs';
import { FALLBACKS, MONOSPACE } from '@pagina/core/design';
import { familyOf, startHarfBuzz, type FaceFile, type FamilyFiles, type HarfBuzz } from '@pagina/core/type';
import type { TypeSource } from '@pagina/core/compose';
import { facePath, wasmPath } from './places';

const files = new Map<string, FaceFile>();
/** A face whose file is read when its bytes are first asked for. */
function lazy(name: string): FaceFile {
  let file = files.get(name);
  if (!file) {
    let bytes: Uint8Array | null = null;
    file = {
      name,
      get bytes() {
        return (bytes ??= readFileSync(facePath(name)));
      },
    };
    files.set(name, file);
  }
  return file;
}

export const family = (name: string): FamilyFiles => familyOf(name, lazy, FALLBACKS, MONOSPACE);

let engine: Promise<HarfBuzz> | null = null;
export async function typeSource(): Promise<TypeSource> {
  engine ??= startHarfBuzz(readFileSync(wasmPath('harfbuzz')));
  return { harfbuzz: await engine, family: (name) => Promise.resolve(family(name)) };
}
