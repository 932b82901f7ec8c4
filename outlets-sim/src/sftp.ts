/** A door to a folder by SSH's file transfer (draft-ietf-secsh-filexfer-02), for an account with a password. */
import { createHash, randomBytes } from 'node:crypto';
import {
  closeSync,
  existsSync,
  fstatSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  readSync,
  renameSync,
  statSync,
  writeFileSync,
  writeSync,
  type Stats,
} from 'node:fs';
import { join, normalize } from 'node:path';
import ssh2, { type Attributes, type Connection, type SFTPWrapper } from 'ssh2';
import type { House } from './house';
import { collect, hatchOf, openHatch, outFile } from './shops/shelfmoor';

const { Server, utils } = ssh2;
const { STATUS_CODE, OPEN_MODE } = utils.sftp;
const USER = 'imprint';

/** The host's own key, the same at every start. */
function hostKey(house: House): string {
  const path = join(house.folder, 'outlets-host-key');
  if (!existsSync(path)) writeFileSync(path, utils.generateKeyPairSync('ed25519').private, { mode: 0o600 });
  return readFileSync(path, 'utf8');
}
/** What a client that is to be sure of the host compares its key with: SHA-256, in base64. */
export function fingerprintOf(house: House): string {
  const key = utils.parseKey(hostKey(house));
  if (key instanceof Error) throw key;
  const [one] = Array.isArray(key) ? key : [key];
  return fingerprint(one!.getPublicSSH());
}
const fingerprint = (key: Buffer): string =>
  createHash('sha256').update(key).digest('base64').replace(/=+$/, '');

const attrsOf = (s: Stats | { size: number; isDirectory: () => boolean }): Attributes => ({
  mode: s.isDirectory() ? 0o40755 : 0o100644,
  uid: 0,
  gid: 0,
  size: s.size,
  atime: 0,
  mtime: 0,
});

export function sftpServer(house: House): InstanceType<typeof Server> {
  openHatch(house);
  const open = new Set<Connection>();
  const server = new Server({ hostKeys: [hostKey(house)] }, (client) => {
    open.add(client);
    client.on('error', () => undefined).on('close', () => void open.delete(client));
    const weather = house.weatherAt('shelfmoor');
    if (weather === 'closed') return client.end();
    client.on('authentication', (ask) => {
      const right =
        ask.method === 'password' && ask.username === USER && ask.password === house.accounts.shelfmoor;
      if (weather === 'silent') return;
      setTimeout(() => (right ? ask.accept() : ask.reject(['password'])), weather === 'slow' ? 2_000 : 0);
    });
    client.on('ready', () =>
      client.on('session', (accept) =>
        accept().on('sftp', (acceptSftp) => serve(acceptSftp(), house, client)),
      ),
    );
  });
  return server;
}

interface Open {
  fd: number | null;
  /** A file that is told and lies nowhere. */
  told: Buffer | null;
  entries: string[] | null;
}

