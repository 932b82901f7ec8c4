/** Installs what is missing: npm packages, and (for tests) Debian's Chromium, qpdf, poppler-utils, a Java runtime and the W3C's DTDs. */
import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');
const has = (command) => spawnSync('sh', ['-c', `command -v ${command}`]).status === 0;
const say = (words) => console.log(words);

/** npm notes what it has installed beside the packages: a lock file that has changed since wants another installation. */
function isInstalled() {
  const noted = resolve(root, 'node_modules/.package-lock.json');
  if (!existsSync(noted) || !existsSync(resolve(root, 'node_modules/next/package.json'))) return false;
  const wanted = JSON.parse(readFileSync(resolve(root, 'package-lock.json'), 'utf8')).packages;
  const found = JSON.parse(readFileSync(noted, 'utf8')).packages;
  // Links are the project's own folders; optional packages are for other machines.
  return Object.entries(wanted).every(
    ([path, p]) =>
      !path.startsWith('node_modules/') || p.link || p.optional || found[path]?.version === p.version,
  );
}

export function packages() {
  if (isInstalled()) return;
  say('Installing packages …');
  // What could be compiled for speed takes Node's headers from beside Node, and does without where there are none: nothing is fetched.
  const env = { ...process.env, npm_config_nodedir: dirname(dirname(process.execPath)) };
  const args = ['ci', '--no-audit', '--no-fund', '--loglevel=error'];
  execFileSync('npm', args, { cwd: root, env, stdio: 'inherit' });
}

/** The W3C's DTD of XHTML 1.1, as Debian keeps it. */
const XHTML_11 = '/usr/share/xml/w3c-sgml-lib/schema/dtd/REC-xhtml11-20101123/xhtml11.dtd';

export function debian() {
  const wanted = [
    ['chromium', 'chromium'],
    ['qpdf', 'qpdf'],
    ['unzip', 'unzip'],
    ['pdftotext', 'poppler-utils'],
    ['java', 'default-jre-headless'],
    ['xmllint', 'libxml2-utils'],
    [() => existsSync(XHTML_11), 'w3c-sgml-lib'],
  ];
  const missing = wanted
    .filter(([there]) => !(typeof there === 'string' ? has(there) : there()))
    .map(([, name]) => name);
  if (missing.length === 0) return;
  say(`Installing ${missing.join(', ')} …`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const run = (args) => execFileSync('apt-get', args, { env, stdio: ['ignore', 'ignore', 'inherit'] });
  run(['update', '-q']);
  run(['install', '-y', '-q', '--no-install-recommends', ...missing]);
}

/** Where ebooks lie that other people made: those of Debian's documentation packages, unpacked. */
export const OTHER_EBOOKS = resolve(root, 'node_modules/.cache/ebooks');

/** Not installed, as images of Debian often leave documentation out. */
export function otherEbooks() {
  const names = ['debian-history', 'debmake-doc', 'debian-policy', 'developers-reference'];
  const missing = names.filter((name) => !existsSync(resolve(OTHER_EBOOKS, name)));
  if (missing.length === 0) return;
  say(`Fetching ebooks of ${missing.join(', ')} …`);
  const run = (command, args, cwd = OTHER_EBOOKS) =>
    execFileSync(command, args, { cwd, stdio: ['ignore', 'ignore', 'ignore'] });
  mkdirSync(OTHER_EBOOKS, { recursive: true });
  try {
    run('apt-get', ['download', '-q', ...missing]);
  } catch {
    run('apt-get', ['update', '-q']);
    run('apt-get', ['download', '-q', ...missing]);
  }
  for (const name of missing) {
    const file = readdirSync(OTHER_EBOOKS).find((f) => f.startsWith(`${name}_`) && f.endsWith('.deb'));
    run('dpkg-deb', ['-x', resolve(OTHER_EBOOKS, file), resolve(OTHER_EBOOKS, name)]);
    rmSync(resolve(OTHER_EBOOKS, file));
  }
}

/** Bundles the programs and builds the web application, unless that was done for these sources. */
export function build({ always = false } = {}) {
  execFileSync(process.execPath, ['scripts/assets.mjs'], { cwd: root, stdio: 'inherit' });
  execFileSync(process.execPath, ['scripts/bundle.mjs'], { cwd: root, stdio: 'inherit' });
  if (!always && existsSync(resolve(root, 'web/.next/BUILD_ID'))) {
    const newer = spawnSync(
      'find',
      ['web/src', 'core/src', 'data/src', 'web/next.config.ts', '-newer', 'web/.next/BUILD_ID', '-type', 'f'],
      { cwd: root, encoding: 'utf8' },
    );
    if (newer.stdout.trim() === '') return;
  }
  say('Building the application …');
  execFileSync(process.execPath, ['../node_modules/next/dist/bin/next', 'build'], {
    cwd: resolve(root, 'web'),
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1' },
  });
}
