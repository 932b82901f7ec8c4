'use client';
/** The proof of an ebook: the very file that was made, read as its readers do. */
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { format } from 'date-fns';
import { inSentence } from '@pagina/core/base';
import { productKeyOf, type Edition, type Section } from '@pagina/core/book';
import { idIn } from '@pagina/core/epub';
import { OUTLETS } from '@pagina/core/outlets';
import { openComments, type Comment } from '@pagina/core/proof';
import type { Product } from '@pagina/data';
import { Reader } from '@/reader/Reader';
import { openSource, textsOf, type DocumentText, type EbookSource } from '@/reader/source';
import { Ended } from '@/stations/editions/Ended';
import { useBook, useComposed, useTitle } from '@/title/context';
import { Button, ToggleButton } from '@/ui/Button';
import { Panes } from '@/ui/Panes';
import { Progress } from '@/ui/Progress';
import { Select } from '@/ui/Select';
import { CommentsPane } from './CommentsPane';
import { ReadingPane } from './ReadingPane';
import { useChanges } from './useChanges';
import { useFileImpression, useProofing } from './useProofing';

const nameOf = (p: Product): string => {
  const { outlet } = productKeyOf(p.edition);
  const whose = OUTLETS.find((o) => o.id === outlet)?.name;
  return `Made ${format(p.madeAt, 'd MMM, HH:mm')}${whose ? ` for ${whose}` : ''}`;
};

export function EbookProof({ edition }: { edition: Edition }) {
  const { session } = useTitle();
  const { products, revision, jobs } = useBook();
  const files = useMemo(
    () =>
      products.filter((p) => {
        const key = productKeyOf(p.edition);
        return key.edition === edition.id && (key.form === 'whole' || key.form === 'outlet');
      }),
    [products, edition.id],
  );
  const [chosen, setChosen] = useState<string | null>(null);
  const file = files.find((p) => p.id === chosen) ?? files[0];
  const last = jobs.find((j) => (j.payload as { edition?: string }).edition === edition.id);
  const job = last && (last.state === 'queued' || last.state === 'running') ? last : null;
  const called = inSentence(edition.name);
  if (!file)
    return (
      <div className="space-y-4 p-8">
        <p className="max-w-prose">
          The {called} hasn’t been made yet. Once it is, you can read it here as it looks on a phone, an
          e-paper reader or a tablet.
        </p>
        {job ? (
          <Progress stage={job.stage} share={job.share} />
        ) : (
          <Button kind="primary" onClick={() => void session.make(edition.id)}>
            Make the {called}
          </Button>
        )}
        <Ended job={last} />
      </div>
    );
  return (
    <Opened
      key={file.sha256}
      file={file}
      edition={edition}
      below={
        <>
          <Select
            label="File"
            className="h-7 w-52"
            value={file.id}
            choices={files.map((p) => ({ value: p.id, name: nameOf(p) }))}
            onChoose={setChosen}
          />
          {job ? (
            <Progress stage={job.stage} share={job.share} />
          ) : file === files[0] && file.upTo < revision ? (
            <>
              <span className="text-ochre">The book has changed since.</span>
              <Button className="h-7 px-2" onClick={() => void session.make(edition.id)}>
                Make again
              </Button>
              <Ended job={last} />
            </>
          ) : null}
        </>
      }
    />
  );
}

interface Place {
  path: string;
  offset: number;
}
function keptPlace(key: string): Place | null {
  try {
    const kept = JSON.parse(localStorage.getItem(key) ?? 'null') as Place | null;
    return kept && typeof kept.path === 'string' && typeof kept.offset === 'number' ? kept : null;
  } catch {
    return null;
  }
}

function idsOf(section: Section | undefined): string[] {
  const ids: string[] = [];
  section?.content.descendants((n) => {
    if (n.attrs.id) ids.push(idIn(n.attrs.id as string));
  });
  return ids;
}

/** The place that was gone to last: one comes back to where one has read on from there. */
let followed: object | null = null;

