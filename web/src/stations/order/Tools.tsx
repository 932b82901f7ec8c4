'use client';
/** What can be done with the chosen sections, in words. */
import { useRef } from 'react';
import { MANUSCRIPT_ENDINGS } from '@pagina/core/base';
import { kindRule, SECTION_KINDS, type Section, type SectionKind } from '@pagina/core/book';
import { Button } from '@/ui/controls';
import type { Actions } from './actions';

export function Tools({
  chosen,
  all,
  name,
  actions,
  particulars,
  onParticulars,
  onAdded,
  onOpen,
  onAsRead,
  onNewer,
}: {
  chosen: readonly Section[];
  all: readonly Section[];
  /** Name of the one section chosen. */
  name: string;
  actions: Actions;
  particulars: boolean;
  onParticulars: () => void;
  onAdded: (id: string) => void;
  onOpen: (id: string) => void;
  /** Opens the intake sheet again; null for a title that had none. */
  onAsRead: (() => void) | null;
  onNewer: (file: File) => void;
}) {
  const newer = useRef<HTMLInputElement>(null);
  const ids = chosen.map((s) => s.id);
  const one = chosen.length === 1 ? chosen[0] : undefined;
  const none = chosen.length === 0;
  const kind = one?.kind ?? (new Set(chosen.map((s) => s.kind)).size === 1 ? (chosen[0]?.kind ?? '') : '');
  const tool = 'h-7 px-2';
  const line = <span aria-hidden className="mx-1 h-5 w-px bg-rule" />;
  return (
    <div
      role="toolbar"
      aria-label="Chosen sections"
      className="no-print flex min-h-10 flex-wrap items-center gap-0.5 gap-y-1 border-b py-1 border-rule bg-table px-3"
    >
      <Button
        className={tool}
        onClick={() =>
          void actions.addChapter(ids.at(-1) ?? null).then((id) => {
            if (id) onAdded(id);
          })
        }
      >
        Add a chapter
      </Button>
      {line}
      <select
        aria-label="Kind of the chosen sections"
        disabled={none}
        value={kind}
        onChange={(e) => void actions.kind(ids, e.target.value as SectionKind)}
        className="h-7 w-36 rounded-[2px] border border-edge bg-sheet px-1 disabled:opacity-45"
      >
        {kind === '' ? <option value="">{none ? 'Kind' : 'of several kinds'}</option> : null}
        {SECTION_KINDS.map((k) => (
          <option key={k} value={k}>
            {kindRule(k).label}
          </option>
        ))}
      </select>
      <Button
        kind="quiet"
        className={tool}
        disabled={none}
        title="Ctrl+G"
        onClick={() => void actions.gather(ids)}
      >
        Gather into a part
      </Button>
      {one?.kind === 'part' ? (
        <Button kind="quiet" className={tool} onClick={() => void actions.dissolve(one.id)}>
          Dissolve the part
        </Button>
      ) : null}
      <Button
        kind="quiet"
        className={tool}
        disabled={none || chosen.every((s) => s.matter !== 'body')}
        title="Alt and right arrow; Alt and left arrow takes it out"
        onClick={() => void actions.nest(ids, chosen.some((s) => s.parent !== null) ? 'out' : 'in')}
      >
        {chosen.some((s) => s.parent !== null) ? 'Out of the part' : 'Into the part above'}
      </Button>
      {line}
      <Button
        kind="quiet"
        className={tool}
        disabled={!one}
        title="Enter"
        onClick={() => one && onOpen(one.id)}
      >
        Open text
      </Button>
      <Button
        kind="quiet"
        className={tool}
        disabled={!one || all[0] === one}
        onClick={() => one && void actions.join(one.id)}
      >
        Join with previous
      </Button>
      <Button
        kind="quiet"
        className={tool}
        disabled={!one}
        title="Ctrl+D"
        onClick={() => one && void actions.duplicate(one.id)}
      >
        Duplicate
      </Button>
      <Button
        kind="quiet"
        className={tool}
        disabled={none}
        title="Delete"
        onClick={() => void actions.remove(ids, name)}
      >
        Delete
      </Button>
      <span className="ml-auto" />
      <Button kind="quiet" className={tool} onClick={() => newer.current?.click()}>
        Newer manuscript
      </Button>
      <input
        ref={newer}
        type="file"
        accept={MANUSCRIPT_ENDINGS.join(',')}
        className="hidden"
        aria-label="Newer manuscript file"
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = '';
          if (file) onNewer(file);
        }}
      />
      {onAsRead ? (
        <Button kind="quiet" className={tool} onClick={onAsRead}>
          How it was read
        </Button>
      ) : null}
      <Button
        kind="quiet"
        className={`${tool} ${particulars ? 'border-spruce text-spruce' : ''}`}
        aria-pressed={particulars}
        onClick={onParticulars}
      >
        Particulars
      </Button>
    </div>
  );
}
