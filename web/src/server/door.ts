/** Local does not mean open: only known hosts are answered, and only our own pages may ask for or change anything. */

/** One's own machine, by the request's Host. */
const isLocal = (host: string): boolean => /^(localhost|127\.0\.0\.1|\[::1\])(:\d+)?$/.test(host);

const named = (process.env.PAGINA_HOSTS ?? '')
  .split(',')
  .map((h) => h.trim())
  .filter(Boolean);
export const isKnownHost = (host: string): boolean => isLocal(host) || named.includes(host);

/** The host of an Origin; null for one that is no address ("null" of a sandboxed frame, or rubbish). */
function hostOf(origin: string): string | null {
  try {
    return new URL(origin).host;
  } catch {
    return null;
  }
}

/** Why a request is not let in, with its status; null when it is. Sec-Fetch-Site is of Fetch Metadata (W3C). */
export function barred(headers: Headers): { status: number; why: string } | null {
  const host = headers.get('host') ?? '';
  if (!isKnownHost(host)) return { status: 421, why: 'Pagina doesn’t answer to this address.' };
  const origin = headers.get('origin');
  const site = headers.get('sec-fetch-site');
  const own =
    (origin === null || hostOf(origin) === host) &&
    (site === null || site === 'same-origin' || site === 'none');
  return own ? null : { status: 403, why: 'The request came from another site.' };
}
