'use client';
/** Editions: a row each, what was made of it and when, what the checks said. Making shows stage and share and can be stopped. */
import { useRouter } from 'next/navigation';
import { format } from 'date-fns';
import type { Finding } from '@pagina/core/base';
import {
  coverOf,
  forOutlet,
  forScreen,
  makingOf,
  MANUSCRIPT,
  templateOf,
  type Edition,
} from '@pagina/core/book';
import { linksToShops, OUTLETS } from '@pagina/core/outlets';
import { PAPERS, paperOf, spineWidth } from '@pagina/core/trade';
import type { Job, Product } from '@pagina/data';
import { useBook, useComposed, useTitle } from '@/title/context';
import { Button, Progress, SeverityMark } from '@/ui/controls';
import { FileOf } from '@/ui/FileOf';

/** Millipoints in a millimetre. */
const MM = 72_000 / 25.4;
const STANDARDS: readonly [Edition['standard'], string][] = [
  ['x-1a', 'PDF/X-1a:2003'],
  ['x-4', 'PDF/X-4'],
  ['plain', 'PDF without a standard'],
];

interface Aside {
  id: string;
  name: string;
  /** In short, on the button. */
  called: string;
  form: string;
}
/** What else is made of an edition: of a print one its cover and a file for the screen, of an ebook with links one an outlet. */
function besidesOf(e: Edition, linked: boolean): Aside[] {
  if (e.form === 'print')
    return [
      {
        id: forScreen(e.id),
        name: 'For the screen',
        called: 'screen PDF',
        form: 'PDF with cover, bookmarks and links',
      },
      {
        id: coverOf(e.id),
        name: 'Cover',
        called: 'cover',
        form: 'Back, spine and front on one sheet, in printing colours',
      },
      {
        id: templateOf(e.id),
        name: 'Empty cover sheet',
        called: 'empty sheet',
        form: 'Guides for a designer, in the size of these pages',
      },
    ];
  if (!linked) return [];
  return OUTLETS.map((o) => ({
    id: forOutlet(e.id, o.id),
    name: `For ${o.name}`,
    called: `${e.name.toLowerCase()} for ${o.name}`,
    form: `Its links to books lead to ${o.name}`,
  }));
}

