/** The server's doors: who is let in, how much they may bring, and what hostile requests are answered. */
import { createHash, randomBytes } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { connect } from 'node:net';
import { join } from 'node:path';
import { beforeAll, describe, expect, inject, it } from 'vitest';
import { address } from './browser';

const HOST = (): string => new URL(address()).host;
let title: string;
beforeAll(async () => {
  const r = await fetch(`${address()}/api/titles`, json('POST', { title: 'Doors' }));
  ({ title } = (await r.json()) as { title: string });
});
function json(method: string, body: unknown, headers: Record<string, string> = {}): RequestInit {
  const text = typeof body === 'string' ? body : JSON.stringify(body);
  return { method, headers: { 'Content-Type': 'application/json', ...headers }, body: text };
}
const call = (path: string, init?: RequestInit): Promise<Response> => fetch(`${address()}/api/${path}`, init);
const messageOf = async (r: Response): Promise<string> => ((await r.json()) as { message: string }).message;

describe('an upload', () => {
  const send = (bytes: Uint8Array, name = 'long.txt'): Promise<Response> =>
    call('titles/import', { method: 'POST', headers: { 'x-file-name': name }, body: bytes as BodyInit });

  it('of 25 MB is kept to its last byte', async () => {
    // Noise in letters: nothing of it is the same twice.
    const bytes = new Uint8Array(Buffer.from(randomBytes(19_000_000).toString('base64')));
    expect(bytes.length).toBeGreaterThan(25_000_000);
    const r = await send(bytes);
    expect(r.status).toBe(202);
    const { job } = (await r.json()) as { job: string };
    const kept = (await (await call(`jobs/${job}`)).json()) as { payload: { sha256: string } };
    const sha256 = createHash('sha256').update(bytes).digest('hex');
    expect(kept.payload.sha256).toBe(sha256);
    expect(readFileSync(join(inject('folder'), 'files', sha256.slice(0, 2), sha256)).length).toBe(
      bytes.length,
    );
    await call(`jobs/${job}`, { method: 'DELETE' });
  }, 60_000);
  it('that breaks off is not taken for a whole file', async () => {
    await new Promise<void>((done) => {
      const socket = connect(Number(new URL(address()).port), '127.0.0.1', () => {
        socket.write(
          `POST /api/titles/import HTTP/1.1\r\nHost: ${HOST()}\r\nx-file-name: cut.txt\r\nContent-Length: 1000000\r\n\r\n`,
        );
        socket.write('The first words only.');
        setTimeout(() => socket.destroy(), 300);
      });
      socket.on('close', () => done());
      socket.on('error', () => done());
    });
    await new Promise((r) => setTimeout(r, 500));
    const { jobs } = (await (await call('titles')).json()) as { jobs: { payload: { name: string } }[] };
    expect(jobs.filter((j) => j.payload.name === 'cut.txt')).toEqual([]);
  });
  it('announced as larger than the limit is refused before it is read', async () => {
    const answer = await new Promise<string>((done) => {
      const socket = connect(Number(new URL(address()).port), '127.0.0.1', () =>
        socket.write(
          `POST /api/titles/import HTTP/1.1\r\nHost: ${HOST()}\r\nx-file-name: big.txt\r\nContent-Length: 300000000\r\n\r\n`,
        ),
      );
      socket.once('data', (d: Buffer) => {
        done(d.toString());
        socket.destroy();
      });
    });
    expect(answer).toMatch(/ 413 /);
  });
  it('of nothing, or under a name that cannot be read, is refused in a sentence', async () => {
    expect(await messageOf(await send(new Uint8Array()))).toBe('The file is empty.');
    const odd = await send(new Uint8Array(3), '%E0%A4%A');
    expect(odd.status).toBe(400);
    expect(await messageOf(odd)).toMatch(/name can’t be read/);
  });
  it('of a damaged picture is refused', async () => {
    // The head of a PNG of 900 × 900, and no more.
    const head = Buffer.from(
      '89504e470d0a1a0a0000000d49484452000003840000038408060000000000000000000000',
      'hex',
    );
    const r = await call(`titles/${title}/pictures`, { method: 'POST', body: head });
    expect(r.status).toBe(415);
    expect(await messageOf(r)).toMatch(/damaged/);
  });
});

