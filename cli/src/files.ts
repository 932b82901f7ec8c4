/** Files that are read and written, and what cannot be used, told in one line. */
import { readFileSync, renameSync, writeFileSync } from 'node:fs';
import type { Refusal } from '@pagina/core/base';

/** A sentence for the person at the terminal, and exit 2. */
export class Unusable extends Error {}
export const unusable = (r: Refusal): Unusable => new Unusable(r.message);

export function readInput(path: string): Uint8Array {
  try {
    return readFileSync(path);
  } catch (e) {
    const code = (e as NodeJS.ErrnoException).code;
    throw new Unusable(code === 'ENOENT' ? `There is no file ${path}.` : `${path} cannot be read (${code}).`);
  }
}

/** Written beside its place and moved there, so that a file is whole or not there. */
export function writeOutput(path: string, bytes: Uint8Array | string): void {
  const temporary = `${path}.part-${process.pid}`;
  try {
    writeFileSync(temporary, bytes);
    renameSync(temporary, path);
  } catch (e) {
    throw new Unusable(`${path} cannot be written (${(e as NodeJS.ErrnoException).code}).`);
  }
}
