/** bin/pagina: import, build and check from the command line. Exit 0 done; 1 blockers; 2 unusable input or arguments. */
import { readFileSync, renameSync, writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import type { Refusal } from '@pagina/core/base';

const USAGE = `pagina import FILE [--out BOOK.json] [--json]
pagina build FILE|BOOK.json --edition print|screen|cover|reflow|manuscript --out FILE [--interior NAME] [--trim 5.5x8.5in]
             [--title T] [--author A] [--language en] [--isbn N] [--cover FILE] [--date ISO] [--report FILE]
pagina check FILE... [--json]`;

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

const OPTIONS = {
  out: { type: 'string' },
  json: { type: 'boolean' },
  edition: { type: 'string' },
  interior: { type: 'string' },
  trim: { type: 'string' },
  title: { type: 'string' },
  author: { type: 'string' },
  language: { type: 'string' },
  isbn: { type: 'string' },
  cover: { type: 'string' },
  date: { type: 'string' },
  report: { type: 'string' },
} as const;
export type Options = {
  [K in keyof typeof OPTIONS]?: (typeof OPTIONS)[K]['type'] extends 'boolean' ? boolean : string;
};

async function main(argv: string[]): Promise<number> {
  const [command, ...rest] = argv;
  if (command === undefined || command === '--help' || command === 'help') {
    console.log(USAGE);
    return command === undefined ? 2 : 0;
  }
  let parsed: { values: Options; positionals: string[] };
  try {
    parsed = parseArgs({ args: rest, options: OPTIONS, allowPositionals: true }) as typeof parsed;
  } catch (e) {
    throw new Unusable((e as Error).message.split('\n')[0] as string);
  }
  const { values, positionals } = parsed;
  if (positionals.length === 0)
    throw new Unusable(`Name a file. ${USAGE.split('\n').find((l) => l.includes(command)) ?? ''}`);
  switch (command) {
    case 'import':
      return (await import('./import')).importFile(positionals[0] as string, values);
    case 'build':
      return (await import('./build')).build(positionals[0] as string, values);
    case 'check':
      return (await import('./check')).check(positionals, values);
    default:
      throw new Unusable(`There is no command "${command}": import, build or check.`);
  }
}

main(process.argv.slice(2)).then(
  (code) => process.exit(code),
  (e: unknown) => {
    process.stderr.write(
      e instanceof Unusable
        ? `${e.message}\n`
        : `Something went wrong inside the program: ${(e as Error).message}\n`,
    );
    process.exit(2);
  },
);
