/**
 * Keys of accounts, sealed: whoever reads the database alone, or a copy of it, can't use them. They are encrypted with
 * AES-256 in GCM (NIST SP 800-38D) by a secret that lies beside the database and is readable by its owner alone. Never logged,
 * and never sent to a page.
 */
import { createCipheriv, createDecipheriv, randomBytes, randomUUID } from 'node:crypto';
import { link, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Store } from './open';

const SECRET = 'secret.key';
const BYTES = 32;
/** Of the nonce and of the tag. */
const [NONCE, TAG] = [12, 16];

/** Made at first use; two processes that make one at once agree on the first. */
async function secretOf(store: Store): Promise<Buffer> {
  const path = join(store.folder, SECRET);
  const known = await readFile(path).catch(() => null);
  if (known?.length === BYTES) return known;
  const made = `${path}.${randomUUID()}`;
  await writeFile(made, randomBytes(BYTES), { mode: 0o600, flush: true });
  await link(made, path).catch(() => undefined);
  await rm(made, { force: true });
  return readFile(path);
}

/** `of` is what the text belongs to: sealed for one thing, it opens for no other. */
export async function seal(store: Store, text: string, of: string): Promise<string> {
  const nonce = randomBytes(NONCE);
  const cipher = createCipheriv('aes-256-gcm', await secretOf(store), nonce).setAAD(Buffer.from(of));
  const body = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
  return Buffer.concat([nonce, cipher.getAuthTag(), body]).toString('base64');
}

/** Null where the secret is another than the one it was sealed with, or it has been changed. */
export async function unseal(store: Store, sealed: string, of: string): Promise<string | null> {
  const bytes = Buffer.from(sealed, 'base64');
  try {
    const opener = createDecipheriv('aes-256-gcm', await secretOf(store), bytes.subarray(0, NONCE))
      .setAAD(Buffer.from(of))
      .setAuthTag(bytes.subarray(NONCE, NONCE + TAG));
    return Buffer.concat([opener.update(bytes.subarray(NONCE + TAG)), opener.final()]).toString('utf8');
  } catch {
    return null;
  }
}
