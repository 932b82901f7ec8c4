'use client';
/** Editions: a row each, what was made of it and when, what the checks said. Making shows stage and share and can be stopped. */
import { useMemo } from 'react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { format } from 'date-fns';
import { inSentence, type Finding } from '@pagina/core/base';
import {
  coverOf,
  editionOf,
  forOutlet,
  forScreen,
  isFixed,
  isPrint,
  isSample,
  placingAt,
  productKeyOf,
  attachedTo,
  MANUSCRIPT,
  printOf,
  templateOf,
  type Edition,
} from '@pagina/core/book';
import { linksToShops, OUTLETS, sellsEbooks } from '@pagina/core/outlets';
import { paperOf, spineWidth } from '@pagina/core/trade';
import type { Product } from '@pagina/data';
import { useBook, useComposed, useTitle } from '@/title/context';
import { useLengths } from '@/title/lengths';
import { concerns } from '@/title/findings';
import { Button } from '@/ui/Button';
import { Progress } from '@/ui/Progress';
import { SeverityMark } from '@/ui/SeverityMark';
import { FileOf } from '@/ui/FileOf';
import { PrintChoices } from './PrintChoices';
import { AccessOf } from './AccessOf';
import { AddEdition, EditionMenu } from './EditionActions';
import { ATTACHED, AttachedActions, Outgrown } from './Attached';
import { EbookChoices } from './EbookChoices';
import { FixedChoices } from './FixedChoices';
import { SampleChoices } from './SampleChoices';
import { SizeOf } from './SizeOf';
import { sentTo } from './EarlierFiles';
import { AllFiles, MakeAll } from './Whole';
import { Ended } from './Ended';
import { Table, type Column } from '@/ui/Table';
import { Tip } from '@/ui/Tip';

/** Millipoints in a millimetre. */
interface Aside {
  id: string;
  name: string;
  /** In short, on the button. */
  called: string;
  form: string;
}
/** What else is made of an edition: of a print one its cover and a file for the screen, of an ebook with links one an outlet. */
function besidesOf(e: Edition, linked: boolean): Aside[] {
  if (isPrint(e))
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
  // Links to shops are written in flowing text alone.
  if (!linked || isFixed(e)) return [];
  return OUTLETS.filter(sellsEbooks).map((o) => ({
    id: forOutlet(e.id, o.id),
    name: `For ${o.name}`,
    called: `${inSentence(e.name)} for ${o.name}`,
    form: `Its links to books lead to ${o.name}`,
  }));
}

/** Characters of a name above which it does not go onto the button. */
const LONG_NAME = 16;

const formOf = (e: Edition): string =>
  isPrint(e)
    ? `Print, ${e.trim}`
    : { sample: 'Sample of an ebook', fixed: 'Fixed-layout ebook', reflow: 'Reflowable ebook' }[e.form];

/** A row: an edition, or what else is made of one. */
interface Line {
  id: string;
  name: string;
  isbn: string;
  form: string;
  /** In short, on the button. */
  called: string;
  /** Pages as it stands now; null where it has none, or they are not known. */
  pages: number | null;
}

const COLUMNS: Column<Line>[] = [
  {
    id: 'edition',
    name: 'Edition',
    width: '136px',
    heads: true,
    cell: (l) => <Name line={l} />,
    className: 'py-3',
  },
  {
    id: 'isbn',
    name: 'ISBN',
    width: '130px',
    cell: (l) => <Isbn line={l} />,
    className: 'py-3.5 whitespace-nowrap',
  },
  { id: 'form', name: 'Form', width: '190px', cell: (l) => <Form line={l} />, className: 'py-3.5' },
  { id: 'pages', name: 'Pages', width: '86px', cell: (l) => <Pages line={l} />, className: 'py-3.5' },
  { id: 'made', name: 'Made', width: '122px', cell: (l) => <Made line={l} />, className: 'py-3.5' },
  { id: 'checks', name: 'Checks', cell: (l) => <Checked line={l} />, className: 'py-3.5' },
  { id: 'file', name: 'File', width: '156px', cell: (l) => <MadeFile line={l} />, className: 'py-3.5' },
  {
    id: 'actions',
    name: 'Actions',
    silent: true,
    right: true,
    width: '204px',
    cell: (l) => <Make line={l} />,
    // In a narrow window the others are scrolled beneath it.
    className: 'sticky right-0 bg-sheet py-2.5',
  },
];

