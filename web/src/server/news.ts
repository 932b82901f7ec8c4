/** News that outlets send by themselves. */
import { createHmac, timingSafeEqual } from 'node:crypto';
import { keyAt, type Store } from '@pagina/data';

/** Whether news come from the outlet: signed over the very bytes with the account's key (HMAC with SHA-256, RFC 2104). */
export async function isSigned(s: Store, outlet: string, body: string, signature: string): Promise<boolean> {
  const key = await keyAt(s, outlet);
  if (key === null) return false;
  const right = Buffer.from(`sha256=${createHmac('sha256', key).update(body).digest('hex')}`);
  const given = Buffer.from(signature);
  return right.length === given.length && timingSafeEqual(right, given);
}
