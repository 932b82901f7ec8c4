/** The stand-in shop's clock. */
const address = (): string =>
  process.env.OUTLET_ADDRESS ?? `http://127.0.0.1:${process.env.OUTLET_PORT ?? 4180}`;

/** The shop's day, null when it cannot be reached; moved first when `days` is given. */
export async function outletDay(days?: number): Promise<number | null> {
  try {
    const r = await fetch(
      `${address()}/clock`,
      days === undefined ? { cache: 'no-store' } : { method: 'POST', body: JSON.stringify({ days }) },
    );
    return r.ok ? ((await r.json()) as { day: number }).day : null;
  } catch {
    return null;
  }
}
