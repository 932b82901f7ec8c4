/** The desk of the stand-in outlets: their day. */

/** Where the stand-ins are, for a person too. */
export const deskAddress = (): string =>
  process.env.OUTLET_ADDRESS ?? `http://127.0.0.1:${process.env.OUTLET_PORT ?? 4180}`;

/** An outlet that has not answered by then is taken for unreachable, in milliseconds. */
const PATIENCE = 3_000;

/** The outlets' day, null when they can't be reached; moved first when `days` is given. */
export async function outletDay(days?: number): Promise<number | null> {
  try {
    const r = await fetch(`${deskAddress()}/desk`, {
      cache: 'no-store',
      signal: AbortSignal.timeout(PATIENCE),
      ...(days === undefined ? {} : { method: 'POST', body: JSON.stringify({ days }) }),
    });
    const day = r.ok ? ((await r.json()) as { day: unknown }).day : null;
    return typeof day === 'number' ? day : null;
  } catch {
    return null;
  }
}
