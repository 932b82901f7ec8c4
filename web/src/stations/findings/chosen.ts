/** Which findings the list shows: of a severity, accepted ones, those of one station. */
import type { Severity } from '@pagina/core/base';
import type { Judged } from '@pagina/core/check';
import type { Listed } from '@/findings/groups';
import { stationOf, type StationKey } from '@/title/stations';

export type Shown = 'all' | Severity | 'accepted';
export interface Choice {
  shown: Shown;
  /** Where they are mended. */
  station: StationKey | 'any';
}

export function chosen({ open, accepted }: Judged, { shown, station }: Choice): Listed[] {
  const all =
    shown === 'accepted'
      ? accepted.map(({ finding, as }) => ({ finding, accepted: as }))
      : open.map((finding) => ({ finding, accepted: null }));
  return all.filter(
    ({ finding }) =>
      (shown === 'all' || shown === 'accepted' || finding.severity === shown) &&
      (station === 'any' || stationOf(finding) === station),
  );
}

/** How many there are of each severity, and at each station. */
export function countsOf({ open, accepted }: Judged): {
  shown: Record<Shown, number>;
  stations: ReadonlyMap<StationKey, number>;
} {
  const shown = { all: open.length, blocker: 0, caution: 0, note: 0, accepted: accepted.length };
  const stations = new Map<StationKey, number>();
  for (const f of open) {
    shown[f.severity]++;
    const at = stationOf(f);
    stations.set(at, (stations.get(at) ?? 0) + 1);
  }
  return { shown, stations };
}
