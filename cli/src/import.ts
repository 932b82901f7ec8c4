import { depthOf } from '@pagina/core/book';
import { wordsOfSection, type Intake } from '@pagina/core/intake';
import { headingsOf } from '@pagina/core/order';
import { writeBookFile } from '@pagina/make';
import { readInput, unusable, writeOutput } from './files';
import type { Options } from './options';
import { manuscript } from './manuscript';

/** Reads a manuscript and prints what was found; `--out` keeps the book as JSON. */
export async function importFile(path: string, options: Options): Promise<number> {
  const read = await manuscript(readInput(path), path);
  if (!read.ok) throw unusable(read.refusal);
  const intake = read.value;
  if (options.out) writeOutput(options.out, writeBookFile(intake));
  const told = account(intake);
  if (options.json) console.log(JSON.stringify(told));
  else {
    for (const s of told.sections)
      console.log(
        `${'  '.repeat(s.depth)}${s.kind}  ${[s.number, s.title].filter(Boolean).join(': ')}  (${s.words} words)`,
      );
    const aside = Object.entries(told.setAside)
      .map(([rule, n]) => `${n} ${rule}`)
      .join(', ');
    console.log(`${told.wordsIn} words in, ${told.wordsOut} kept${aside ? `, set aside: ${aside}` : ''}`);
    for (const f of told.findings) console.log(`${f.severity}: ${f.message}`);
  }
  return 0;
}

export function account({ book, wordsIn, wordsOut, setAside, findings }: Intake) {
  const headings = headingsOf(book.sections, book);
  const aside: Record<string, number> = {};
  for (const s of setAside) aside[s.rule] = (aside[s.rule] ?? 0) + s.words;
  return {
    sections: book.sections.map((s) => ({
      kind: s.kind,
      matter: s.matter,
      depth: depthOf(book, s),
      number: headings.get(s.id)?.number ?? '',
      title: s.title,
      subtitle: s.subtitle,
      words: wordsOfSection(s),
    })),
    wordsIn,
    wordsOut,
    setAside: aside,
    findings,
  };
}
