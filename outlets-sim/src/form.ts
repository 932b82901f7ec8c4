/** Reads a form with files (RFC 7578) by a library of others. */
import busboy from 'busboy';
import type { Call } from './http';

export interface Form {
  fields: Record<string, string[]>;
  files: { part: string; name: string; bytes: Buffer }[];
}

/** Rejects on what is no form. */
export function formOf({ headers, body }: Call): Promise<Form> {
  return new Promise((resolve, reject) => {
    const form: Form = { fields: {}, files: [] };
    const reader = busboy({
      headers: { 'content-type': headers['content-type'] ?? '' },
      defParamCharset: 'utf8',
    });
    reader.on('field', (name, value) => void (form.fields[name] ??= []).push(value));
    reader.on('file', (part, stream, { filename }) => {
      const chunks: Buffer[] = [];
      stream.on('data', (c: Buffer) => void chunks.push(c));
      stream.on(
        'end',
        () => void form.files.push({ part, name: filename ?? '', bytes: Buffer.concat(chunks) }),
      );
    });
    reader.on('error', (e) => reject(e as Error));
    reader.on('close', () => resolve(form));
    reader.end(body);
  });
}
