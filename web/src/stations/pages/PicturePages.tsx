'use client';
/** Pages laid out one by one: a table of them, the spread that is worked on, and the settings of what is pointed at. */
import { useRouter } from 'next/navigation';
import type { Node } from 'prosemirror-model';
import { useEffect, useMemo, useState, type ReactNode } from 'react';
import {
  isPictured,
  kindRule,
  layoutOf,
  LEAST_SIDE,
  PAGE_LAYOUTS,
  pageAttrs,
  type Frame,
  type PageLayout,
  type Section,
} from '@pagina/core/book';
import {
  addAtItsPlace,
  captionsListedBy,
  hasText,
  headingsOf,
  isFromRecord,
  makesIndex,
  recordWords,
} from '@pagina/core/order';
import { useBook, useComposed, useTitle } from '@/title/context';
import { shortId } from '@/title/ids';
import { PICTURES } from '@/title/pictures';
import { Button, ToggleButton } from '@/ui/Button';
import { DropSurface, FileButton } from '@/ui/FileDrop';
import { Select } from '@/ui/Select';
import { Toolbar, ToolbarLine } from '@/ui/Toolbar';
import { act } from '../order/actions';
import { useSelection } from '../order/selection';
import { LAYOUT_NAMES, pageFacts } from './facts';
import { PageTable } from './PageTable';
import { Panel } from './Panel';
import { SpreadView, type Part } from './SpreadView';
import { usePageWork } from './work';

/** A section that has picture pages, or is to have some. */
const isOfPages = (s: Section): boolean => s.kind === 'picture-pages' || isPictured(s.content);
/** Pages that list the others have no words of their own to lay out. */
const canBeLaidOut = (s: Section): boolean =>
  s.kind !== 'contents' && !makesIndex(s) && captionsListedBy(s) === null;

export function PicturePages() {
  const { book } = useBook();
  const { session, place } = useTitle();
  const sections = book.sections.filter(isOfPages);
  const others = book.sections.filter((s) => !isOfPages(s) && canBeLaidOut(s));
  const [chosen, setChosen] = useState<string | null>(null);
  useEffect(() => {
    if (place && book.sections.some((s) => s.id === place.section && canBeLaidOut(s)))
      setChosen(place.section);
    // Only when another place is gone to.
  }, [place]);
  const section =
    [...sections, ...others].find((s) => s.id === chosen) ??
    sections.find((s) => s.kind === 'picture-pages') ??
    sections[0];
  const headings = useMemo(() => headingsOf(book.sections, book), [book]);
  if (!section)
    return (
      <Empty>
        <p>
          This book has no picture pages. They are laid out one by one, each with a picture and words where
          you put them.
        </p>
        <Button
          kind="primary"
          onClick={() => void act(session, (b) => addAtItsPlace(b, 'picture-pages', () => `s${shortId()}`))}
        >
          Add picture pages
        </Button>
        <p className="text-[13px] text-ink-soft">
          To lay out text that is already here, choose “Picture pages” as its kind in the running order.
        </p>
      </Empty>
    );
  const named = (group: string) => (s: Section) => ({
    value: s.id,
    name: headings.get(s.id)?.label || kindRule(s.kind).label,
    group,
  });
  const sectionPicker = (
    <Select
      label="Section"
      className="h-7 w-44"
      value={section.id}
      choices={[...sections.map(named('Picture pages')), ...others.map(named('Running text'))]}
      onChoose={setChosen}
    />
  );
  if (!isPictured(section.content)) return <FromText section={section} picker={sectionPicker} />;
  return <Layouts key={section.id} section={section} picker={sectionPicker} />;
}

function Empty({ children }: { children: ReactNode }) {
  return <div className="flex max-w-xl flex-col items-start gap-4 p-8">{children}</div>;
}

function FromText({ section, picker }: { section: Section; picker: ReactNode }) {
  const { book, edition } = useBook();
  const work = usePageWork(section.id);
  const made = isFromRecord(section, book.record);
  const layOut = (): void => {
    const of = book.editions.find((e) => e.id === edition);
    void work.fromText(made && of ? recordWords(section, book, of, () => `k${shortId()}`) : undefined);
  };
  return (
    <Empty>
      {picker}
      <p>
        {made || hasText(section.content)
          ? 'This section is running text. Laid out as picture pages, each stretch between breaks becomes a page; without breaks, each paragraph does. No word is lost, and Undo brings the text back.'
          : 'This section has no text and no pages yet.'}
      </p>
      <Button kind="primary" onClick={layOut}>
        Lay out as picture pages
      </Button>
    </Empty>
  );
}

/** Whether a block is a page, or stands on it. */
function holds(page: Node, block: string): boolean {
  let found = page.attrs.id === block;
  page.descendants((n) => void (found ||= n.attrs.id === block));
  return found;
}

/** Where words that are added to a page stand first. */
function placeForWords(node: Node): Frame {
  const { across, picture } = pageAttrs(node);
  const first = layoutOf(picture === '' ? 'words' : 'over', across).words;
  const taken = node.childCount;
  const height = Math.min(first[3], 200);
  const y = Math.min(first[1] + taken * 60, 1000 - Math.max(height, LEAST_SIDE));
  return [first[0], y, first[2], height];
}

