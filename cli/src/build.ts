import { pictureInfo } from '@pagina/core/base';
import { apply, isPrint, isReflow, pagesOf, type Book, type Edition } from '@pagina/core/book';
import { compose } from '@pagina/core/compose';
import { editionAdded, INTERIOR_NAMES, trimOf } from '@pagina/core/design';
import { contributor, isbnFault, ISBN_FAULTS } from '@pagina/core/record';
import {
  makeEbook,
  makeFixed,
  makePrint,
  readBookFile,
  settleForOneFile,
  typeSource,
  type BookFile,
} from '@pagina/make';
import { readInput, Unusable, unusable, writeOutput } from './files';
import type { Options } from './options';
import { manuscript } from './manuscript';

const FORMS = ['print', 'screen', 'cover', 'reflow', 'epub2', 'fixed', 'sample', 'manuscript'] as const;
type Form = (typeof FORMS)[number];

/** Makes one edition of a manuscript or a book file. */
export async function build(path: string, options: Options): Promise<number> {
  const form = options.edition;
  if (!FORMS.includes(form as Form))
    throw new Unusable(
      'Say which edition to make: --edition print, screen (PDF with links), cover, reflow, epub2, fixed, sample or manuscript (.docx).',
    );
  if (!options.out) throw new Unusable('Say where the file goes: --out FILE.');
  settleForOneFile();
  const started = performance.now();
  // The shaping engine is compiled while the book is read; whoever waits for it hears what is wrong with it.
  if (form !== 'manuscript') void typeSource().catch(() => undefined);
  const source = await open(path);
  if (form === 'manuscript') {
    const { makeWordFile } = await import('@pagina/make/word-file');
    const { book } = prepared(source, options, 'reflow');
    const made = await makeWordFile(book, (id) => source.files.get(id) ?? null);
    if (!made.ok) throw unusable(made.refusal);
    writeOutput(options.out, made.value);
    return 0;
  }
  const { book, edition } = prepared(
    source,
    options,
    form === 'reflow' || form === 'epub2' || form === 'sample' ? 'reflow' : 'print',
  );
  const read = Math.round(performance.now() - started);
  const pictures = (id: string): Uint8Array | null => source.files.get(id) ?? null;
  const missing = book.pictures.filter((p) => !pictures(p.id)).length;
  if (missing > 0)
    process.stderr.write(
      missing === 1
        ? `1 picture is missing from ${path}. Its place is left empty.\n`
        : `${missing} pictures are missing from ${path}. Their places are left empty.\n`,
    );
  if (form === 'cover') {
    const { makeCover } = await import('@pagina/make/cover');
    const composed = await compose(book, edition.id, await typeSource());
    if (!composed.ok) throw unusable(composed.refusal);
    const made = await makeCover(book, edition.id, composed.value.report.pages, { pictures });
    if (!made.ok) throw unusable(made.refusal);
    writeOutput(options.out, made.value.bytes);
    for (const f of made.value.findings) process.stderr.write(`${f.severity}: ${f.message}\n`);
    return made.value.findings.some((f) => f.severity === 'blocker') ? 1 : 0;
  }
  if (form === 'print' || form === 'screen') {
    const made = await makePrint(book, edition.id, { pictures, screen: form === 'screen' });
    if (!made.ok) throw unusable(made.refusal);
    writeOutput(options.out, made.value.bytes);
    const { composition, milliseconds } = made.value;
    const r = composition.report;
    const report = {
      pages: r.pages,
      lines: r.lines,
      hyphenatedLines: r.hyphenatedLines,
      longestHyphenLadder: r.longestHyphenLadder,
      overfullLines: r.overfullLines,
      looseLines: r.looseLines,
      widows: r.widows,
      orphans: r.orphans,
      strandedHeadings: r.strandedHeadings,
      shortLastPages: r.shortLastPages,
      unlevelSpreads: r.unlevelSpreads,
      underfullLines: r.underfullLines,
      missingGlyphs: r.missingGlyphs,
      lostNotes: r.lostNotes,
      milliseconds: { read, ...milliseconds },
    };
    if (options.report) writeOutput(options.report, `${JSON.stringify(report, null, 2)}\n`);
    const { checkPages, pagesFacts } = await import('@pagina/core/check');
    const found = checkPages(book, pagesFacts(composition, book));
    for (const f of found.filter((x) => x.rule === 'type/missing-glyph').slice(0, 5))
      process.stderr.write(`${f.message}\n`);
    return 0;
  }
  if (form === 'sample' || form === 'fixed') {
    const [withIt, id] = having(book, form, options);
    const made =
      form === 'fixed'
        ? await makeFixed(withIt, id, { pictures })
        : await makeEbook(withIt, id, { pictures, print: null });
    if (!made.ok) throw unusable(made.refusal);
    writeOutput(options.out, made.value.bytes);
    return 0;
  }
  const pages = pagesOf(book, edition.id);
  const made = await makeEbook(book, edition.id, { pictures, print: pages ? { edition: pages.id } : null });
  if (!made.ok) throw unusable(made.refusal);
  writeOutput(options.out, made.value.bytes);
  if (options.report)
    writeOutput(
      options.report,
      `${JSON.stringify({ milliseconds: { read, ...made.value.milliseconds } }, null, 2)}\n`,
    );
  return 0;
}

