/**
 * Pages are shown to known hosts only. Requests to `/api` do not come through here (a proxy would hold their bodies in
 * memory, and cut them): each route has the same door, see `server/route.ts`.
 */
import { NextResponse, type NextRequest } from 'next/server';
import { isKnownHost } from './server/door';

export const proxy = (request: NextRequest): NextResponse =>
  isKnownHost(request.headers.get('host') ?? '')
    ? NextResponse.next()
    : new NextResponse('Pagina doesn’t answer to this address.', { status: 421 });

export const config = { matcher: ['/((?!api/|_next/static|type/).*)'] };