export function Editions() {
  const { book, products, jobs } = useBook();
  const { composed } = useComposed();
  const lines = useMemo((): Line[] => {
    // A file made elsewhere has a row while it is there, or on its way.
    const hasFile = (id: string): boolean =>
      products.some((p) => p.edition === id) ||
      ['queued', 'running', 'failed'].includes(
        jobs.find((j) => j.kind === 'attach' && (j.payload as { edition?: string }).edition === id)?.state ??
          '',
      );
    return [
      ...book.editions.flatMap((e) => [
        {
          id: e.id,
          name: e.name,
          isbn: e.isbn,
          form: formOf(e),
          called: inSentence(e.name),
          pages: isPrint(e) && composed?.edition === e.id ? composed.pages.length : null,
        },
        ...besidesOf(e, linksToShops(book, e.id)).map((aside) => ({ ...aside, isbn: '', pages: null })),
        ...(isPrint(e) ? ATTACHED : [])
          .map((a) => ({ ...a, id: attachedTo(e.id, a.what), isbn: '', pages: null }))
          .filter((a) => hasFile(a.id)),
      ]),
      {
        id: MANUSCRIPT,
        name: 'Manuscript',
        called: 'manuscript',
        isbn: '',
        form: 'For a word processor (.docx)',
        pages: null,
      },
      ...OUTLETS.filter((o) => o.sells.includes('word'))
        .map((o) => ({
          id: forOutlet(MANUSCRIPT, o.id),
          name: `For ${o.name}`,
          called: `manuscript for ${o.name}`,
          isbn: '',
          form: `The ebook’s text, its links to books lead to ${o.name} (.docx)`,
          pages: null,
          chosen: placingAt(book, o.id).chosen,
        }))
        .filter((line) => line.chosen || hasFile(line.id)),
    ];
  }, [book, composed, products, jobs]);
  return (
    <div className="h-full overflow-auto bg-sheet" tabIndex={0} role="region" aria-label="Editions">
      <div
        className="flex items-center border-b border-rule px-4 py-1.5"
        role="toolbar"
        aria-label="Editions"
      >
        <AddEdition />
        <MakeAll />
        <AllFiles />
      </div>
      <Table
        label="Editions"
        className="min-w-[1180px]"
        columns={COLUMNS}
        rows={lines}
        keyOf={(l) => l.id}
        attributesOf={(l) => ({ 'data-edition': l.id, className: 'border-b border-rule align-top' })}
      />
    </div>
  );
}

/** Files for those who make the book, which are no editions of their own. */
const isAside = (id: string): boolean => {
  const key = productKeyOf(id);
  return key.edition === null || key.form !== 'whole';
};
const useProduct = (id: string): Product | undefined => useBook().products.find((p) => p.edition === id);

function Name({ line }: { line: Line }) {
  const edition = editionOf(useBook().book, line.id);
  return (
    <>
      <span className={`font-serif ${isAside(line.id) ? 'block pl-4 text-[15px]' : 'text-[18px]'}`}>
        {line.name}
      </span>
      {edition?.purpose ? <span className="block text-[13px] text-ink-soft">{edition.purpose}</span> : null}
    </>
  );
}

function Isbn({ line }: { line: Line }) {
  return line.isbn || (isAside(line.id) ? null : <span className="text-ink-soft">none</span>);
}

function Form({ line }: { line: Line }) {
  const edition = editionOf(useBook().book, line.id);
  return (
    <>
      {line.form}
      {!edition ? null : isPrint(edition) ? (
        <PrintChoices edition={edition} />
      ) : isSample(edition) ? (
        <SampleChoices edition={edition} />
      ) : isFixed(edition) ? (
        <FixedChoices edition={edition} />
      ) : (
        <EbookChoices edition={edition} />
      )}
    </>
  );
}

function Pages({ line }: { line: Line }) {
  const { say } = useLengths();
  const print = printOf(useBook().book, line.id);
  const product = useProduct(line.id);
  // A cover has one sheet; the pages that made its spine are the book's.
  const counts = print || /screen|attached-pages/.test(productKeyOf(line.id).form);
  const count = counts ? (line.pages ?? product?.pages ?? 0) : 0;
  return (
    <>
      {count || ''}
      {print && count ? (
        <Tip
          words={`Half the number of pages times the paper’s caliper${print.binding === 'hardback' ? ', and the two boards' : ''}`}
        >
          <span className="block text-[13px] whitespace-nowrap text-ink-soft" tabIndex={0}>
            spine {say(spineWidth(count, paperOf(print.paper), print.binding))}
          </span>
        </Tip>
      ) : null}
    </>
  );
}

