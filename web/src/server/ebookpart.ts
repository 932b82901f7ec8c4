/** A part of an ebook as an answer, and what may happen in it. */
import { problem } from './answer';

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
 * A part of an ebook, as it is. Whatever it holds, nothing in it runs, nothing is sent, and nothing is fetched but
 * its own parts and our typefaces (Content Security Policy Level 3, W3C). `base`: where its parts stand.
 */
export function partAnswer(
  request: Request,
  { base, path, read, type }: { base: string; path: string; read: () => Uint8Array | null; type?: string },
  headers: Record<string, string>,
): Response {
  let bytes: Uint8Array | null;
  try {
    bytes = read();
  } catch {
    return problem('This part of the ebook is damaged.', 422);
  }
  if (!bytes) return problem('The ebook has no such part.', 404);
  const host = request.headers.get('host') ?? '';
  // An address in brackets can’t be named in a policy.
  const at = (p: string): string => (host.startsWith('[') ? "'self'" : host + p);
  const own = at(base);
  return new Response(bytes as Uint8Array<ArrayBuffer>, {
    headers: {
      'Content-Type':
        type ?? BY_ENDING[path.split('.').at(-1)?.toLowerCase() ?? ''] ?? 'application/octet-stream',
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
      ...headers,
    },
  });
}

/** The path of the part that a request is for. */
export function partPath(request: Request, base: string): string {
  const path = new URL(request.url).pathname.slice(base.length);
  try {
    return decodeURIComponent(path);
  } catch {
    return path;
  }
}
