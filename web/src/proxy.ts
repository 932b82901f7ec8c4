/** Local does not mean open: only known hosts are answered, and only our own pages may change anything. */
import { NextResponse, type NextRequest } from 'next/server';
import { isLocal } from './server/local';

const hosts = (process.env.PAGINA_HOSTS ?? '')
  .split(',')
  .map((h) => h.trim())
  .filter(Boolean);
const known = (host: string): boolean => isLocal(host) || hosts.includes(host);

export function proxy(request: NextRequest): NextResponse {
  const host = request.headers.get('host') ?? '';
  if (!known(host)) return new NextResponse('This address is not known here.', { status: 421 });
  if (request.method !== 'GET' && request.method !== 'HEAD') {
    const origin = request.headers.get('origin');
    const site = request.headers.get('sec-fetch-site');
    const own = origin
      ? new URL(origin).host === host
      : site === null || site === 'same-origin' || site === 'none';
    if (!own || (site !== null && site !== 'same-origin' && site !== 'none'))
      return new NextResponse('The request came from another site.', { status: 403 });
  }
  return NextResponse.next();
}

export const config = { matcher: ['/((?!_next/static|type/).*)'] };
