/** Mends of the container and of files as they are: the first part, what META-INF lacks, encodings. */
import iconv from 'iconv-lite';
import { bytesOf } from '../../emend';
import type { Mend, Mending } from './mend';

const CONTAINER = 'META-INF/container.xml';

/** The package document that there is, where there is one alone. */
function onlyPackage({ d }: Mending): string | null {
  const found = [...d.now.parts.keys()].filter((p) => /\.opf$/i.test(p));
  return found.length === 1 ? (found[0] as string) : null;
}

/** Bytes as text: in the encoding that they declare, or else in that of Western Windows (common practice). */
function decoded(bytes: Uint8Array): string {
  const head = iconv.decode(bytes.subarray(0, 300) as never, 'latin1');
  const said = /encoding\s*=\s*["']([\w.-]+)["']/.exec(head)?.[1] ?? '';
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    const of = iconv.encodingExists(said) && !/^utf-?8$/i.test(said) ? said : 'windows-1252';
    return iconv.decode(bytes as never, of);
  }
}

/** Writes the first part anew; what is written anew is packed whole. */
const rewriteStart: Mend['apply'] = ({ d }) => {
  if (d.now.parts.has('mimetype')) d.remove('mimetype');
  d.addFirst('mimetype', { text: 'application/epub+zip' });
};

export const CONTAINER_MENDS: Record<string, Mend> = {
  'pack-again': { label: 'Repack the intact files', apply: rewriteStart },
  mimetype: { label: 'Rewrite the start of the container', apply: rewriteStart },
  container: {
    label: 'Rewrite META-INF/container.xml',
    apply(m) {
      const { d } = m;
      const path = m.s.path && d.now.parts.has(m.s.path) ? m.s.path : onlyPackage(m);
      if (path === null) return;
      const escaped = path.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/"/g, '&quot;');
      const text = `<?xml version="1.0" encoding="utf-8"?>\n<container version="1.0" xmlns="urn:oasis:names:tc:opendocument:xmlns:container">\n  <rootfiles>\n    <rootfile full-path="${escaped}" media-type="application/oebps-package+xml"/>\n  </rootfiles>\n</container>\n`;
      if (d.now.parts.has(CONTAINER)) d.replace(CONTAINER, { text });
      else d.add(CONTAINER, { text }, 'mimetype');
    },
  },
  'stray-file': {
    label: 'Remove files that don’t belong to the ebook',
    apply({ d, findings }) {
      for (const { file } of findings) if (file !== undefined) d.remove(file);
    },
  },
  encoding: {
    label: 'Save as UTF-8',
    apply({ d, findings }) {
      for (const file of new Set(findings.map((f) => f.file))) {
        const bytes = file === undefined ? null : bytesOf(d.now, file);
        if (file === undefined || !bytes) continue;
        const text = decoded(bytes).replace(
          /^(\ufeff?<\?xml[^>]*?encoding\s*=\s*["'])[\w.-]+(["'])/,
          '$1utf-8$2',
        );
        d.replace(file, { text });
      }
    },
  },
};
