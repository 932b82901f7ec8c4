/** Bundles the programs once, before the tests that run them: they share the folders that bundling empties. */
import { spawnSync } from 'node:child_process';

export default function setup(): void {
  const bundled = spawnSync(process.execPath, ['scripts/bundle.mjs'], { encoding: 'utf8' });
  if (bundled.status !== 0) throw new Error(bundled.stderr);
}
