/** A manuscript from a file, read as all commands read it. */
import { done, type Outcome } from '@pagina/core/base';
import type { Intake } from '@pagina/core/intake';
import { familiarPicture, ignoreLateRejections, inflateByHost, withWholePictures } from '@pagina/make';

/** Loaded only when a manuscript is to be read: a book file needs none of it. */
export async function manuscript(bytes: Uint8Array, path: string): Promise<Outcome<Intake>> {
  ignoreLateRejections();
  inflateByHost();
  const { readManuscript } = await import('@pagina/core/intake');
  const read = await readManuscript(bytes, path, { convert: familiarPicture });
  return read.ok ? done(await withWholePictures(read.value)) : read;
}
