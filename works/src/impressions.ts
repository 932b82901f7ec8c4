/** Impressions on their way from the child process to the job runner: compressed, in a file of their own. */
import { writeFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import type { Impression } from '@pagina/core/proof';

/** Answers its path. `beside` is a path that is free. */
export function writeImpression(impression: Impression, beside: string): string {
  const path = `${beside}.impression`;
  writeFileSync(path, gzipSync(JSON.stringify(impression)));
  return path;
}
