/** Zip containers are read with Node's inflater, which needs no warming up. */
import { inflateRawSync } from 'node:zlib';
import { useInflater } from '@pagina/core/base';

export function inflateByHost(): void {
  useInflater((data, size) => {
    const b = inflateRawSync(data, { maxOutputLength: Math.max(1, size) });
    return new Uint8Array(b.buffer, b.byteOffset, b.byteLength);
  });
}
