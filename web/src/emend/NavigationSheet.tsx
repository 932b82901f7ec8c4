'use client';
/** The lists by which readers find their way. The navigation document and the NCX follow together. */
import { useState } from 'react';
import type { ListName, WantedEntry } from '@pagina/core/emend';
import { Button } from '@/ui/Button';
import { Menu } from '@/ui/Menu';
import { Picker } from '@/ui/Picker';
import { Text } from '@/ui/Text';
import { OneOf } from '@/ui/ToggleGroup';
import { useEbook, useSnapshot } from './context';
import { Sheet } from './Sheet';
import { branchEnd, indented, moved } from './branches';

const LISTS = [
  { value: 'contents', name: 'Contents' },
  { value: 'landmarks', name: 'Landmarks' },
  { value: 'pages', name: 'Page list' },
] as const satisfies readonly { value: ListName; name: string }[];

export function NavigationSheet() {
  const { run, goTo } = useEbook();
  const { view } = useSnapshot();
  const [list, setList] = useState<ListName>('contents');
  const [at, setAt] = useState(0);
  const entries: WantedEntry[] = view[list].map(({ label, path, fragment, depth }, from) => ({
    from,
    label,
    path,
    fragment,
    depth,
  }));
  const save = (next: WantedEntry[]): void => void run({ type: 'list', list, entries: next });
  const change = (i: number, part: Partial<WantedEntry>): void =>
    save(entries.map((e, k) => (k === i ? { ...e, ...part } : e)));
  const targets = view.documents.map((d) => ({
    value: d.path,
    name: `${d.label} (${d.path.split('/').at(-1) ?? ''})`,
  }));
  const end = branchEnd(entries, at);
  const chosen = entries[at];
  return (
    <Sheet
      name="Navigation"
      source={view.navigationPath || view.ncxPath}
      tools={
        <>
          <OneOf label="List" value={list} choices={LISTS} onChoose={setList} />
          {list === 'contents' ? (
            <Menu
              label="From the headings"
              items={[1, 2, 3].map((depth) => ({
                name: depth === 1 ? 'Headings of the first level' : `Headings of ${depth} levels`,
                run: () => void run({ type: 'contents-from-headings', depth }),
              }))}
            />
          ) : null}
        </>
      }
    >
      {entries.length > 0 && list === 'landmarks' && view.version.startsWith('2') ? (
        <div>
          <p className="mb-2 text-ink-soft">
            EPUB 2 keeps these in the guide of its package, whose source can be edited.
          </p>
          <ul aria-label="Landmarks">
            {entries.map((e) => (
              <li key={`${e.path}#${e.fragment} ${e.label}`}>
                {e.label} <span className="text-ink-soft">{e.path}</span>
              </li>
            ))}
          </ul>
        </div>
      ) : entries.length === 0 ? (
        <p className="text-ink-soft">
          {list === 'contents'
            ? 'The ebook has no contents that can be read. They can be made from its headings.'
            : list === 'landmarks'
              ? 'The ebook has no landmarks.'
              : 'The ebook has no list of the pages of a printed edition.'}
        </p>
      ) : (
        <div className="max-w-[980px]">
          <div className="mb-2 flex items-center gap-2">
            <Button
              className="h-7 px-2"
              disabled={!chosen || at === 0}
              onClick={() => {
                const next = moved(entries, at, -1);
                save(next.entries);
                setAt(next.at);
              }}
              tip="Alt+↑"
            >
              Move up
            </Button>
            <Button
              className="h-7 px-2"
              disabled={!chosen || end >= entries.length}
              onClick={() => {
                const next = moved(entries, at, 1);
                save(next.entries);
                setAt(next.at);
              }}
              tip="Alt+↓"
            >
              Move down
            </Button>
            {list === 'contents' ? (
              <>
                <Button
                  className="h-7 px-2"
                  disabled={!indented(entries, at, -1)}
                  onClick={() => {
                    const next = indented(entries, at, -1);
                    if (next) save(next);
                  }}
                  tip="Alt+←"
                >
                  Out
                </Button>
                <Button
                  className="h-7 px-2"
                  disabled={!indented(entries, at, 1)}
                  onClick={() => {
                    const next = indented(entries, at, 1);
                    if (next) save(next);
                  }}
                  tip="Alt+→"
                >
                  In
                </Button>
              </>
            ) : null}
            <Button
              className="h-7 px-2"
              onClick={() => {
                const path = view.documents[0]?.path ?? '';
                const next = {
                  from: null,
                  label: 'New entry',
                  path: chosen?.path || path,
                  fragment: '',
                  depth: chosen?.depth ?? 0,
                };
                save([...entries.slice(0, end), next, ...entries.slice(end)]);
                setAt(end);
              }}
            >
              Add below
            </Button>
            <Button
              className="h-7 px-2"
              disabled={!chosen || entries.length === 1}
              onClick={() => {
                save([
                  ...entries.slice(0, at),
                  ...entries
                    .slice(at + 1)
                    .map((e, k) => (k + at + 1 < end ? { ...e, depth: e.depth - 1 } : e)),
                ]);
                setAt(Math.max(0, at - 1));
              }}
            >
              Remove
            </Button>
          </div>
          {/* Not ui/Table: it is an outline, whose order is the ebook’s own. */}
          <ol aria-label={LISTS.find((l) => l.value === list)?.name} className="border-t border-rule">
            {entries.map((e, i) => (
              <li
                key={i}
                data-entry={i}
                onFocusCapture={() => setAt(i)}
                onKeyDown={(k) => {
                  if (!k.altKey || !k.key.startsWith('Arrow')) return;
                  k.preventDefault();
                  const by = k.key === 'ArrowUp' || k.key === 'ArrowLeft' ? -1 : 1;
                  if (k.key === 'ArrowUp' || k.key === 'ArrowDown') {
                    const next = moved(entries, i, by);
                    save(next.entries);
                    setAt(next.at);
                  } else if (list === 'contents') {
                    const next = indented(entries, i, by);
                    if (next) save(next);
                  }
                }}
                className={`grid grid-cols-[1fr_340px_160px_auto] items-center gap-x-2 border-b border-rule py-1 ${i === at ? 'bg-sheet' : ''}`}
              >
                <span style={{ paddingLeft: e.depth * 24 }}>
                  <Text
                    aria-label="Words of the entry"
                    value={e.label}
                    onCommit={(label) => label && change(i, { label })}
                  />
                </span>
                <Picker
                  label={`Where “${e.label}” leads`}
                  className="w-full"
                  value={e.path}
                  placeholder={e.path || 'nowhere'}
                  choices={targets}
                  onChoose={(path) => change(i, { path, fragment: '' })}
                />
                <Text
                  aria-label={`Place in it, by id, for “${e.label}”`}
                  value={e.fragment}
                  placeholder="its beginning"
                  onCommit={(fragment) => change(i, { fragment: fragment.replace(/^#/, '') })}
                />
                <Button
                  kind="quiet"
                  className="h-7 px-2"
                  disabled={!e.path}
                  onClick={() => goTo({ path: e.path, offset: null })}
                >
                  Show
                </Button>
              </li>
            ))}
          </ol>
        </div>
      )}
    </Sheet>
  );
}
