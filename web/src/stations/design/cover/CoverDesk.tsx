'use client';
/** The cover's sheet as it will be printed: back, spine and front, drawn by the engine that makes the file. */
import { useEffect, useMemo, useState } from 'react';
import { coverOf, shownBy, templateOf, type CoverPlan } from '@pagina/core/book';
import type { CoverPart } from '@pagina/core/cover';
import { paperOf } from '@pagina/core/trade';
import { useBook, useComposed, useTitle } from '@/title/context';
import { useLengths } from '@/title/lengths';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/Checkbox';
import { Panes } from '@/ui/Panes';
import { ScrollArea } from '@/ui/ScrollArea';
import { TabView } from '@/ui/Tabs';
import { Tip } from '@/ui/Tip';
import { Toolbar } from '@/ui/Toolbar';
import { Progress } from '@/ui/Progress';
import { SeverityMark } from '@/ui/SeverityMark';
import { FileLink } from '@/ui/FileOf';
import type { CoverShown } from '@/workers/messages';
import { Sides } from '../Sides';
import { CoverPanel } from './CoverPanel';
import { Guides } from './Guides';

const NAMES: Record<CoverPart, string> = {
  front: 'Front',
  title: 'Title',
  author: 'Author',
  spine: 'Spine',
  back: 'Back text',
  life: 'Author biography',
  portrait: 'Portrait',
  device: 'Device',
  barcode: 'Barcode',
};

export function CoverDesk() {
  const { session, composer } = useTitle();
  const { book, edition: chosen, jobs, products, revision } = useBook();
  const { composed, refusal } = useComposed();
  const [target, setTarget] = useState<CoverPart>('front');
  const [guides, setGuides] = useState(true);
  const [shown, setShown] = useState<CoverShown | null>(null);
  const [trouble, setTrouble] = useState('');
  const edition = shownBy(book, chosen);
  const pages = composed && composed.edition === edition?.id ? composed.pages.length : 0;
  const asked = useMemo(
    () => {
      const { sections: _, ...rest } = book;
      return rest;
    },
    // Typing in the text does not change the cover.
    [book.cover, book.record, book.pictures, book.editions],
  );
  useEffect(() => {
    if (!edition || pages === 0) return;
    let newest = true;
    void composer.cover({ book: asked, edition: edition.id, pages }).then((c) => {
      if (!newest) return;
      setTrouble('message' in c ? c.message : '');
      if (!('message' in c)) setShown(c);
    });
    return () => void (newest = false);
  }, [composer, asked, edition?.id, pages]);
  const { say } = useLengths();
  const set = (fields: Partial<CoverPlan>, label: string): void =>
    void session.change({ type: 'group', label, changes: [{ type: 'set-cover', fields }] });
  if (!edition)
    return <p className="p-6">This book has no print edition yet. Add one in Editions to give it a cover.</p>;
  const job = jobs.find((j) =>
    [coverOf(edition.id), templateOf(edition.id)].includes((j.payload as { edition?: string }).edition ?? ''),
  );
  const working = job && (job.state === 'queued' || job.state === 'running');
  const g = shown?.geometry;
  const made = products.find(
    (p) => p.edition === coverOf(edition.id) || p.edition === templateOf(edition.id),
  );
  return (
    <div className="flex h-full flex-col">
      <Toolbar label="Cover" className="gap-x-3">
        <Sides />
        {g ? (
          <Tip words={`${paperOf(edition.paper).name}; the sheet with its bleed`}>
            <span
              className="text-[13px] whitespace-nowrap text-ink-soft"
              data-spine={Math.round(g.spine.width)}
              tabIndex={0}
            >
              {pages} pages · spine {say(g.spine.width)} · sheet {say(g.width, g.height)}
            </span>
          </Tip>
        ) : null}
        {made && !working ? (
          <span className="truncate text-[13px]">
            <FileLink product={made} />
            {made.upTo < revision ? <span className="text-ochre"> from before the last change</span> : null}
          </span>
        ) : null}
        {job?.state === 'failed' ? (
          <span role="alert" className="truncate text-[13px] text-rubric">
            {job.error}
          </span>
        ) : null}
        <span className="ml-auto" />
        <Checkbox label="Guides" on={guides} onSet={setGuides} />
        {working ? (
          <Progress stage={job.stage} share={job.share} />
        ) : (
          <>
            <Button className="h-7" onClick={() => void session.make(templateOf(edition.id))}>
              Make an empty sheet
            </Button>
            <Button kind="primary" className="h-7" onClick={() => void session.make(coverOf(edition.id))}>
              Make the cover
            </Button>
          </>
        )}
      </Toolbar>
      <TabView of="cover">
        <Panes
          name="cover"
          width={340}
          beside={
            <ScrollArea label="Settings of the cover" className="flex-1">
              <CoverPanel target={target} names={NAMES} onTarget={setTarget} onSet={set} />
            </ScrollArea>
          }
        >
          <div
            className="flex min-h-0 flex-1 flex-col gap-3 overflow-auto bg-table p-4"
            role="region"
            aria-label="The cover’s sheet"
            tabIndex={0}
          >
            {trouble || refusal ? <p className="text-rubric">{trouble || refusal}</p> : null}
            {!shown && !trouble && !refusal ? (
              <p className="text-ink-soft">Counting the pages for the spine …</p>
            ) : null}
            {shown && g ? (
              <>
                <figure
                  className="relative mx-auto min-h-0 flex-1"
                  style={{ aspectRatio: `${g.width} / ${g.height}`, maxWidth: '100%' }}
                  aria-label={`Cover of ${book.record.title || 'the book'}: back, spine and front`}
                >
                  {/* Drawn by our own engine; all words in it are outlines, and addresses are escaped. */}
                  <div
                    className="absolute inset-0 [&>svg]:h-full [&>svg]:w-full"
                    aria-hidden
                    dangerouslySetInnerHTML={{ __html: shown.svg }}
                  />
                  {guides ? <Guides geometry={g} /> : null}
                  {shown.parts.map((p, i) => (
                    <button
                      key={`${p.part}${i}`}
                      type="button"
                      aria-label={NAMES[p.part]}
                      aria-pressed={target === p.part}
                      className={`absolute min-h-6 min-w-6 border ${target === p.part ? 'border-spruce' : 'border-transparent hover:border-spruce/60'}`}
                      style={{
                        left: `${(p.x / g.width) * 100}%`,
                        top: `${(p.y / g.height) * 100}%`,
                        width: `${(p.width / g.width) * 100}%`,
                        height: `${(p.height / g.height) * 100}%`,
                      }}
                      onClick={() => setTarget(p.part)}
                    />
                  ))}
                </figure>
                {shown.findings.length > 0 ? (
                  <ul aria-label="Found on the cover" className="space-y-1">
                    {shown.findings.map((f) => (
                      <li key={f.rule + f.message}>
                        <SeverityMark severity={f.severity} /> {f.message}{' '}
                        <span className="text-ink-soft">{f.remedy}</span>
                      </li>
                    ))}
                  </ul>
                ) : null}
              </>
            ) : null}
          </div>
        </Panes>
      </TabView>
    </div>
  );
}
