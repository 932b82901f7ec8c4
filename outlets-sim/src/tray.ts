/**
 * Files that come in pieces, by the checksum that they are to have. A piece goes on where the one before ended, so that a file
 * of hundreds of megabytes whose line is cut doesn't start anew. Headers are named after the IETF's draft of resumable
 * uploads for HTTP (draft-ietf-httpbis-resumable-upload), from memory: `Upload-Offset`, `Upload-Length`.
 */
import { appendFileSync, mkdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { refuse, type Call, type Reply } from './http';
import { sha256Of, type ShopId } from './names';

const MOST = 500_000_000;

export class Tray {
  constructor(private readonly folder: string) {}

  private path(shop: ShopId, sha256: string): string {
    return join(this.folder, shop, sha256);
  }
  /** Bytes that have come; 0 where none have. */
  size(shop: ShopId, sha256: string): number {
    try {
      return statSync(this.path(shop, sha256)).size;
    } catch {
      return 0;
    }
  }
  /** The whole file; null where it hasn't all come, or isn't what was announced. */
  take(shop: ShopId, sha256: string, size: number): Uint8Array | null {
    if (!/^[0-9a-f]{64}$/.test(sha256) || this.size(shop, sha256) !== size) return null;
    const bytes = new Uint8Array(readFileSync(this.path(shop, sha256)));
    return sha256Of(bytes) === sha256 ? bytes : null;
  }
  clear(shop: ShopId, sha256: string): void {
    rmSync(this.path(shop, sha256), { force: true });
  }

  /** `HEAD /files/SHA256` tells how much has come; `PATCH` brings the next piece. */
  handle(shop: ShopId, sha256: string, call: Call): Reply {
    if (!/^[0-9a-f]{64}$/.test(sha256)) return refuse(400, 'A file is announced by its SHA-256.');
    const have = this.size(shop, sha256);
    const told = (status: number, at: number): Reply => ({
      status,
      headers: { 'Upload-Offset': String(at) },
      body: '',
    });
    if (call.method === 'HEAD') return told(have === 0 ? 404 : 204, have);
    if (call.method !== 'PATCH') return refuse(405, 'Files are brought by PATCH.');
    const offset = Number(call.headers['upload-offset']);
    const length = Number(call.headers['upload-length']);
    if (!Number.isInteger(offset) || !Number.isInteger(length) || length < 0 || length > MOST)
      return refuse(400, 'Say where the piece begins and how long the file is.');
    if (offset !== have) return told(409, have);
    if (have + call.body.length > length) return refuse(400, 'There is more than was announced.');
    mkdirSync(join(this.folder, shop), { recursive: true });
    appendFileSync(this.path(shop, sha256), call.body);
    const now = have + call.body.length;
    if (now === length && this.take(shop, sha256, length) === null) {
      this.clear(shop, sha256);
      return refuse(422, `The file arrived damaged: ${length} bytes with another checksum.`);
    }
    return told(204, now);
  }
}
