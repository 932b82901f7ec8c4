'use client';
import { useRef } from 'react';
import { toast } from 'sonner';
import { useBook, useTitle } from '@/title/context';
import { fileOf, keepPicture } from '@/title/pictures';
import { Button } from '@/ui/controls';

export function Cover() {
  const { session } = useTitle();
  const { book } = useBook();
  const chooser = useRef<HTMLInputElement>(null);
  const cover = book.pictures.find((p) => p.id === book.record.cover);
  const take = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    const picture = await keepPicture(session.id, file);
    if ('message' in picture) return void toast(picture.message);
    await session.change((b) => ({
      type: 'group',
      label: 'Change the cover',
      changes: [
        { type: 'set-pictures', pictures: [...b.pictures, picture] },
        { type: 'set-record', fields: { cover: picture.id } },
      ],
    }));
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
                <span className="block text-ochre">Shops like 2,500 pixels of height or more.</span>
              ) : null}
            </p>
          ) : null}
          <Button onClick={() => chooser.current?.click()}>
            {cover ? 'Another picture' : 'Choose a picture'}
          </Button>
          <input
            ref={chooser}
            type="file"
            accept="image/png,image/jpeg"
            className="hidden"
            aria-label="Cover picture"
            onChange={(e) => void take(e.target.files?.[0])}
          />
        </div>
      </div>
    </section>
  );
}