export function Editions() {
  const { book } = useBook();
  const { composed } = useComposed();
  return (
    <div className="h-full overflow-auto bg-sheet">
      <table className="w-full table-fixed border-collapse">
        <colgroup>
          {['136px', '130px', '182px', '86px', '122px', '', '160px', '204px'].map((width, i) => (
            <col key={i} style={width ? { width } : undefined} />
          ))}
        </colgroup>
        <thead className="sticky top-0 bg-sheet">
          <tr className="h-8 border-b border-edge text-left">
            {['Edition', 'ISBN', 'Form', 'Pages', 'Made', 'Checks', 'File', ''].map((h, i) => (
              <th key={i} scope="col" className="column-head px-3">
                {h || <span className="sr-only">Actions</span>}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {book.editions.flatMap((e) => [
            <Row
              key={e.id}
              id={e.id}
              name={e.name}
              isbn={e.isbn}
              form={e.form === 'print' ? `Print, ${e.trim}` : 'Reflowable ebook'}
              pages={e.form === 'print' && composed?.edition === e.id ? composed.pages.length : null}
            />,
            ...besidesOf(e, linksToShops(book, e.id)).map((aside) => (
              <Row key={aside.id} {...aside} isbn="" pages={null} />
            )),
          ])}
          <Row id={MANUSCRIPT} name="Manuscript" isbn="" form="For a word processor (.docx)" pages={null} />
        </tbody>
      </table>
    </div>
  );
}

/** A name within a sentence: an outlet keeps its capital. */
const lower = (name: string): string => name.charAt(0).toLowerCase() + name.slice(1);

function Row({
  id,
  name,
  isbn,
  form,
  pages,
  called = lower(name),
}: {
  id: string;
  name: string;
  isbn: string;
  form: string;
  /** Pages as it stands now; null where it has none, or they are not known. */
  pages: number | null;
  /** In short, on the button. */
  called?: string;
}) {
  const { session } = useTitle();
  const { book, jobs, products, revision } = useBook();
  // Files for those who make the book, which are no editions of their own.
  const making = makingOf(id);
  const aside = making.edition === null || making.form !== 'whole';
  const job = jobs.find((j) => (j.payload as { edition?: string }).edition === id);
  const product = products.find((p) => p.edition === id);
  const print = book.editions.find((e) => e.id === id && e.form === 'print');
  // A cover has one sheet; the pages that made its spine are the book's.
  const count = print || making.form === 'screen' ? (pages ?? product?.pages ?? 0) : 0;
  const working = job !== undefined && (job.state === 'queued' || job.state === 'running');
  return (
    <tr className="border-b border-rule align-top" data-edition={id}>
      <td className={`px-3 py-3 font-serif ${aside ? 'pl-7 text-[15px]' : 'text-[18px]'}`}>{name}</td>
      <td className="px-3 py-3.5 whitespace-nowrap">
        {isbn || (aside ? '' : <span className="text-ink-soft">none</span>)}
      </td>
      <td className="px-3 py-3.5">
        {form}
        {print ? <Printing edition={print} /> : null}
      </td>
      <td className="px-3 py-3.5">
        {count || ''}
        {print && count ? (
          <span
            className="block text-[13px] whitespace-nowrap text-ink-soft"
            title="Half the number of pages times the paper’s caliper"
          >
            spine {(spineWidth(count, paperOf(print.paper)) / MM).toFixed(1)} mm
          </span>
        ) : null}
      </td>
      <td className="px-3 py-3.5">
        {product ? (
          format(product.madeAt, 'd MMM yyyy, HH:mm')
        ) : (
          <span className="whitespace-nowrap text-ink-soft">not yet</span>
        )}
        {product && product.revision < revision ? (
          <span className="block text-[13px] text-ochre">the book has changed since</span>
        ) : null}
      </td>
      <td className="px-3 py-3.5">{product && id !== MANUSCRIPT ? <Checks product={product} /> : null}</td>
      <td className="px-3 py-3.5">{product ? <FileOf product={product} /> : null}</td>
      <td className="px-3 py-2.5 text-right">
        {working && job ? (
          <span className="inline-flex flex-wrap items-center justify-end gap-3">
            <Progress stage={job.stage} share={job.share} />
            <Button onClick={() => void fetch(`/api/jobs/${job.id}`, { method: 'DELETE' })}>Stop</Button>
          </span>
        ) : (
          // Below a name of its own row the short word says enough; whoever hears it alone hears of what.
          <Button
            kind={product || aside ? 'plain' : 'primary'}
            aria-label={product ? `Make again: the ${called}` : undefined}
            onClick={() => void session.make(id)}
          >
            {product ? 'Make again' : `Make the ${called}`}
          </Button>
        )}
        <Ended job={job} />
      </td>
    </tr>
  );
}

/** What the printer is to know: the paper, and the standard that the file keeps to. */
function Printing({ edition }: { edition: Edition }) {
  const { session } = useTitle();
  const set = (label: string, fields: Partial<Edition>): void =>
    void session.change({
      type: 'group',
      label,
      changes: [{ type: 'set-edition', id: edition.id, fields }],
    });
  const select = 'h-7 max-w-full rounded-[2px] border border-edge bg-sheet px-1 text-[13px]';
  return (
    <span className="mt-1 flex flex-col items-start gap-1">
      <select
        aria-label={`Paper of the ${edition.name.toLowerCase()}`}
        className={select}
        value={paperOf(edition.paper).id}
        onChange={(e) => set('Change the paper', { paper: e.target.value })}
      >
        {PAPERS.map((p) => (
          <option key={p.id} value={p.id}>
            {p.name}
          </option>
        ))}
      </select>
      <select
        aria-label={`Standard of the printer’s PDF of the ${edition.name.toLowerCase()}`}
        className={select}
        value={edition.standard}
        onChange={(e) =>
          set('Change the standard of the printer’s PDF', {
            standard: e.target.value as Edition['standard'],
          })
        }
      >
        {STANDARDS.map(([value, name]) => (
          <option key={value} value={value}>
            {name}
          </option>
        ))}
      </select>
    </span>
  );
}

function Ended({ job }: { job: Job | undefined }) {
  if (job?.state === 'failed')
    return (
      <p role="alert" className="mt-1 max-w-80 text-left text-[13px] text-rubric">
        {job.error}
      </p>
    );
  if (job?.state === 'stopped')
    return <p className="mt-1 text-[13px] text-ink-soft">Stopped. Nothing was made.</p>;
  return null;
}

function Checks({ product }: { product: Product }) {
  const { goTo } = useTitle();
  const router = useRouter();
  const lead = (f: Finding): void => {
    if (!f.place) return;
    goTo(f.place);
    router.push('manuscript');
  };
  if (product.findings.length === 0) return <span className="text-spruce">✓ nothing found</span>;
  return (
    <ul className="max-w-96 space-y-1">
      {product.findings.slice(0, 8).map((f, i) => (
        <li key={i}>
          <SeverityMark severity={f.severity} />{' '}
          {f.place ? (
            <button type="button" className="text-left underline" onClick={() => lead(f)}>
              {f.message}
            </button>
          ) : (
            f.message
          )}
          {f.remedy ? <span className="block text-[13px] text-ink-soft">{f.remedy}</span> : null}
        </li>
      ))}
      {product.findings.length > 8 ? (
        <li className="text-ink-soft">and {product.findings.length - 8} more</li>
      ) : null}
    </ul>
  );
}
