'use client';
/** The files of the ebook with what uses them, read again whenever it is another. */
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import type { FileRow } from '@pagina/core/emend';
import { useEbook, useSnapshot } from './context';

export interface EbookFile extends FileRow {
  /** Pixels of a picture, where its first bytes tell. */
  pixels: { width: number; height: number } | null;
  /** What a style sheet declares a typeface as. */
  face: { family: string; weight: string; style: string; sheet: string } | null;
}

export function useFiles(): EbookFile[] | null {
  const { session } = useEbook();
  const { view } = useSnapshot();
  const [files, setFiles] = useState<EbookFile[] | null>(null);
  useEffect(() => {
    let gone = false;
    fetch(`/api/ebooks/${session.id}/files`)
      .then(async (r) => (await r.json()) as { files: EbookFile[] })
      .then((read) => !gone && setFiles(read.files))
      .catch(() => !gone && toast('Pagina can’t be reached.'));
    return () => {
      gone = true;
    };
  }, [session, view.revision]);
  return files;
}
