import { type CaptureFacts } from './captureFacts';

/**
 * Exposure value at ISO 100: log2(N² / t) − log2(S / 100). The larger it is, the darker the picture of the same scene.
 * APEX: Av + Tv = Bv + Sv (EXIF 2.32 annex C; ISO 2720).
 * @returns undefined unless time, aperture and sensitivity are all known and positive
 */
export function exposureValue(facts: CaptureFacts): number | undefined {
  const { seconds, aperture, iso } = facts;
  if (!(seconds && seconds > 0) || !(aperture && aperture > 0) || !(iso && iso > 0)) return undefined;
  return Math.log2((aperture * aperture) / seconds) - Math.log2(iso / 100);
}

/**
 * How many stops brighter one shot is than another by their settings. Aperture or sensitivity that neither shot knows (a manual
 * lens) count as equal.
 */
export function stopsBetween(shot: CaptureFacts, reference: CaptureFacts): number | undefined {
  if (!(shot.seconds && reference.seconds)) return undefined;
  const shared = (a?: number, b?: number): [number, number] | undefined =>
    a && b ? [a, b] : a || b ? undefined : [1, 1];
  const aperture = shared(shot.aperture, reference.aperture);
  const iso = shared(shot.iso, reference.iso);
  if (!aperture || !iso) return undefined;
  const value = (seconds: number, i: 0 | 1): number =>
    exposureValue({ seconds, aperture: aperture[i], iso: iso[i] }) ?? NaN;
  return value(reference.seconds, 1) - value(shot.seconds, 0);
}

/** An exposure time as photographers write it: `1/60`, `0.6`, `8`. */
export function exposureTimeText(seconds: number): string {
  if (seconds >= 0.3) return `${Number(seconds.toFixed(seconds < 10 ? 1 : 0))} s`;
  return `1/${Math.round(1 / seconds)}`;
}