function Opened({ file, edition, below }: { file: Product; edition: Edition; below: ReactNode }) {
  const { session, place, setCursor } = useTitle();
  const { book } = useBook();
  const { composed } = useComposed();
  const [source, setSource] = useState<EbookSource | null>(null);
  const [trouble, setTrouble] = useState('');
  const [texts, setTexts] = useState<DocumentText[] | null>(null);
  const key = `reading-place/${session.id}/${edition.id}`;
  useEffect(() => {
    let gone = false;
    void (async () => {
      const opened = await openSource(`/api/files/${file.sha256}/ebook/`);
      if (gone) return;
      setSource(opened);
      const read = await textsOf(opened, () => gone);
      if (!gone) setTexts(read);
    })().catch((e: Error) => setTrouble(e.message));
    return () => {
      gone = true;
    };
  }, [file.sha256]);
  const [sought, setSought] = useState<readonly string[] | null>(null);
  const current = useRef(book);
  current.current = book;
  useEffect(() => {
    if (!place || place === followed) return;
    followed = place;
    const section = current.current.sections.find((s) => s.id === place.section);
    setSought(place.block ? [idIn(place.block)] : idsOf(section));
  }, [place]);
  const pageOf = useMemo(() => {
    const pages = new Map<string, number>();
    for (const [block, [page]] of Object.entries(composed?.places ?? {})) pages.set(idIn(block), page);
    return pages;
  }, [composed]);
  const proofing = useProofing(edition.id);
  const impression = useFileImpression(file);
  const changes = useChanges(edition.id, impression, file.sha256);
  const [pane, setPane] = useState<'reading' | 'comments' | null>(null);
  const [path, setPath] = useState('');
  const [goal, setGoal] = useState<{ path: string } | null>(null);
  const here = impression?.views.findIndex((v) => v.path === path) ?? -1;
  const view = impression?.views[here];
  const isRead = view !== undefined && proofing.read.has(view.mark);
  const open = openComments(proofing.comments, edition.id);
  const pathOf = (c: Comment): string | null =>
    impression?.views.some((v) => v.path === c.about.path) ? c.about.path : null;
  const toggle = (value: 'reading' | 'comments', name: string) => (
    <ToggleButton
      className="h-7 px-2"
      pressed={pane === value}
      onToggle={() => setPane(pane === value ? null : value)}
    >
      {name}
    </ToggleButton>
  );
  if (trouble) return <p className="p-8 text-rubric">{trouble}</p>;
  if (!source) return <p className="p-8 text-ink-soft">Opening the ebook …</p>;
  if (source.order.documents.length === 0)
    return <p className="p-8 text-rubric">There is nothing to read in this file: its spine is empty.</p>;
  return (
    <Panes
      name="proofing"
      width={340}
      beside={
        pane === 'reading' ? (
          <ReadingPane
            what="section"
            edition={edition}
            proofing={proofing}
            now={impression}
            changes={changes}
            here={[here]}
            onGo={(m) => m.now !== null && setGoal({ path: impression?.views[m.now]?.path ?? '' })}
            onClose={() => setPane(null)}
          />
        ) : pane === 'comments' ? (
          <CommentsPane
            what="section"
            draftKey={`comment-draft/${session.id}/${edition.id}`}
            proofing={proofing}
            about={
              view
                ? {
                    mark: view.mark,
                    label: view.label.slice(0, 200),
                    path: view.path,
                    quote: '',
                    place: null,
                  }
                : null
            }
            onWhole={() => undefined}
            labelOf={(c) => impression?.views.find((v) => v.path === pathOf(c))?.label ?? null}
            onGo={(c) => setGoal({ path: pathOf(c) ?? '' })}
            onClose={() => setPane(null)}
          />
        ) : null
      }
    >
      <Reader
        source={source}
        texts={texts}
        start={keptPlace(key)}
        sought={sought}
        goal={goal}
        onPlace={(now) => {
          setPath(now.path);
          localStorage.setItem(key, JSON.stringify(now));
          const ids = [...(texts?.find((t) => t.path === now.path)?.ids ?? [])].filter(([id]) =>
            pageOf.has(id),
          );
          const at = ids.findLast(([, offset]) => offset <= now.offset) ?? ids[0];
          const page = at && pageOf.get(at[0]);
          if (page !== undefined) setCursor(page);
        }}
        below={
          <>
            {below}
            {impression ? (
              <>
                <ToggleButton
                  className="h-7 px-2"
                  pressed={isRead}
                  disabled={!view || !proofing.known}
                  onToggle={() => {
                    if (view) void proofing.mark([view.mark], !isRead);
                  }}
                  tip={isRead ? 'Marks this section as unread again' : 'Marks this section as read'}
                >
                  {isRead ? 'Marked as read' : 'Mark as read'}
                </ToggleButton>
                {toggle('comments', open.length > 0 ? `Comments, ${open.length}` : 'Comments')}
                {toggle('reading', 'Sign-off')}
              </>
            ) : null}
          </>
        }
      />
    </Panes>
  );
}
