'use client';
import Link from 'next/link';
import { setsFront } from '@pagina/core/book';
import { useBook, useTitle } from '@/title/context';
import { fileOf, takeIn } from '@/title/pictures';
import { FileButton } from '@/ui/FileDrop';
import { AskedBy } from './AskedBy';

export function Cover() {
  const { session } = useTitle();
  const { book } = useBook();
  const cover = book.pictures.find((p) => p.id === book.record.cover);
  const take = (file: File | undefined): void => {
    if (file)
      void takeIn(session, file, 'Change the cover', (id) => [{ type: 'set-record', fields: { cover: id } }]);
  };
  return (
    <section>
      <h2 className="column-head mb-2">Cover of the ebook</h2>
      <div className="flex gap-4">
        {cover?.sha256 ? (
          <img src={fileOf(cover)} alt="The cover" className="h-48 border border-rule" />
        ) : (
          <span className="flex h-48 w-32 items-center justify-center border border-dashed border-edge text-center text-[13px] text-ink-soft">
            No cover yet
          </span>
        )}
        <div className="space-y-2 text-[13px] text-ink-soft">
          {cover ? (
            <p>
              {cover.width} × {cover.height} pixels
              {cover.height < 2500 ? (
                <span className="block text-ochre">Shops prefer covers at least 2,500 pixels high.</span>
              ) : null}
            </p>
          ) : null}
          {cover ? null : (
            <p>
              Or{' '}
              <Link className="text-spruce underline" href={`/titles/${session.id}/design?of=cover`}>
                have one set
              </Link>{' '}
              from the record’s words.
            </p>
          )}
          {setsFront(book) ? (
            <p>
              Ebooks show the front that is set in{' '}
              <Link className="text-spruce underline" href={`/titles/${session.id}/design?of=cover`}>
                Design
              </Link>
              .
            </p>
          ) : null}
          <FileButton label="Cover picture" endings={['image/png', 'image/jpeg']} onFiles={([f]) => take(f)}>
            {cover ? 'Another picture' : 'Choose a picture'}
          </FileButton>
          <AskedBy field="cover" />
        </div>
      </div>
    </section>
  );
}
