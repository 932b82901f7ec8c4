'use client';
/** The pictures of the ebook: how large, where shown, what is said of each; replaced, added, renamed, removed; the cover. */
import { useState } from 'react';
import { addressOf } from '@/reader/source';
import { Button } from '@/ui/Button';
import { sizeInWords } from '@/ui/FileOf';
import { Checkbox } from '@/ui/Checkbox';
import { Dialog } from '@/ui/Dialog';
import { DropSurface, FileButton } from '@/ui/FileDrop';
import { Text } from '@/ui/Text';
import { useEbook, useSnapshot } from './context';
import { RenameFile } from './RenameFile';
import { Sheet } from './Sheet';
import { WholeSource } from './WholeSource';
import { useBringing } from './useBringing';
import { useFiles, type EbookFile } from './useFiles';

const ENDINGS = ['.jpg', '.jpeg', '.png', '.gif', '.webp', '.svg'];

export function PicturesSheet() {
  const { run } = useEbook();
  const files = useFiles();
  const pictures = files?.filter((f) => f.type.startsWith('image/')) ?? [];
  const cover = pictures.find((p) => p.isCover);
  const bring = useBringing('image/', 'a picture');
  const add = (list: readonly File[]): void => void bring(list, (file) => run({ type: 'add-file', file }));
  return (
    <DropSurface className="h-full" onFiles={add}>
      <Sheet
        name="Pictures"
        source=""
        tools={
          <>
            <FileButton
              className="h-7 px-2"
              label="Picture for the cover"
              endings={ENDINGS}
              onFiles={(list) => void bring(list.slice(0, 1), (file) => run({ type: 'cover', file }))}
            >
              {cover ? 'Replace the cover' : 'Add a cover'}
            </FileButton>
            <FileButton className="h-7 px-2" label="Pictures" endings={ENDINGS} several onFiles={add}>
              Add pictures
            </FileButton>
          </>
        }
      >
        {files === null ? (
          <p className="text-ink-soft">Looking through the ebook …</p>
        ) : pictures.length === 0 ? (
          <p className="text-ink-soft">The ebook has no pictures. They can be dropped here.</p>
        ) : (
          <ul className="max-w-[980px] border-t border-rule" aria-label="Pictures">
            {pictures.map((p) => (
              <Picture
                key={p.path}
                picture={p}
                onReplace={(list) =>
                  void bring(list.slice(0, 1), (file) => run({ type: 'replace-file', path: p.path, file }))
                }
              />
            ))}
          </ul>
        )}
      </Sheet>
    </DropSurface>
  );
}

function Picture({ picture: p, onReplace }: { picture: EbookFile; onReplace: (files: File[]) => void }) {
  const { session, run, goTo } = useEbook();
  const { view, saves } = useSnapshot();
  const [renaming, setRenaming] = useState(false);
  const [behind, setBehind] = useState(false);
  const label = (path: string): string => view.documents.find((d) => d.path === path)?.label ?? path;
  return (
    <li data-picture={p.path} className="grid grid-cols-[96px_1fr_auto] gap-4 border-b border-rule py-3">
      <img
        src={`${addressOf(`/api/ebooks/${session.id}/parts/`, p.path)}?${saves[''] ?? 0}`}
        alt=""
        className="h-24 w-24 border border-rule bg-[#fffdf8] object-contain"
      />
      <div className="min-w-0">
        <p className="truncate font-serif text-[16px]">{p.path}</p>
        <p className="text-[13px] text-ink-soft">
          {[
            p.isCover ? 'the cover' : '',
            p.pixels ? `${p.pixels.width} × ${p.pixels.height} pixels` : '',
            sizeInWords(p.bytes),
            p.type,
          ]
            .filter(Boolean)
            .join(' · ')}
        </p>
        <p className="text-[13px] text-ink-soft">
          {p.usedBy.length === 0
            ? 'Not used anywhere.'
            : p.usedBy.map((path, i) => (
                <span key={path}>
                  {i > 0 ? ', ' : 'Used in '}
                  <button type="button" className="underline" onClick={() => goTo({ path, offset: null })}>
                    {label(path)}
                  </button>
                </span>
              ))}
        </p>
        {p.alternatives.map((a) => (
          <div key={`${a.path} ${a.offset}`} className="mt-1.5 flex items-start gap-3">
            <span className="flex-1">
              <Text
                aria-label={`Description of the picture in ${label(a.path)}`}
                placeholder={a.decorative ? 'Decoration: nothing is read aloud' : 'No description yet'}
                value={a.text ?? ''}
                wrong={!a.decorative && (a.text ?? '') === ''}
                onCommit={(text) =>
                  void run({ type: 'alternative', path: a.path, offset: a.offset, text, decorative: false })
                }
              />
            </span>
            <Checkbox
              className="pt-1.5"
              label="Decoration"
              on={a.decorative}
              onSet={(decorative) =>
                void run({
                  type: 'alternative',
                  path: a.path,
                  offset: a.offset,
                  text: a.text ?? '',
                  decorative,
                })
              }
            />
          </div>
        ))}
      </div>
      <RenameFile path={renaming ? p.path : null} onDone={() => setRenaming(false)} />
      <div className="flex flex-col items-stretch gap-1">
        <FileButton
          className="h-7 px-2"
          label={`Picture instead of ${p.path}`}
          endings={ENDINGS}
          onFiles={onReplace}
        >
          Replace
        </FileButton>
        {p.type === 'image/svg+xml' ? (
          <Dialog
            title={p.path}
            open={behind}
            onOpenChange={setBehind}
            className="flex h-[76vh] w-[900px] flex-col"
            trigger={
              <Button kind="quiet" className="h-7 px-2">
                Source
              </Button>
            }
          >
            <WholeSource path={p.path} />
          </Dialog>
        ) : null}
        <Button kind="quiet" className="h-7 px-2" onClick={() => setRenaming(true)}>
          Rename
        </Button>
        {p.isCover ? null : (
          <Button kind="quiet" className="h-7 px-2" onClick={() => void run({ type: 'cover', path: p.path })}>
            Make it the cover
          </Button>
        )}
        <Button
          kind="quiet"
          className="h-7 px-2"
          onClick={() => void run({ type: 'remove-file', path: p.path })}
        >
          Remove
        </Button>
      </div>
    </li>
  );
}