function serve(sftp: SFTPWrapper, house: House, client: Connection): void {
  const root = hatchOf(house);
  const open = new Map<string, Open>();
  /** A path below the hatch; whatever climbs out of it stays at its foot. */
  const at = (path: string): string => join(root, normalize(join('/', path)));
  const handleOf = (o: Open): Buffer => {
    const id = randomBytes(4);
    open.set(id.toString('hex'), o);
    return id;
  };
  const opened = (h: Buffer): Open | undefined => open.get(h.toString('hex'));
  const told = async (path: string): Promise<Buffer | null> => {
    const name = /^\/?out\/([\w.-]+\.xml)$/.exec(normalize(path))?.[1];
    const text = name ? await outFile(house, name) : null;
    return text === null ? null : Buffer.from(text);
  };
  /** Answers a request by what `work` does; whatever goes wrong is a failure of that request alone. */
  const tries = (id: number, work: () => void | Promise<void>): void => {
    Promise.resolve()
      .then(work)
      .catch((e: NodeJS.ErrnoException) =>
        sftp.status(id, e.code === 'ENOENT' ? STATUS_CODE.NO_SUCH_FILE : STATUS_CODE.FAILURE),
      );
  };
  const ok = (id: number): void => sftp.status(id, STATUS_CODE.OK);
  const stat = (id: number, path: string): void =>
    tries(id, async () => {
      const words = await told(path);
      sftp.attrs(id, attrsOf(words ? { size: words.length, isDirectory: () => false } : statSync(at(path))));
    });
  sftp.on('REALPATH', (id, path) => {
    const filename = normalize(join('/', path));
    sftp.name(id, [{ filename, longname: filename, attrs: attrsOf({ size: 0, isDirectory: () => true }) }]);
  });
  sftp.on('STAT', stat).on('LSTAT', stat);
  sftp.on('FSTAT', (id, h) =>
    tries(id, () => {
      const o = opened(h);
      if (o?.told) return sftp.attrs(id, attrsOf({ size: o.told.length, isDirectory: () => false }));
      if (typeof o?.fd !== 'number') throw new Error();
      sftp.attrs(id, attrsOf(fstatSync(o.fd)));
    }),
  );
  sftp.on('OPEN', (id, path, flags) =>
    tries(id, async () => {
      const words = flags & OPEN_MODE.WRITE ? null : await told(path);
      if (words) return sftp.handle(id, handleOf({ fd: null, told: words, entries: null }));
      const mode = !(flags & OPEN_MODE.WRITE)
        ? 'r'
        : existsSync(at(path)) && !(flags & OPEN_MODE.TRUNC)
          ? 'r+'
          : 'w';
      if (mode !== 'r' && !/^\/?in\//.test(normalize(path))) throw new Error();
      sftp.handle(id, handleOf({ fd: openSync(at(path), mode), told: null, entries: null }));
    }),
  );
  sftp.on('READ', (id, h, offset, length) =>
    tries(id, () => {
      const o = opened(h);
      let bytes: Buffer;
      if (o?.told) bytes = o.told.subarray(offset, offset + length);
      else {
        if (typeof o?.fd !== 'number') throw new Error();
        const whole = Buffer.alloc(length);
        bytes = whole.subarray(0, readSync(o.fd, whole, 0, length, offset));
      }
      if (bytes.length === 0) sftp.status(id, STATUS_CODE.EOF);
      else sftp.data(id, bytes);
    }),
  );
  sftp.on('WRITE', (id, h, offset, data) =>
    tries(id, () => {
      const fd = opened(h)?.fd;
      if (typeof fd !== 'number') throw new Error();
      writeSync(fd, data, 0, data.length, offset);
      ok(id);
    }),
  );
  sftp.on('CLOSE', (id, h) =>
    tries(id, () => {
      const fd = opened(h)?.fd;
      open.delete(h.toString('hex'));
      if (typeof fd === 'number') closeSync(fd);
      ok(id);
    }),
  );
  sftp.on('MKDIR', (id, path) =>
    tries(id, () => {
      mkdirSync(at(path));
      ok(id);
    }),
  );
  sftp.on('OPENDIR', (id, path) =>
    tries(id, () => sftp.handle(id, handleOf({ fd: null, told: null, entries: readdirSync(at(path)) }))),
  );
  sftp.on('READDIR', (id, h) =>
    tries(id, () => {
      const o = opened(h);
      if (!o?.entries || o.entries.length === 0) return sftp.status(id, STATUS_CODE.EOF);
      const attrs = attrsOf({ size: 0, isDirectory: () => false });
      sftp.name(
        id,
        o.entries.map((filename) => ({ filename, longname: filename, attrs })),
      );
      o.entries = [];
    }),
  );
  sftp.on('RENAME', (id, from, to) =>
    tries(id, async () => {
      renameSync(at(from), at(to));
      if (to.endsWith('record.xml')) {
        await collect(house);
        if (house.weatherAt('shelfmoor') === 'cut') return void client.end();
      }
      ok(id);
    }),
  );
}
