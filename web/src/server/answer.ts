/** Answers of the route handlers: JSON, or a sentence with a status. */
import { NextResponse } from 'next/server';

export const answer = (value: unknown, status = 200): NextResponse =>
  NextResponse.json(value, { status, headers: { 'Cache-Control': 'no-store' } });
export const problem = (message: string, status = 400): NextResponse => answer({ message }, status);

/** Thrown where a request cannot be answered, with the sentence to answer instead. */
export class Unanswerable extends Error {
  constructor(
    message: string,
    readonly status = 400,
  ) {
    super(message);
  }
}
