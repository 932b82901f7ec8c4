/** `npm test`: installs what is missing, then types, lint, unit tests, build, browser tests; closes with the sum. */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, relative, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build, debian, otherEbooks, packages } from './setup.mjs';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');
const out = mkdtempSync(join(tmpdir(), 'pagina-test-'));
let passed = 0;
let failed = 0;

function step(name, command, args) {
  const started = Date.now();
  const r = spawnSync(command, args, {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, NODE_OPTIONS: '--max-old-space-size=6144' },
  });
  const ok = r.status === 0;
  console.log(`${ok ? 'ok     ' : 'FAILED '} ${name} (${Math.round((Date.now() - started) / 1000)} s)`);
  return ok;
}
function plain(name, command, args) {
  if (step(name, command, args)) passed++;
  else failed++;
}
/** Runs Vitest; answers what its report says, or null where it wrote none. */
function vitest(name, args) {
  const file = join(out, `${name.replace(/\W/g, '-').slice(0, 60)}.json`);
  const ok = step(name, process.execPath, [
    'node_modules/vitest/vitest.mjs',
    'run',
    ...args,
    '--reporter=dot',
    '--reporter=json',
    `--outputFile.json=${file}`,
  ]);
  try {
    return { ok, ...JSON.parse(readFileSync(file, 'utf8')) };
  } catch {
    return null;
  }
}

/**
 * Files whose process died before their tests had run: neither passed nor failed. It was seen once in some three thousand
 * tests, and not again in thirteen runs of the files it may have been, so its cause isn’t known. Such files are named, run
 * once more by themselves, and have to pass then.
 */
const cutOff = ({ testResults }) =>
  testResults
    .filter(
      ({ status, assertionResults: tests }) =>
        !tests.some((t) => t.status === 'failed') &&
        (status !== 'passed' || tests.some((t) => t.status === 'pending')),
    )
    .map((f) => relative(root, f.name));

function tests(name, args) {
  const r = vitest(name, args);
  if (!r) return void failed++;
  const again = r.ok ? [] : cutOff(r);
  const rerun =
    again.length > 0 ? vitest(`${name} once more (${again.join(', ')})`, [...args, ...again]) : null;
  const cutPassed = r.testResults
    .filter((f) => again.includes(relative(root, f.name)))
    .flatMap((f) => f.assertionResults)
    .filter((t) => t.status === 'passed').length;
  passed += r.numPassedTests - cutPassed + (rerun?.numPassedTests ?? 0);
  failed += r.numFailedTests + (rerun?.numFailedTests ?? 0);
  if (!r.ok && r.numFailedTests === 0 && !rerun?.ok) failed++;
}

packages();
debian();
otherEbooks();
plain('types of the house', process.execPath, ['node_modules/typescript/bin/tsc', '-p', '.']);
plain('lint', process.execPath, ['node_modules/eslint/bin/eslint.js', '.']);
plain('format', process.execPath, [
  'node_modules/prettier/bin/prettier.cjs',
  '--check',
  '--log-level',
  'warn',
  '.',
]);
try {
  build({ always: true });
  passed++;
} catch (e) {
  console.error(String(e));
  failed++;
}
plain('types of the application', process.execPath, ['node_modules/typescript/bin/tsc', '-p', 'web']);
tests('unit tests', ['--project', '!e2e']);
tests('browser tests', ['--project', 'e2e']);
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
