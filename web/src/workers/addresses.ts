import type { Picture } from '@pagina/core/book';

/** Address of a picture's file; '' while it has none. */
export const addressOf = (p: Picture): string =>
  p.sha256 ? `/api/files/${p.sha256}?type=${p.type === 'image/jpeg' ? 'jpg' : p.type.slice(6)}` : '';
