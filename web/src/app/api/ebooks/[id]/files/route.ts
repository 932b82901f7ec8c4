import { bytesOf, faceRules, fileRows, textOfPart } from '@pagina/core/emend';
import { pictureInfo } from '@pagina/core/base';
import type { EbookFile } from '@/emend/useFiles';
import { answer } from '@/server/answer';
import { ebookRoute } from '@/server/emended';

/** The files of the ebook with what uses them: sizes of pictures, and what typefaces are declared as. */
export const GET = ebookRoute((_, __, { row, state }) => {
  const rows = fileRows(state);
  const faces = new Map<string, EbookFile['face']>();
  for (const { path } of rows)
    if (path.endsWith('.css'))
      for (const { sources, family, weight, style } of faceRules(path, textOfPart(state, path) ?? ''))
        for (const source of sources) faces.set(source, { family, weight, style, sheet: path });
  const sizeOf = (path: string): { width: number; height: number } | null => {
    try {
      const bytes = bytesOf(state, path);
      const info = bytes && pictureInfo(bytes);
      return info && { width: info.width, height: info.height };
    } catch {
      return null;
    }
  };
  return Promise.resolve(
    answer({
      revision: row.revision,
      files: rows.map((f) => ({
        ...f,
        pixels: f.type.startsWith('image/') ? sizeOf(f.path) : null,
        face: faces.get(f.path) ?? null,
      })),
    }),
  );
});
