/**
 * Shelfmoor is reached over SFTP: a parcel is a folder with the files, their checksums as `sha256sum` writes them, and last
 * of all the record as an ONIX message, renamed into place. Its answers lie in another folder.
 */
import { createHash } from 'node:crypto';
import { descendants, type XmlElement } from '@pagina/core/base';
import type { News } from '@pagina/core/outlets';
import { type OutletAdapter, type Parcel, type Receipt } from './adapter';
import { NotSent } from './notsent';
import type { RemoteFiles } from './remote';
import { attrOf, rootOf, standingIn, textsIn } from './xml';

const digest = (text: string): string => createHash('sha256').update(text).digest('hex').slice(0, 12);

/** Puts a text there whole: under another name first. */
async function put(files: RemoteFiles, path: string, text: string): Promise<void> {
  await files.put(`${path}.part`, text);
  await files.rename(`${path}.part`, path);
}

/** What the outlet wrote of a parcel; null where it wrote nothing yet. Throws `NotSent` where it was refused. */
async function noticeOf(files: RemoteFiles, key: string): Promise<Receipt | null> {
  const text = await files.read(`/out/${key}.xml`);
  if (text === null) return null;
  const root = rootOf(text);
  const [refused] = textsIn(root, 'refused');
  if (refused !== undefined) throw new NotSent(refused, false);
  return {
    reference: attrOf(root, 'number'),
    sha256s: descendants(root, 'file').map((f: XmlElement) => attrOf(f, 'sha256')),
  };
}

/** A folder with a record and nothing else. */
async function tell(files: RemoteFiles, parcel: Parcel, notification: '04' | '05'): Promise<void> {
  const key = `${parcel.key}-${notification}-${parcel.revision}`;
  await files.folder(`/in/${key}`);
  await put(files, `/in/${key}/record.xml`, parcel.onix(notification));
  await noticeOf(files, key);
}

export const shelfmoor: OutletAdapter = {
  ask: ({ key }, line) =>
    // Its last word may be a refusal: then it has nothing.
    line.files((files) =>
      noticeOf(files, key).catch((e: unknown) => (isRefusal(e) ? null : Promise.reject(e))),
    ),
  send: (parcel, line, share = () => undefined) =>
    line.files(async (files) => {
      const all = parcel.files.reduce((n, f) => n + f.size, 0);
      const sums = parcel.files.map((f) => `${f.sha256}  ${f.name}\n`).join('');
      // A parcel that is begun anew with other files has another folder.
      const folder = `/in/${parcel.key}.${digest(sums)}`;
      await files.folder(folder);
      let before = 0;
      for (const file of parcel.files) {
        const path = `${folder}/${file.name}`;
        if ((await files.size(path)) !== file.size) {
          const there = Math.min((await files.size(`${path}.part`)) ?? 0, file.size);
          await files.write(
            `${path}.part`,
            there,
            counted(file.bytes(there), (n) => share((before + there + n) / all)),
          );
          await files.rename(`${path}.part`, path);
        }
        before += file.size;
      }
      await put(files, `${folder}/files.sha256`, sums);
      await put(files, `${folder}/record.xml`, parcel.onix(parcel.replaces ? '04' : '03'));
      const receipt = await noticeOf(files, parcel.key);
      if (!receipt) throw new NotSent('The outlet hasn’t confirmed the parcel yet.', true);
      return receipt;
    }),
  revise: (_, parcel, line) => line.files((files) => tell(files, parcel, '04')),
  withdraw: (_, parcel, line) => line.files((files) => tell(files, parcel, '05')),
  async poll(number, line): Promise<News | null> {
    const text = await line.files((files) => files.read(`/out/${number}.xml`));
    if (text === null) return null;
    const root = rootOf(text);
    return {
      ...standingIn(root),
      listed: {
        title: textsIn(root, 'title')[0] ?? '',
        subtitle: textsIn(root, 'subtitle')[0] ?? '',
        authors: textsIn(root, 'author'),
        isbn: textsIn(root, 'isbn')[0] ?? '',
        // Its price is that of libraries, and no list price.
      },
    };
  },
};

const isRefusal = (e: unknown): boolean => e instanceof NotSent && !e.again;

async function* counted(
  chunks: AsyncIterable<Uint8Array>,
  done: (bytes: number) => void,
): AsyncGenerator<Uint8Array> {
  let bytes = 0;
  for await (const chunk of chunks) {
    yield chunk;
    bytes += chunk.length;
    done(bytes);
  }
}
