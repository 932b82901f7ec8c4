'use client';
/** The typefaces in the ebook: as what they are declared, where, how large. */
import { useState } from 'react';
import { toast } from 'sonner';
import { declareFace } from '@pagina/core/emend';
import { Button } from '@/ui/Button';
import { Dialog } from '@/ui/Dialog';
import { sizeInWords } from '@/ui/FileOf';
import { FileButton } from '@/ui/FileDrop';
import { Table, type Column } from '@/ui/Table';
import { Text } from '@/ui/Text';
import { useEbook } from './context';
import { Sheet } from './Sheet';
import { useBringing } from './useBringing';
import { WholeSource } from './WholeSource';
import { useFiles, type EbookFile } from './useFiles';

const ENDINGS = ['.ttf', '.otf', '.woff', '.woff2'];
const isFace = (f: EbookFile): boolean =>
  /^font\/|font|opentype/.test(f.type) || /\.(ttf|otf|woff2?)$/i.test(f.path);

const PROPERTIES = { 'font-family': 'Family', 'font-weight': 'Weight', 'font-style': 'Style' } as const;

export function TypefacesSheet() {
  const { session, run } = useEbook();
  const [behind, setBehind] = useState<string | null>(null);
  const files = useFiles();
  const faces = files?.filter(isFace) ?? [];
  const bring = useBringing('font/', 'a typeface');
  const add = (list: readonly File[]): Promise<void> =>
    bring(list, async (file) => {
      const saved = await run({ type: 'add-file', file });
      if (saved?.show)
        toast(`“${saved.show}” was added. A style sheet declares it with @font-face before it is used.`);
    });
  const declared = (f: EbookFile, property: 'font-family' | 'font-weight' | 'font-style', value: string) => (
    <Text
      aria-label={`${PROPERTIES[property]} of ${f.path}`}
      value={value}
      onCommit={(to) => {
        const sheet = f.face?.sheet ?? '';
        session.source(sheet).then(
          (css) => {
            const edit = declareFace(sheet, css, f.path, property, to);
            if (edit) session.type([edit]);
          },
          (e: unknown) => toast((e as Error).message),
        );
      }}
    />
  );
  const columns: Column<EbookFile>[] = [
    {
      id: 'family',
      name: 'Declared as',
      heads: true,
      sortBy: (f) => f.face?.family ?? '',
      cell: (f) =>
        f.face ? (
          <span className="block py-1">{declared(f, 'font-family', f.face.family)}</span>
        ) : (
          <em className="text-ink-soft">Not declared</em>
        ),
    },
    {
      id: 'weight',
      name: 'Weight',
      sortBy: (f) => f.face?.weight ?? '',
      cell: (f) =>
        f.face && <span className="block w-20 py-1">{declared(f, 'font-weight', f.face.weight)}</span>,
    },
    {
      id: 'style',
      name: 'Style',
      sortBy: (f) => f.face?.style ?? '',
      cell: (f) =>
        f.face && <span className="block w-20 py-1">{declared(f, 'font-style', f.face.style)}</span>,
    },
    { id: 'path', name: 'File', sortBy: (f) => f.path, cell: (f) => f.path },
    { id: 'size', name: 'Size', right: true, sortBy: (f) => f.bytes, cell: (f) => sizeInWords(f.bytes) },
    {
      id: 'actions',
      name: 'Actions',
      silent: true,
      right: true,
      cell: (f) => (
        <>
          {f.face ? (
            <Button
              kind="quiet"
              className="h-7 px-2"
              aria-label={`Source of what declares ${f.path}`}
              onClick={() => setBehind(f.face?.sheet ?? null)}
            >
              Source
            </Button>
          ) : null}
          <Button
            kind="quiet"
            className="h-7 px-2"
            aria-label={`Remove ${f.path}`}
            tip="Its @font-face rules go with it"
            onClick={() => void run({ type: 'remove-file', path: f.path })}
          >
            Remove
          </Button>
        </>
      ),
    },
  ];
  return (
    <Sheet
      name="Typefaces"
      source=""
      tools={
        <FileButton
          className="h-7 px-2"
          label="Typefaces"
          endings={ENDINGS}
          several
          onFiles={(l) => void add(l)}
        >
          Add typefaces
        </FileButton>
      }
    >
      {files === null ? (
        <p className="text-ink-soft">Looking through the ebook …</p>
      ) : faces.length === 0 ? (
        <p className="text-ink-soft">The ebook brings no typefaces: its readers see their own.</p>
      ) : (
        <Table
          label="Typefaces"
          className="max-w-[980px] bg-sheet"
          columns={columns}
          rows={faces}
          keyOf={(f) => f.path}
        />
      )}
      <Dialog
        title={behind ?? ''}
        open={behind !== null}
        onOpenChange={(o) => !o && setBehind(null)}
        className="flex h-[76vh] w-[900px] flex-col"
      >
        {behind === null ? null : <WholeSource path={behind} />}
      </Dialog>
    </Sheet>
  );
}
