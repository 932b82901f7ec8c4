'use client';
/** What can be done with the chosen sections, in words. */
import { MANUSCRIPT_ENDINGS } from '@pagina/core/base';
import type { Section } from '@pagina/core/book';
import { Button, ToggleButton } from '@/ui/Button';
import { FileButton } from '@/ui/FileDrop';
import { Toolbar, ToolbarLine } from '@/ui/Toolbar';
import type { Actions } from './actions';
import { AddPages } from './AddPages';
import { KindPicker } from './KindPicker';

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
  const ids = chosen.map((s) => s.id);
  const one = chosen.length === 1 ? chosen[0] : undefined;
  const none = chosen.length === 0;
  const kind = new Set(chosen.map((s) => s.kind)).size === 1 ? (chosen[0]?.kind ?? null) : null;
  const tool = 'h-7 px-1.5';
  return (
    <Toolbar label="Chosen sections" className="gap-x-0.5 bg-table">
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
      <AddPages actions={actions} className={tool} />
      <ToolbarLine />
      <KindPicker
        label="Kind of the chosen sections"
        kind={kind}
        disabled={none}
        placeholder={none ? 'Kind' : 'of several kinds'}
        onKind={(k) => void actions.kind(ids, k)}
        className="h-7 w-32"
      />
      <Button
        kind="quiet"
        className={tool}
        disabled={none}
        tip="Ctrl+G"
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
        tip="Alt and right arrow; Alt and left arrow takes it out"
        onClick={() => void actions.nest(ids, chosen.some((s) => s.parent !== null) ? 'out' : 'in')}
      >
        {chosen.some((s) => s.parent !== null) ? 'Out of the part' : 'Into the part above'}
      </Button>
      <ToolbarLine />
      <Button kind="quiet" className={tool} disabled={!one} tip="Enter" onClick={() => one && onOpen(one.id)}>
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
        tip="Ctrl+D"
        onClick={() => one && void actions.duplicate(one.id)}
      >
        Duplicate
      </Button>
      <Button
        kind="quiet"
        className={tool}
        disabled={none}
        tip="Delete"
        onClick={() => void actions.remove(ids, name)}
      >
        Delete
      </Button>
      <span className="ml-auto" />
      <FileButton
        label="Newer manuscript file"
        kind="quiet"
        className={tool}
        endings={MANUSCRIPT_ENDINGS}
        onFiles={([file]) => file && onNewer(file)}
      >
        Newer manuscript
      </FileButton>
      {onAsRead ? (
        <Button kind="quiet" className={tool} onClick={onAsRead}>
          How it was read
        </Button>
      ) : null}
      <ToggleButton className={tool} pressed={particulars} onToggle={onParticulars}>
        Particulars
      </ToggleButton>
    </Toolbar>
  );
}