describe('requests from elsewhere', () => {
  it.each([
    ['from another site', { 'sec-fetch-site': 'cross-site' }],
    ['from another port', { 'sec-fetch-site': 'same-site' }],
    ['from a page of another origin', { Origin: 'http://evil.example' }],
    ['from a sandboxed frame', { Origin: 'null' }],
    ['with rubbish for an origin', { Origin: '::::' }],
  ])('%s are refused, reading ones too', async (_, headers) => {
    for (const path of ['titles', `titles/${title}`, `titles/${title}/changes`, 'events'])
      expect((await call(path, { headers })).status, path).toBe(403);
    expect((await call('titles', json('POST', { title: 'No' }, headers))).status).toBe(403);
  });
  it('to an unknown host are refused, pages too', async () => {
    const status = (path: string): Promise<string> =>
      new Promise((done) => {
        const socket = connect(Number(new URL(address()).port), '127.0.0.1', () =>
          socket.write(`GET ${path} HTTP/1.1\r\nHost: evil.example\r\nConnection: close\r\n\r\n`),
        );
        socket.once('data', (d: Buffer) => done(d.toString().split(' ')[1] ?? ''));
      });
    expect(await status('/api/titles')).toBe('421');
    expect(await status('/titles')).toBe('421');
  });
  it('from our own pages and from no page are answered', async () => {
    for (const headers of [
      {},
      { 'sec-fetch-site': 'none' },
      { Origin: address(), 'sec-fetch-site': 'same-origin' },
    ])
      expect((await call('titles', { headers: headers as Record<string, string> })).status).toBe(200);
  });
});

describe('what makes no sense', () => {
  const deep = (n: number): string =>
    `${'{"type":"group","label":"x","changes":['.repeat(n)}${']}'.repeat(n)}`;
  const change = (c: unknown) =>
    json(
      'POST',
      typeof c === 'string' ? `{"base":0,"client":"a","change":${c}}` : { base: 0, client: 'a', change: c },
    );
  const sha = 'a'.repeat(64);
  it.each<[string, () => [string, RequestInit?], number]>([
    ['a revision that is no number', () => [`titles/${title}/changes?since=abc`], 400],
    ['a version that is no number', () => [`titles/${title}/versions/abc`], 404],
    ['a version far in the future', () => [`titles/${title}/versions/99999999`], 404],
    ['a title that is not there', () => ['titles/none/changes'], 404],
    ['making for a title that is not there', () => ['titles/none/make', json('POST', { edition: 'x' })], 404],
    [
      'dismissing for a title that is not there',
      () => ['titles/none/dismissals', json('POST', { keys: ['x'] })],
      404,
    ],
    ['a job that is not there', () => ['jobs/none'], 404],
    ['a checksum that leads elsewhere', () => ['files/..%2F..%2Fpagina.db'], 404],
    [
      'a picture whose file is elsewhere',
      () => [
        `titles/${title}/changes`,
        change({
          type: 'add-pictures',
          pictures: [
            { id: 'p', name: '', type: 'image/png', width: 1, height: 1, sha256: '../../pagina.db' },
          ],
        }),
      ],
      400,
    ],
    [
      'a picture whose file is nowhere',
      () => [
        `titles/${title}/changes`,
        change({
          type: 'add-pictures',
          pictures: [{ id: 'p', name: '', type: 'image/png', width: 1, height: 1, sha256: sha }],
        }),
      ],
      409,
    ],
    ['groups within groups', () => [`titles/${title}/changes`, change(deep(3_000))], 400],
    ['no JSON', () => [`titles/${title}/changes`, json('POST', '{"base":')], 400],
    [
      'a language that is a property of every object',
      () => ['spelling', json('POST', { language: '__proto__', words: ['x'] })],
      200,
    ],
    ['an empty word', () => ['spelling?word='], 400],
  ])('%s gets an answer, and no fault', async (_, request, status) => {
    const [path, init] = request();
    const r = await call(path, init);
    expect(r.status).toBe(status);
    if (status >= 400) expect((await messageOf(r)).length).toBeGreaterThan(10);
  });
  it('JSON without end is not read to its end', async () => {
    const r = await call('trims', json('POST', `{"name":"${'x'.repeat(2_000_000)}"}`));
    expect(r.status).toBe(413);
  });
  it('a word of two hundred letters holds nobody up', async () => {
    const long = call(`spelling?language=de&word=${'Donaudampfschiff'.repeat(12).slice(0, 200)}`);
    const tricky = call(`spelling?language=de&word=${'abcdefghij'.repeat(5)}`);
    const started = performance.now();
    await call('titles');
    // Absolute, but generous: the server was frozen for fifteen seconds once.
    expect(performance.now() - started).toBeLessThan(3_000);
    expect(((await (await long).json()) as { suggestions: string[] }).suggestions).toEqual([]);
    expect((await tricky).status).toBe(200);
  }, 30_000);
});

it('a list of files beside a manuscript that is no such list is refused in a sentence', async () => {
  for (const beside of ['%ZZ', '{}', encodeURIComponent('[{"sha256":"../../etc","name":"x"}]')]) {
    const r = await fetch(`${address()}/api/titles/import`, {
      method: 'POST',
      headers: { 'x-file-name': 'a.txt', 'x-beside': beside },
      body: 'Chapter 1',
    });
    expect(r.status).toBe(400);
    expect(((await r.json()) as { message: string }).message).toMatch(
      /^The list of the other files can’t be read/,
    );
  }
});
