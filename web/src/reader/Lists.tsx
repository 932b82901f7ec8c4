'use client';
/** What leads to places in an ebook: its contents, its landmarks, and the pages of the printed edition. */
import { useEffect, useRef, useState } from 'react';
import type { Navigation, ReadingOrder } from '@pagina/core/package';
import { Aside } from '@/ui/Aside';
import { OneOf } from '@/ui/ToggleGroup';

const LISTS: { value: keyof Navigation; name: string; none: string }[] = [
  { value: 'contents', name: 'Contents', none: 'The file has no contents list.' },
  { value: 'landmarks', name: 'Landmarks', none: 'The file has no landmarks.' },
  { value: 'pages', name: 'Pages', none: 'The file has no page list.' },
];

export function Lists({
  order,
  here,
  onOpen,
  onClose,
}: {
  order: ReadingOrder;
  /** Number of the contents entry, and of the page, that one reads. */
  here: { contents: number; pages: number };
  onOpen: (path: string, id: string) => void;
  onClose: () => void;
}) {
  const [list, setList] = useState<keyof Navigation>('contents');
  const { name, none } = LISTS.find((l) => l.value === list) as (typeof LISTS)[number];
  return (
    <Aside
      title="Contents and pages"
      onClose={onClose}
      head={<OneOf className="pt-2" label="List" value={list} choices={LISTS} onChoose={setList} />}
    >
      {order[list].length === 0 ? (
        <p className="px-4 py-3 text-ink-soft">{none}</p>
      ) : (
        <Entries
          of={name}
          entries={order[list]}
          here={list === 'landmarks' ? -1 : here[list]}
          close={list === 'pages'}
          onOpen={onOpen}
        />
      )}
    </Aside>
  );
}

function Entries({
  of,
  entries,
  here,
  close,
  onOpen,
}: {
  of: string;
  entries: Navigation['contents'];
  here: number;
  close: boolean;
  onOpen: (path: string, id: string) => void;
}) {
  const current = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    void current.current?.scrollIntoView({ block: 'nearest' });
  }, [here]);
  return (
    <ul aria-label={of} className={close ? 'flex flex-wrap gap-1 px-3 py-2' : 'py-1'}>
      {entries.map((e, i) => (
        <li key={i}>
          <button
            ref={i === here ? current : undefined}
            type="button"
            disabled={e.path === ''}
            aria-current={i === here ? 'true' : undefined}
            className={`text-left hover:text-spruce disabled:text-ink-soft aria-[current]:font-semibold aria-[current]:text-spruce ${
              close
                ? 'min-w-9 border border-rule px-1.5 py-0.5 text-center text-[13px]'
                : 'block w-full px-4 py-1 font-serif'
            }`}
            style={close ? undefined : { paddingLeft: 16 + e.depth * 16 }}
            onClick={() => onOpen(e.path, e.fragment)}
          >
            {e.label || '(no words)'}
          </button>
        </li>
      ))}
    </ul>
  );
}
