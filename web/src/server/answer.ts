/** Answers of the route handlers: JSON, or a sentence with a status. */
import { NextResponse } from 'next/server';

export const answer = (value: unknown, status = 200): NextResponse =>
  NextResponse.json(value, { status, headers: { 'Cache-Control': 'no-store' } });
export const refuse = (message: string, status = 400): NextResponse => answer({ message }, status);

/** The request's JSON, or null when it is none. */
export async function bodyOf(request: Request): Promise<unknown> {
  try {
    return (await request.json()) as unknown;
  } catch {
    return null;
  }
}
