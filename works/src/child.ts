/**
 * Does the tasks it is given, one after the other, until its parent ends it. Memory is limited by the parent; a crash here is
 * a failed job, not a dead runner.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  bookFromJson,
  bookToJson,
  freshSection,
  newBook,
  pagesOf,
  productKeyOf,
  sectionsIn,
  schema,
  type Book,
  type Edition,
} from '@pagina/core/book';
import {
  checkEpub,
  checkEpubOf,
  checkFileAgreement,
  checkFront,
  checkPdf,
  checkPdfOf,
  epubFacts,
  epubSubject,
  checkPages,
  pagesFacts,
  pdfFacts,
  pdfSubject,
} from '@pagina/core/check';
import { bySeverity, type Finding } from '@pagina/core/base';
import { compose } from '@pagina/core/compose';
import { impressionOfEbook, impressionOfPages, type Impression } from '@pagina/core/proof';
import { recordSchema } from '@pagina/core/record';
import { arrivalOf, readDelivery } from '@pagina/core/intake';
import { bookAddressAt, editionAt, outletNamed, OUTLETS, sellsEbooks } from '@pagina/core/outlets';
import {
  familiarPicture,
  ignoreLateRejections,
  inflateByHost,
  makeEbook,
  makeFixed,
  makePrint,
  settleForOneFile,
  typeSource,
  withWholePictures,
} from '@pagina/make';
import type { makeCover } from '@pagina/make/cover';
import { checkAttached } from './attached';
import { writeImpression } from './impressions';
import type { FromChild, Task, ToChild } from './tasks';
import { watchOverChild } from './watch';

const say = (m: FromChild): Promise<void> => new Promise((done) => process.send?.(m, () => done()));
const progress = (stage: string, share: number): boolean => {
  void say({ type: 'progress', stage, share });
  return true;
};

async function read({ files: paths, changes, folder }: Extract<Task, { kind: 'read' }>): Promise<FromChild> {
  progress('Reading the manuscript', 0);
  const delivered = paths.map(({ path, name }) => ({ name, bytes: readFileSync(path) }));
  const r = await readDelivery(delivered, { convert: familiarPicture, changes });
  if (!r.ok) return { type: 'refused', message: r.refusal.message };
  const whole = await withWholePictures(r.value);
  const { book, files } = whole;
  const pictures: Record<string, string> = {};
  for (const [id, bytes] of files) {
    pictures[id] = join(folder, id);
    writeFileSync(pictures[id], bytes);
  }
  return { type: 'read', book: bookToJson(book), pictures, arrival: arrivalOf(whole, whole.manuscript) };
}

async function make({
  book: json,
  modified,
  edition: id,
  pictures,
  out,
  name,
  affiliate,
  links,
}: Extract<Task, { kind: 'make' }>): Promise<FromChild> {
  const parsed = bookFromJson(json);
  if (!parsed.ok) return { type: 'refused', message: parsed.refusal.message };
  const book = parsed.value;
  const bytesOf = (picture: string): Uint8Array | null =>
    pictures[picture] ? readFileSync(pictures[picture]) : null;
  const { edition: editionId, form, outlet } = productKeyOf(id);
  if (editionId === null) {
    progress('Writing the manuscript', 0);
    const { makeWordFile } = await import('@pagina/make/word-file');
    const shop = outletNamed(outlet);
    const of = shop && editionAt(shop, book);
    const made = await makeWordFile(
      of ? { ...book, sections: sectionsIn(book, of.id) } : book,
      bytesOf,
      (isbn) => (shop ? bookAddressAt(shop, isbn, affiliate, links) : null),
    );
    if (!made.ok) return { type: 'refused', message: made.refusal.message };
    writeFileSync(out, made.value);
    return { type: 'made', pages: 0, findings: [], impression: null };
  }
  const screen = form === 'screen';
  const sheet = form === 'cover' || form === 'template';
  const edition = book.editions.find((e) => e.id === editionId);
  if (!edition) return { type: 'refused', message: 'That edition no longer exists.' };
  if (sheet)
    return makeSheet(book, edition, { pictures: bytesOf, modified, empty: form === 'template' }, out);
  const findings: Finding[] = [];
  let count = 0;
  let shown: Impression | null = null;
  if (edition.form === 'print') {
    const made = await makePrint(book, edition.id, { pictures: bytesOf, modified, progress, screen });
    if (!made.ok) return { type: 'refused', message: made.refusal.message };
    progress('Checking the file', 0);
    const { bytes, composition } = made.value;
    count = composition.report.pages;
    writeFileSync(out, bytes);
    shown = impressionOfPages(composition, book);
    const subject = await pdfSubject(bytes);
    if (subject.ok) {
      // Pictures too small for print are found on the pages, each with its place in the book.
      const checked = screen ? [] : checkPdfOf(subject.value);
      findings.push(
        ...checked.filter((f) => !/-picture$/.test(f.rule)),
        ...checkFileAgreement(book, edition, pdfFacts(subject.value, name)),
      );
    }
    // What the design asks of the printer is found in the book, and needs no file.
    const onPages = checkPages(book, pagesFacts(composition, book));
    findings.push(...onPages.filter((f) => f.rule.startsWith('type/')));
  } else {
    const pages = pagesOf(book, edition.id);
    const shop = outletNamed(outlet);
    const options = { pictures: bytesOf, modified, progress };
    const made =
      edition.form === 'fixed'
        ? await makeFixed(book, edition.id, options)
        : await makeEbook(book, edition.id, {
            ...options,
            print: pages ? { edition: pages.id } : null,
            bookAddress: shop ? (isbn) => bookAddressAt(shop, isbn, affiliate, links) : undefined,
          });
    if (!made.ok) return { type: 'refused', message: made.refusal.message };
    progress('Checking the file', 0);
    writeFileSync(out, made.value.bytes);
    const subject = epubSubject(made.value.bytes);
    const taken = impressionOfEbook(made.value.bytes);
    if (taken.ok) shown = taken.value;
    if (subject.ok)
      findings.push(
        ...checkEpubOf(subject.value, shop ? [shop].filter(sellsEbooks) : OUTLETS.filter(sellsEbooks)),
        ...checkFileAgreement(book, edition, epubFacts(subject.value, name)),
      );
    findings.push(...(await frontFindings(book, bytesOf)));
  }
  const impression = shown && form === 'whole' ? writeImpression(shown, out) : null;
  return { type: 'made', pages: count, findings: bySeverity(findings), impression };
}

/** What a recogniser reads on the author's own picture of the front, against the record. */
async function frontFindings(
  book: Book,
  bytesOf: Parameters<typeof makeCover>[3]['pictures'],
): Promise<Finding[]> {
  const { wordsOnFront } = await import('@pagina/make/coverwords');
  const words = await wordsOnFront(book, bytesOf);
  return words ? checkFront(words, book.record) : [];
}

