/** Errors at core's edges are values: a code for programs, a clear sentence for people. */
export interface Refusal {
  code: string;
  message: string;
}
export type Outcome<T> = { ok: true; value: T } | { ok: false; refusal: Refusal };

export const done = <T>(value: T): Outcome<T> => ({ ok: true, value });
export const refused = (code: string, message: string): { ok: false; refusal: Refusal } => ({
  ok: false,
  refusal: { code, message },
});