/** The book with its own edition of that form, or one of the pages and the ebook that it has; and that edition's id. */
function having(given: Book, form: 'sample' | 'fixed', { isbn, date }: Options): [Book, string] {
  let book = given;
  if (!book.editions.some((e) => e.form === form)) {
    const added = editionAdded(book, form, form);
    if (!added.ok) throw unusable(added.refusal);
    const applied = apply(book, added.value);
    if (!applied.ok) throw unusable(applied.refusal);
    book = applied.value.book;
  }
  const found = book.editions.find((e) => e.form === form) as Edition;
  const own = form === 'fixed' && isbn ? { ...found, isbn } : { ...found };
  if (date) own.date = date;
  return [{ ...book, editions: book.editions.map((e) => (e.id === own.id ? own : e)) }, own.id];
}

async function open(path: string): Promise<BookFile> {
  const bytes = readInput(path);
  // A rich text file begins with a brace too, and a backslash after it.
  if ((bytes[0] === 0x7b && bytes[1] !== 0x5c) || /\.json$/i.test(path)) {
    const read = readBookFile(bytes);
    if (!read.ok) throw unusable(read.refusal);
    return read.value;
  }
  const read = await manuscript(bytes, path);
  if (!read.ok) throw unusable(read.refusal);
  return { book: read.value.book, files: read.value.files };
}

function prepared(
  source: BookFile,
  options: Options,
  form: 'print' | 'reflow',
): { book: Book; edition: Edition } {
  let { book } = source;
  const record = { ...book.record };
  if (options.title) record.title = options.title;
  if (options.author)
    record.contributors = [
      contributor(options.author, 'author'),
      ...record.contributors.filter((c) => c.role !== 'author'),
    ];
  if (options.language) record.language = options.language;
  if (options.cover) {
    const bytes = readInput(options.cover);
    const info = pictureInfo(bytes);
    if (!info) throw new Unusable(`${options.cover} can’t be used as a cover. Use a PNG or JPEG picture.`);
    source.files.set('cover', bytes);
    book = {
      ...book,
      pictures: [
        ...book.pictures.filter((p) => p.id !== 'cover'),
        { id: 'cover', name: options.cover, type: info.type, width: info.width, height: info.height },
      ],
    };
    record.cover = 'cover';
  }
  const found = book.editions.find((e) => e.form === form);
  if (!found) throw new Unusable(`The book has no ${form} edition.`);
  const edition = { ...found };
  if (options.trim) {
    const trim = trimOf(options.trim);
    if (!trim) throw new Unusable(`"${options.trim}" is not a trim. Write it like 5.5x8.5in.`);
    if (isPrint(edition)) edition.trim = trim.name;
  }
  if (options.interior) {
    const name = INTERIOR_NAMES.find((n) => n.toLowerCase() === options.interior?.toLowerCase());
    if (!name)
      throw new Unusable(
        `There is no interior "${options.interior}". There are: ${INTERIOR_NAMES.join(', ')}.`,
      );
    edition.interior = name;
  }
  if (isReflow(edition) && options.edition === 'epub2') edition.version = '2.0.1';
  if (options.date) edition.date = options.date;
  if (options.isbn) {
    const fault = isbnFault(options.isbn);
    if (fault) throw new Unusable(`The ISBN ${options.isbn} is not valid. ${ISBN_FAULTS[fault]}`);
    // Pages that are shown by another edition keep their own.
    if (options.edition !== 'fixed') edition.isbn = options.isbn;
  }
  return {
    book: { ...book, record, editions: book.editions.map((e) => (e.id === edition.id ? edition : e)) },
    edition,
  };
}
