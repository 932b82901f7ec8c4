'use client';
/** Proof: what readers will have in hand. Pages of a print edition and its cover, the file of an ebook on the screens it is read on. */
import { useState } from 'react';
import { attachedTo, coverOf, editionOf, isPrint, printOf } from '@pagina/core/book';
import { wantedCover } from '@pagina/core/check';
import { useBook } from '@/title/context';
import { Select } from '@/ui/Select';
import { EbookProof } from './EbookProof';
import { FileProof } from './FileProof';
import { PagesProof } from './PagesProof';

/** What of a print edition is proofed besides its pages, each where there is one. */
const FILES = [
  { of: (id: string) => attachedTo(id, 'attached-pages'), name: 'Supplied interior', sheet: false },
  { of: coverOf, name: 'Cover', sheet: true },
  { of: (id: string) => attachedTo(id, 'attached-cover'), name: 'Designer’s cover', sheet: true },
];

export function Proof() {
  const { book, edition } = useBook();
  const shown = editionOf(book, edition);
  return shown && !isPrint(shown) ? (
    <EbookProof key={shown.id} edition={shown} />
  ) : (
    <PrintProof key={shown?.id} edition={shown?.id ?? ''} />
  );
}

function PrintProof({ edition }: { edition: string }) {
  const { book, products } = useBook();
  const print = printOf(book, edition);
  const [chosen, setChosen] = useState<string | null>(null);
  const files = FILES.flatMap(({ of, ...f }) => {
    const file = products.find((p) => p.edition === of(edition));
    return file ? [{ ...f, file }] : [];
  });
  // Pages that someone else set are the ones that will be printed.
  const supplied = files.find((f) => !f.sheet);
  const shown = chosen === null ? supplied : files.find((f) => f.file.edition === chosen);
  const choice =
    files.length === 0 ? null : (
      <Select
        label="What is proofed"
        className="h-7"
        value={shown?.file.edition ?? PAGES}
        choices={[
          { value: PAGES, name: 'Pages' },
          ...files.map((f) => ({ value: f.file.edition, name: f.name })),
        ]}
        onChoose={setChosen}
      />
    );
  return shown ? (
    <FileProof
      key={shown.file.edition}
      file={shown.file}
      called={shown.name.toLowerCase()}
      sheet={shown.sheet}
      geometry={shown.sheet && print ? wantedCover(print, shown.file.fit?.pages ?? shown.file.pages) : null}
      files={choice}
    />
  ) : (
    <PagesProof files={choice} />
  );
}
/** Beside ids of files: the pages as they are set. */
const PAGES = 'pages';
