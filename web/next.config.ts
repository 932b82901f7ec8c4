import type { NextConfig } from 'next';
import { resolve } from 'node:path';

/** No script but ours, no frame, nothing fetched from elsewhere. WebAssembly is the shaping engine. */
const policy = [
  "default-src 'self'",
  "script-src 'self' 'unsafe-inline' 'wasm-unsafe-eval'",
  "style-src 'self' 'unsafe-inline'",
  "img-src 'self' blob: data:",
  "font-src 'self'",
  "worker-src 'self' blob:",
  "connect-src 'self'",
  "frame-ancestors 'none'",
  "base-uri 'self'",
  "form-action 'self'",
  "object-src 'none'",
].join('; ');

const config: NextConfig = {
  transpilePackages: ['@pagina/core', '@pagina/data'],
  serverExternalPackages: ['@libsql/client', 'libsql', 'hunspell-asm'],
  turbopack: { root: resolve(import.meta.dirname, '..') },
  poweredByHeader: false,
  // Pagina runs on the author's own machine: compressing takes longer than sending. A proxy before it may compress.
  compress: false,
  devIndicators: false,
  headers: async () => [
    {
      // Parts of an ebook come with a policy of their own, which is stricter.
      source: '/((?!api/files/[^/]+/ebook/|api/ebooks/[^/]+/parts/).*)',
      headers: [
        { key: 'Content-Security-Policy', value: policy },
        { key: 'X-Content-Type-Options', value: 'nosniff' },
        { key: 'Referrer-Policy', value: 'same-origin' },
      ],
    },
  ],
};
export default config;
