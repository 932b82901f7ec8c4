/** bin/pagina: import, build and check from the command line. Exit 0 done; 1 blockers; 2 unusable input or arguments. */
import { parseArgs } from 'node:util';
import { Unusable } from './files';
import { OPTIONS, type Options } from './options';

const USAGE = `pagina import FILE [--out BOOK.json] [--json]
pagina build FILE|BOOK.json --edition print|screen|cover|reflow|epub2|sample|manuscript --out FILE [--interior NAME] [--trim 5.5x8.5in]
             [--title T] [--author A] [--language en] [--isbn N] [--cover FILE] [--date ISO] [--report FILE]
pagina check FILE... [--json] [--mend OUT] [--outlet NAME|all] [--binding paperback|hardback] [--date ISO]
pagina check --rules`;

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
  if (positionals.length === 0 && !(command === 'check' && values.rules))
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

/** Ends once everything that was printed has gone out: a pipe takes it bit by bit. */
const leave = (code: number): void => void process.stdout.write('', () => process.exit(code));

main(process.argv.slice(2)).then(leave, (e: unknown) => {
  process.stderr.write(
    e instanceof Unusable
      ? `${e.message}\n`
      : `Something went wrong inside the program: ${(e as Error).message}\n`,
  );
  leave(2);
});