function Made({ line }: { line: Line }) {
  const { revision, products } = useBook();
  const signed = products.find((p) => p.edition === line.id && p.signedOffAt !== null);
  const product = useProduct(line.id);
  if (!product) return <span className="whitespace-nowrap text-ink-soft">not yet</span>;
  return (
    <>
      {format(product.madeAt, 'd MMM yyyy, HH:mm')}
      {!product.fit && product.upTo < revision ? (
        <span className="block text-[13px] text-ochre">the book has changed since</span>
      ) : null}
      {product.signedOffAt !== null ? (
        <span className="block text-[13px] text-spruce">
          signed off {format(product.signedOffAt, 'd MMM, HH:mm')}
        </span>
      ) : signed ? (
        <span className="block text-[13px] text-ink-soft">an earlier file is signed off</span>
      ) : null}
    </>
  );
}

function Checked({ line }: { line: Line }) {
  const product = useProduct(line.id);
  return product && productKeyOf(line.id).edition !== null ? (
    <>
      {product.fit ? <Outgrown product={product} /> : null}
      <Checks product={product} />
    </>
  ) : null;
}

function MadeFile({ line }: { line: Line }) {
  const { book } = useBook();
  const edition = editionOf(book, productKeyOf(line.id).edition);
  const product = useProduct(line.id);
  const sent = product && sentTo(product);
  return product ? (
    <>
      <FileOf product={product} />
      {edition && edition.form !== 'print' && productKeyOf(line.id).edition !== null ? (
        <span className="flex flex-wrap">
          <SizeOf product={product} edition={edition} called={line.called} />
          <AccessOf product={product} edition={edition} called={line.called} />
        </span>
      ) : null}
      {sent ? <span className="block text-[13px] text-spruce">the same as was sent to {sent}</span> : null}
    </>
  ) : null;
}

function Make({ line }: { line: Line }) {
  const { edition, form } = productKeyOf(line.id);
  return edition !== null && (form === 'attached-cover' || form === 'attached-pages') ? (
    <AttachedActions of={edition} what={form} />
  ) : (
    <MakeFile line={line} />
  );
}

function MakeFile({ line }: { line: Line }) {
  const { session } = useTitle();
  const { book, jobs } = useBook();
  const edition = editionOf(book, line.id);
  const product = useProduct(line.id);
  const job = jobs.find((j) => (j.payload as { edition?: string }).edition === line.id);
  const working = job !== undefined && (job.state === 'queued' || job.state === 'running');
  return (
    <>
      {working && job ? (
        <span className="inline-flex flex-wrap items-center justify-end gap-3">
          <Progress stage={job.stage} share={job.share} />
          <Button onClick={() => void fetch(`/api/jobs/${job.id}`, { method: 'DELETE' })}>Stop</Button>
        </span>
      ) : (
        // In its own row the short word is enough to see; heard alone, it needs to say what is made.
        <Button
          kind={product || isAside(line.id) ? 'plain' : 'primary'}
          aria-label={product ? `Make again: the ${line.called}` : `Make the ${line.called}`}
          onClick={() => void session.make(line.id)}
        >
          {product
            ? 'Make again'
            : productKeyOf(line.id).form === 'outlet' || line.called.length > LONG_NAME
              ? 'Make'
              : `Make the ${line.called}`}
        </Button>
      )}
      {edition ? <EditionMenu edition={edition} /> : null}
      <Ended job={job} />
    </>
  );
}

function Checks({ product }: { product: Product }) {
  const { goTo } = useTitle();
  const { book, listings } = useBook();
  const router = useRouter();
  const findings = product.findings.filter((f) => concerns(f, book, listings));
  const lead = (f: Finding): void => {
    if (!f.place) return;
    goTo(f.place);
    router.push('manuscript');
  };
  if (findings.length === 0) return <span className="text-spruce">✓ nothing found</span>;
  return (
    <ul className="max-w-96 space-y-1">
      {findings.slice(0, 8).map((f, i) => (
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
      {findings.length > 8 ? (
        <li>
          <Link href="findings" className="text-ink-soft underline">
            and {findings.length - 8} more
          </Link>
        </li>
      ) : null}
    </ul>
  );
}
