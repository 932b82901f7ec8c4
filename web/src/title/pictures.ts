'use client';
/** Pictures of a title: kept by the server first, then taken into the book by a change. */
import { toast } from 'sonner';
import type { Change, Picture } from '@pagina/core/book';
import { shortId } from './ids';
import type { TitleSession } from './session';

/** Kinds of picture that are taken, by media type; those that no book carries are turned into one that does. */
export const PICTURES = ['image/png', 'image/jpeg', 'image/gif', 'image/webp', 'image/tiff', 'image/avif'];

/** Keeps a picture's file; answers the picture for the book, or why it cannot be one. */
async function keepPicture(title: string, file: File | Blob): Promise<Picture | { message: string }> {
  try {
    const r = await fetch(`/api/titles/${title}/pictures`, { method: 'POST', body: file });
    const info = (await r.json()) as Omit<Picture, 'id' | 'name'> & { message?: string };
    if (!r.ok) return { message: info.message ?? 'The picture could not be kept.' };
    const { type, width, height, sha256 } = info;
    const name = file instanceof File ? file.name : '';
    return { id: `pic-${shortId()}`, name, type, width, height, ...(sha256 ? { sha256 } : {}) };
  } catch {
    return { message: 'Pagina can’t be reached just now; the picture wasn’t added.' };
  }
}

/** Keeps pictures' files; those that cannot be pictures of the book are left out, and the author is told why. */
export async function keepPictures(
  session: TitleSession,
  files: readonly (File | Blob)[],
): Promise<Picture[]> {
  const kept: Picture[] = [];
  for (const file of files) {
    const picture = await keepPicture(session.id, file);
    if (!('message' in picture)) kept.push(picture);
    else toast(file instanceof File && file.name ? `${file.name}: ${picture.message}` : picture.message);
  }
  return kept;
}

/** Takes a picture into the book, together with what else is to be done with it in one step; null when it cannot be. */
export async function takeIn(
  session: TitleSession,
  file: File | Blob,
  label = 'Keep a picture',
  more: (id: string) => Change[] = () => [],
): Promise<Picture | null> {
  const [picture] = await keepPictures(session, [file]);
  if (!picture) return null;
  const done = await session.change({
    type: 'group',
    label,
    changes: [{ type: 'add-pictures', pictures: [picture] }, ...more(picture.id)],
  });
  return done ? picture : null;
}

export { addressOf as fileOf } from '@/workers/addresses';
