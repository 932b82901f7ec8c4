'use client';
/** Pictures of a title: kept by the server first, then taken into the book by a change. */
import type { Picture } from '@pagina/core/book';
import { shortId } from './session';

/** Keeps a picture's file; answers the picture for the book, or why it cannot be one. */
export async function keepPicture(title: string, file: File | Blob): Promise<Picture | { message: string }> {
  try {
    const r = await fetch(`/api/titles/${title}/pictures`, { method: 'POST', body: file });
    const info = (await r.json()) as Omit<Picture, 'id' | 'name'> & { message?: string };
    if (!r.ok) return { message: info.message ?? 'The picture could not be kept.' };
    const { type, width, height, sha256 } = info;
    const name = file instanceof File ? file.name : '';
    return { id: `pic-${shortId()}`, name, type, width, height, ...(sha256 ? { sha256 } : {}) };
  } catch {
    return { message: 'The program cannot be reached just now; the picture was not kept.' };
  }
}

/** Address of a picture's file; '' while it has none. */
export const fileOf = (p: Picture): string =>
  p.sha256 ? `/api/files/${p.sha256}?type=${p.type === 'image/jpeg' ? 'jpg' : p.type.slice(6)}` : '';
