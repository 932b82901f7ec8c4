/** Calls and answers, free of sockets. */
export interface Call {
  method: string;
  /** Below the shop's own address, such as `/books/LQ-00001`. */
  path: string;
  query: URLSearchParams;
  /** Names in lower case. */
  headers: Readonly<Record<string, string | undefined>>;
  body: Buffer;
}
export interface Reply {
  status: number;
  headers?: Record<string, string>;
  body: string;
}

export const answer = (status: number, value: unknown): Reply => ({
  status,
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify(value),
});
export const refuse = (status: number, message: string): Reply => answer(status, { message });

/** Null for what is no JSON object. */
export function jsonOf({ body }: Call): Record<string, unknown> | null {
  try {
    const value: unknown = JSON.parse(body.toString('utf8'));
    return typeof value === 'object' && value !== null && !Array.isArray(value)
      ? (value as Record<string, unknown>)
      : null;
  } catch {
    return null;
  }
}
