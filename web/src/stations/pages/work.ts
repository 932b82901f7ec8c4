'use client';
/** What can be done with picture pages, each one change with one undo. */
import { useMemo } from 'react';
import { toast } from 'sonner';
import type { Change, Frame, PageLayout, PicturePageAttrs, Section, TextBoxAttrs } from '@pagina/core/book';
import {
  addBox,
  addPages,
  asPicturePages,
  duplicatePages,
  layAcross,
  layOut,
  moveBox,
  movePages,
  removeBox,
  removePages,
  setOnPages,
} from '@pagina/core/order';
import { useTitle } from '@/title/context';
import { shortId } from '@/title/ids';
import { keepPictures } from '@/title/pictures';

const newId = (): string => `k${shortId()}`;

export type PageWork = ReturnType<typeof usePageWork>;

export function usePageWork(section: string) {
  const { session } = useTitle();
  return useMemo(() => {
    const run = (label: string, make: (s: Section) => Change | null): Promise<boolean> =>
      session.change((b) => {
        const own = b.sections.find((s) => s.id === section);
        const change = own ? make(own) : null;
        return change && { type: 'group', label, changes: [change] };
      });
    /** Keeps files of pictures, and puts them where `place` says, all in one step. */
    const withPictures = async (
      files: readonly File[],
      label: string,
      place: (s: Section, pictures: { picture: string }[]) => Change | null,
    ): Promise<boolean> => {
      const pictures = await keepPictures(session, files);
      if (pictures.length === 0) return false;
      return session.change((b) => {
        const own = b.sections.find((s) => s.id === section);
        const change =
          own &&
          place(
            own,
            pictures.map((p) => ({ picture: p.id })),
          );
        return change
          ? { type: 'group', label, changes: [{ type: 'add-pictures', pictures }, change] }
          : null;
      });
    };
    return {
      set: (
        ids: readonly string[],
        label: string,
        fields: Partial<PicturePageAttrs> | Partial<TextBoxAttrs>,
      ) => run(label, (s) => setOnPages(s, ids, fields)),
      add: (after: string | null) => run('Add a page', (s) => addPages(s, after, newId)),
      /** A page for each picture. */
      addWith: (after: string | null, files: readonly File[]) =>
        withPictures(files, files.length === 1 ? 'Add a page' : `Add ${files.length} pages`, (s, pictures) =>
          addPages(s, after, newId, pictures),
        ),
      picture: (page: string, file: File) =>
        withPictures([file], 'Choose a picture', (s, [given]) =>
          given ? setOnPages(s, [page], given) : null,
        ),
      duplicate: (ids: readonly string[]) =>
        run(ids.length === 1 ? 'Duplicate the page' : 'Duplicate pages', (s) =>
          duplicatePages(s, ids, newId),
        ),
      move: (ids: readonly string[], to: number) =>
        run(ids.length === 1 ? 'Move the page' : 'Move pages', (s) => movePages(s, ids, to)),
      across: (page: string, across: boolean) =>
        run(across ? 'Lay out across a spread' : 'Lay out on one page', (s) => layAcross(s, page, across)),
      layOut: (ids: readonly string[], layout: PageLayout) =>
        run('Change the layout', (s) => layOut(s, ids, layout, newId)),
      addBox: async (page: string, frame: Frame): Promise<string | null> => {
        let id: string | null = null;
        const done = await run('Add words', (s) => {
          const made = addBox(s, page, newId, frame);
          id = made?.id ?? null;
          return made?.change ?? null;
        });
        return done ? id : null;
      },
      moveBox: (box: string, by: -1 | 1) => run('Change the reading order', (s) => moveBox(s, box, by)),
      async removeBox(box: string): Promise<void> {
        if (await run('Remove words', (s) => removeBox(s, box)))
          toast(
            'The words were removed from the page.',
            undoing(() => void session.undo()),
          );
      },
      async remove(ids: readonly string[]): Promise<void> {
        if (
          await run(ids.length === 1 ? 'Delete the page' : 'Delete pages', (s) => removePages(s, ids, newId))
        )
          toast(
            ids.length === 1 ? 'The page was deleted.' : `${ids.length} pages were deleted.`,
            undoing(() => void session.undo()),
          );
      },
      /** `written`: the words of a page that is made from the record. */
      fromText: (written?: Section['content']) =>
        run('Lay out as picture pages', (s) => asPicturePages(s, newId, written)),
    };
  }, [session, section]);
}

const undoing = (onClick: () => void) => ({ action: { label: 'Undo', onClick } });
