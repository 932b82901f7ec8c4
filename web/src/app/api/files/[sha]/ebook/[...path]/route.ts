import { problem } from '@/server/answer';
import { openEbook } from '@/server/ebook';
import { route } from '@/server/route';

const BY_ENDING: Record<string, string> = {
  xhtml: 'application/xhtml+xml',
  html: 'text/html',
  css: 'text/css',
  svg: 'image/svg+xml',
  png: 'image/png',
  jpg: 'image/jpeg',
  jpeg: 'image/jpeg',
  gif: 'image/gif',
  webp: 'image/webp',
  ttf: 'font/ttf',
  otf: 'font/otf',
  woff: 'font/woff',
  woff2: 'font/woff2',
  mp3: 'audio/mpeg',
  mp4: 'video/mp4',
};

/**
 * A part of a kept ebook, as it is. Whatever it holds, nothing in it runs, nothing is sent, and nothing is fetched but
 * its own parts and our typefaces (Content Security Policy Level 3, W3C).
 */
export const GET = route<{ sha: string; path: string[] }>(async (request, { sha }) => {
  const { pathname } = new URL(request.url);
  const base = `/api/files/${sha}/ebook/`;
  const path = decoded(pathname.slice(base.length));
  const book = await openEbook(sha);
  let bytes: Uint8Array | null;
  try {
    bytes = book.zip.read(path);
  } catch {
    return problem('This part of the ebook is damaged.', 422);
  }
  if (!bytes) return problem('The ebook has no such part.', 404);
  const declared = book.manifest.find((i) => i.path === path)?.type;
  const type =
    declared ?? BY_ENDING[path.split('.').at(-1)?.toLowerCase() ?? ''] ?? 'application/octet-stream';
  const host = request.headers.get('host') ?? '';
  // An address in brackets can’t be named in a policy.
  const at = (p: string): string => (host.startsWith('[') ? "'self'" : host + p);
  const own = at(base);
  return new Response(bytes as Uint8Array<ArrayBuffer>, {
    headers: {
      'Content-Type': type,
      'Cache-Control': 'private, max-age=31536000, immutable',
      'X-Content-Type-Options': 'nosniff',
      'Content-Security-Policy': [
        "default-src 'none'",
        `img-src ${own} data:`,
        `media-src ${own}`,
        `style-src ${own} 'unsafe-inline'`,
        `font-src ${own} ${at('/type/')} data:`,
        "base-uri 'none'",
        "form-action 'none'",
        "frame-ancestors 'self'",
        'sandbox allow-same-origin',
      ].join('; '),
    },
  });
});

function decoded(path: string): string {
  try {
    return decodeURIComponent(path);
  } catch {
    return path;
  }
}
