import type { Product } from '@pagina/data';

const size = (bytes: number): string =>
  bytes > 1e6 ? `${(bytes / 1e6).toFixed(1)} MB` : `${Math.ceil(bytes / 1000)} kB`;

/** A file that was made: its name to fetch it by, its size and its checksum. */
export function FileOf({ product }: { product: Product }) {
  return (
    <span>
      <FileLink product={product} />
      <span className="block text-[13px] text-ink-soft">{size(product.size)}</span>
      <code className="block font-sans text-[12px] text-ink-soft" title={`SHA-256 ${product.sha256}`}>
        SHA-256 {product.sha256.slice(0, 12)}…
      </code>
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