/** The cover's sheet: the book is set first, for its pages make the spine. */
async function makeSheet(
  book: Book,
  edition: Edition,
  options: Parameters<typeof makeCover>[3],
  out: string,
): Promise<FromChild> {
  const composed = await compose(book, edition.id, await typeSource(), {
    progress: (s) => progress('Counting the pages for the spine', s),
  });
  if (!composed.ok) return { type: 'refused', message: composed.refusal.message };
  const { pages } = composed.value.report;
  progress('Drawing the cover', 0);
  const { makeCover } = await import('@pagina/make/cover');
  const made = await makeCover(book, edition.id, pages, options);
  if (!made.ok) return { type: 'refused', message: made.refusal.message };
  const { bytes } = made.value;
  const findings = [...made.value.findings, ...(await frontFindings(book, options.pictures))];
  writeFileSync(out, bytes);
  const { sheetShows } = await import('@pagina/make/drawn');
  const shown = options.empty ? null : await sheetShows(bytes);
  const impression = shown?.ok ? writeImpression(shown.value, out) : null;
  return { type: 'made', pages, findings: bySeverity(findings), impression };
}

/** Makes a small book in both forms, and checks it: what is compiled for it is compiled for the next. */
async function warmUp(): Promise<null> {
  const words = 'The ferry went over at noon, and the bell rang twice for those who had come late. ';
  const book = newBook('warm-up', recordSchema.parse({ title: 'Warm-up', language: 'en' }), [
    freshSection('t', 'title-page'),
    ...Array.from({ length: 6 }, (_, i) =>
      freshSection(`c${i}`, 'chapter', {
        title: 'A chapter',
        content: schema.node(
          'doc',
          null,
          Array.from({ length: 8 }, (_x, k) =>
            schema.node('paragraph', { id: `c${i}-${k}` }, [schema.text(words.repeat(6 + k))]),
          ),
        ),
      }),
    ),
  ]);
  const pictures = (): null => null;
  const print = await makePrint(book, 'paperback', { pictures });
  if (print.ok) await Promise.all([checkPdf(print.value.bytes), pdfSubject(print.value.bytes)]);
  const ebook = await makeEbook(book, 'ebook', { pictures, print: { edition: 'paperback' } });
  if (ebook.ok) checkEpub(ebook.value.bytes);
  return null;
}

watchOverChild();
settleForOneFile();
ignoreLateRejections();
inflateByHost();
function doTask(task: ToChild): Promise<FromChild | null> {
  switch (task.kind) {
    case 'read':
      return read(task);
    case 'make':
      return make(task);
    case 'attach':
      return checkAttached(task, progress);
    case 'warm-up':
      return warmUp();
  }
}

process.on('message', (task: ToChild) => {
  doTask(task)
    .then((end) => (end ? say(end) : undefined))
    .catch((e: unknown) =>
      say({
        type: 'refused',
        message: `The file couldn’t be made: ${(e as Error).message.split('\n')[0]}.`,
      }),
    )
    .then(() => say({ type: 'idle', megabytes: Math.round(process.memoryUsage.rss() / 1_048_576) }));
});
