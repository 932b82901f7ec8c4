/** A session of SSH's file transfer with a host whose key is known: nothing is said to another. */
import { createHash } from 'node:crypto';
import ssh2, { type SFTPWrapper } from 'ssh2';
import { NotSent, tooLate, tooLong, unreachable, wrongKey } from './notsent';
import type { RemoteFiles } from './remote';

const { Client, utils } = ssh2;

export interface SftpAddress {
  host: string;
  port: number;
  user: string;
  password: string;
  /** SHA-256 of the host's key in base64, as `ssh-keygen -l` shows it. */
  fingerprint: string;
}

interface Limits {
  /** Milliseconds that may pass without anything coming or going. */
  time: number;
  /** Bytes of a file that is read. */
  most: number;
  stop?: AbortSignal | undefined;
}

/** Throws `NotSent` as calls over HTTP do, and the stop's AbortError. */
export function openSftp<T>(
  { host, port, user, password, fingerprint }: SftpAddress,
  limits: Limits,
  work: (files: RemoteFiles) => Promise<T>,
): Promise<T> {
  const { stop, time } = limits;
  return new Promise((resolve, reject) => {
    const client = new Client();
    let over = false;
    let stranger = false;
    const end = (finish: () => void): void => {
      if (over) return;
      over = true;
      clearTimeout(timer);
      stop?.removeEventListener('abort', stopped);
      finish();
      client.end();
      client.destroy();
    };
    const fail = (e: unknown): void => end(() => reject(e as Error));
    const stopped = (): void => fail(stop?.reason ?? new Error('stopped'));
    let timer = setTimeout(() => fail(tooLate(time)), time);
    /** Something came: time begins anew. */
    const alive = (): void => {
      clearTimeout(timer);
      if (!over) timer = setTimeout(() => fail(tooLate(time)), time);
    };
    if (stop?.aborted) return stopped();
    stop?.addEventListener('abort', stopped);
    client.on('error', (e) => {
      const { level } = e as { level?: string };
      if (stranger)
        fail(new NotSent('The host isn’t the one whose key you were given. Nothing was sent.', false));
      else fail(level === 'client-authentication' ? wrongKey() : unreachable());
    });
    client.on('close', () => fail(unreachable()));
    client.on('ready', () =>
      client.sftp((e, sftp) => {
        if (e) return fail(unreachable());
        work(remoteFiles(sftp, limits.most, alive)).then(
          (value) => end(() => resolve(value)),
          (why: unknown) => fail(why instanceof NotSent ? why : unreachable()),
        );
      }),
    );
    client.connect({
      host,
      port,
      username: user,
      password,
      readyTimeout: time,
      hostVerifier: (key: Buffer) => {
        const shown = createHash('sha256').update(key).digest('base64').replace(/=+$/, '');
        stranger = shown !== fingerprint;
        return !stranger;
      },
    });
  });
}

const { OPEN_MODE } = utils.sftp;
const NO_FILE = utils.sftp.STATUS_CODE.NO_SUCH_FILE;

function remoteFiles(sftp: SFTPWrapper, most: number, alive: () => void): RemoteFiles {
  /** A call of the library as a promise; every answer counts as a sign of life. */
  const asked = <R>(call: (done: (e: Error | null | undefined, r?: R) => void) => void): Promise<R> =>
    new Promise((resolve, reject) =>
      call((e, r) => {
        alive();
        if (e) reject(e);
        else resolve(r as R);
      }),
    );
  const orNone = (e: unknown): null => {
    if ((e as { code?: number }).code === NO_FILE) return null;
    throw e;
  };
  const size = (path: string): Promise<number | null> =>
    asked<{ size: number }>((done) => sftp.stat(path, done)).then((s) => s.size, orNone);
  return {
    size,
    async read(path) {
      const bytes = await size(path);
      if (bytes === null) return null;
      if (bytes > most) throw tooLong();
      return asked<Buffer>((done) => sftp.readFile(path, done)).then((b) => b.toString('utf8'), orNone);
    },
    async put(path, text) {
      await asked<undefined>((done) => sftp.writeFile(path, text, done));
    },
    async write(path, from, chunks) {
      // Two that bring the same file at once write the same bytes to the same places.
      const mode = OPEN_MODE.WRITE | OPEN_MODE.CREAT;
      const handle = await asked<Buffer>((done) => sftp.open(path, mode, done));
      let at = from;
      for await (const chunk of chunks) {
        const buffer = Buffer.from(chunk);
        await asked<undefined>((done) => sftp.write(handle, buffer, 0, buffer.length, at, done));
        at += buffer.length;
      }
      await asked<undefined>((done) => sftp.close(handle, done));
    },
    async rename(from, to) {
      await asked<undefined>((done) => sftp.rename(from, to, done));
    },
    async folder(path) {
      if ((await size(path)) === null) await asked<undefined>((done) => sftp.mkdir(path, done));
    },
  };
}