function Layouts({ section, picker }: { section: Section; picker: ReactNode }) {
  const { book } = useBook();
  const { place, goTo } = useTitle();
  const { composed, refusal } = useComposed();
  const router = useRouter();
  const work = usePageWork(section.id);
  const facts = useMemo(() => pageFacts(section.content, section.id, composed), [section, composed]);
  const order = useMemo(() => facts.map((f) => f.id), [facts]);
  const selection = useSelection(order);
  const [part, setPart] = useState<Part | null>(null);
  const [fresh, setFresh] = useState<string | null>(null);
  const [cropping, setCropping] = useState(true);
  const [safe, setSafe] = useState(true);
  const here = facts.find((f) => f.id === selection.at) ?? facts[0];
  const ids = selection.ids.length > 0 ? selection.ids : here ? [here.id] : [];
  const choose = (id: string): void => {
    selection.choose(id);
    setPart(null);
  };
  useEffect(() => {
    if (!place || place.section !== section.id) return;
    const wanted = facts.find(
      (f) =>
        (place.page !== undefined && f.pages.includes(place.page)) ||
        (place.block !== undefined && holds(f.node, place.block)),
    );
    if (wanted) choose(wanted.id);
    // Only when another place is gone to.
  }, [place]);
  useEffect(() => setPart(null), [here?.id]);
  if (!here) return null;
  const { picture } = pageAttrs(here.node);
  const known = book.pictures.find((p) => p.id === picture);
  const layouts = new Set(ids.map((id) => facts.find((f) => f.id === id)?.layout ?? null));
  const drop = (files: File[]): void =>
    void work.addWith(
      here.id,
      files.filter((f) => f.type.startsWith('image/')),
    );
  const tool = 'h-7 px-2';
  return (
    <div className="flex h-full flex-col">
      <Toolbar label="Picture pages" className="gap-x-1 bg-table">
        {picker}
        <Button className={tool} onClick={() => void work.add(ids.at(-1) ?? null)}>
          Add a page
        </Button>
        <FileButton
          label="Files of pictures, a page for each"
          kind="quiet"
          className={tool}
          several
          endings={PICTURES}
          onFiles={drop}
        >
          Pages from pictures
        </FileButton>
        <ToolbarLine />
        <Select<PageLayout>
          label="Layout"
          className="h-7 w-44"
          value={layouts.size === 1 ? ([...layouts][0] ?? null) : null}
          placeholder={layouts.size === 1 ? 'Own layout' : 'Several layouts'}
          choices={PAGE_LAYOUTS.map((value) => ({ value, name: LAYOUT_NAMES[value] }))}
          onChoose={(layout) => void work.layOut(ids, layout)}
        />
        <Button
          kind="quiet"
          className={tool}
          onClick={() =>
            void work.addBox(here.id, placeForWords(here.node)).then((box) => {
              setFresh(box);
              if (box) setPart({ box });
            })
          }
        >
          Add words
        </Button>
        <ToolbarLine />
        <Button kind="quiet" className={tool} tip="Ctrl+D" onClick={() => void work.duplicate(ids)}>
          Duplicate
        </Button>
        <Button kind="quiet" className={tool} tip="Delete" onClick={() => void work.remove(ids)}>
          Delete
        </Button>
        <span className="ml-auto" />
        <ToggleButton
          className={tool}
          pressed={safe}
          onToggle={() => setSafe(!safe)}
          tip="Words outside it may be cut off or lost in the fold"
        >
          Safe area
        </ToggleButton>
        <Button
          kind="quiet"
          className={tool}
          onClick={() => {
            goTo({ section: section.id });
            router.push('manuscript');
          }}
        >
          As text
        </Button>
      </Toolbar>
      <DropSurface onFiles={drop} className="flex min-h-0 flex-1">
        <div className="w-[400px] shrink-0 border-r border-edge max-[1199px]:w-[320px]">
          <PageTable
            facts={facts}
            selection={{ ...selection, at: here.id, ids, chosen: new Set(ids) }}
            work={work}
            composed={composed}
          />
        </div>
        <div className="flex min-w-0 flex-1 flex-col">
          {refusal ? <p className="p-6 text-rubric">{refusal}</p> : null}
          {composed && here.pages.length > 0 ? (
            <SpreadView
              composed={composed}
              facts={facts}
              here={here}
              part={part}
              onPart={setPart}
              onPage={choose}
              cropping={cropping}
              safe={safe}
              picture={known}
              onFrame={(p, frame) =>
                void work.set([p === 'picture' ? here.id : p.box], 'Move on the page', { frame })
              }
              onCrop={(crop) => void work.set([here.id], 'Crop the picture', { crop })}
            />
          ) : (
            <p className="flex-1 p-6 text-ink-soft">
              {composed ? 'The chosen edition leaves these pages out.' : 'Setting the pages …'}
            </p>
          )}
          <section
            aria-label="Settings"
            className="h-[216px] shrink-0 overflow-auto border-t border-edge bg-sheet px-4 py-3"
          >
            <Panel
              section={section.id}
              facts={here}
              part={part}
              work={work}
              cropping={cropping}
              onCropping={setCropping}
              onPart={setPart}
              fresh={fresh}
            />
          </section>
        </div>
      </DropSurface>
    </div>
  );
}
