'use client';
/** The typefaces in the ebook: as what they are declared, where, how large. */
import { toast } from 'sonner';
import { Button } from '@/ui/Button';
import { sizeInWords } from '@/ui/FileOf';
import { FileButton } from '@/ui/FileDrop';
import { Table, type Column } from '@/ui/Table';
import { useEbook } from './context';
import { Sheet } from './Sheet';
import { useBringing } from './useBringing';
import { useFiles, type EbookFile } from './useFiles';

const ENDINGS = ['.ttf', '.otf', '.woff', '.woff2'];
const isFace = (f: EbookFile): boolean =>
  /^font\/|font|opentype/.test(f.type) || /\.(ttf|otf|woff2?)$/i.test(f.path);

export function TypefacesSheet() {
  const { run } = useEbook();
  const files = useFiles();
  const faces = files?.filter(isFace) ?? [];
  const bring = useBringing('font/', 'a typeface');
  const add = (list: readonly File[]): Promise<void> =>
    bring(list, async (file) => {
      const saved = await run({ type: 'add-file', file });
      if (saved?.show)
        toast(`“${saved.show}” was added. A style sheet declares it with @font-face before it is used.`);
    });
  const columns: Column<EbookFile>[] = [
    {
      id: 'family',
      name: 'Declared as',
      heads: true,
      sortBy: (f) => f.face?.family ?? '',
      cell: (f) => (
        <span className="font-serif text-[16px]">
          {f.face?.family ?? <em className="text-ink-soft">Declared nowhere</em>}
        </span>
      ),
    },
    { id: 'weight', name: 'Weight', sortBy: (f) => f.face?.weight ?? '', cell: (f) => f.face?.weight ?? '' },
    { id: 'style', name: 'Style', sortBy: (f) => f.face?.style ?? '', cell: (f) => f.face?.style ?? '' },
    { id: 'path', name: 'File', sortBy: (f) => f.path, cell: (f) => f.path },
    { id: 'size', name: 'Size', right: true, sortBy: (f) => f.bytes, cell: (f) => sizeInWords(f.bytes) },
    {
      id: 'actions',
      name: 'Actions',
      silent: true,
      right: true,
      cell: (f) => (
        <Button
          kind="quiet"
          className="h-7 px-2"
          aria-label={`Remove ${f.path}`}
          tip="Its @font-face rules go with it"
          onClick={() => void run({ type: 'remove-file', path: f.path })}
        >
          Remove
        </Button>
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
    </Sheet>
  );
}
