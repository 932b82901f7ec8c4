'use client';
import type { Product } from '@pagina/data';
import { Tip } from './Tip';

export const sizeInWords = (bytes: number): string =>
  bytes > 1e6 ? `${(bytes / 1e6).toFixed(1)} MB` : `${Math.ceil(bytes / 1000)} kB`;

/** A file that was made: its name to fetch it by, its size and its checksum. */
export function FileOf({ product }: { product: Product }) {
  return (
    <span>
      <FileLink product={product} />
      <span className="block text-[13px] text-ink-soft">{sizeInWords(product.size)}</span>
      <Tip words={`SHA-256 ${product.sha256}`}>
        <code className="block font-sans text-[12px] break-all text-ink-soft" tabIndex={0}>
          SHA-256 {product.sha256.slice(0, 12)}…
        </code>
      </Tip>
    </span>
  );
}

export function FileLink({ product }: { product: Product }) {
  return (
    <a
      className="text-spruce underline"
      href={`/api/files/${product.sha256}?name=${encodeURIComponent(product.name)}`}
      download={product.name}
    >
      {product.name}
    </a>
  );
}
