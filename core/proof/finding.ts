import { type Limit, LIMITS, type LimitId } from './limits';

/** What a measurement means: fine, worth a look, or to be mended before going on. */
export type Verdict = 'pass' | 'watch' | 'fail';

/** A place a finding points at, in full-size pixels of the reference frame or of the named frame. */
export interface Place {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  /** index of the frame whose own pixels are meant; the reference's grid when absent */
  readonly frame?: number;
}

/** One measured fact of a step, judged against the table of limits. */
export interface Finding {
  readonly id: LimitId;
  readonly label: string;
  readonly value: number;
  readonly unit: string;
  readonly verdict: Verdict;
  /** the value from which the verdict is no longer `pass` */
  readonly limit: number;
  /** what it means and what to do, a sentence */
  readonly why: string;
  readonly where?: Place;
}

/** Judges a value: at `watch` and beyond it is to be watched, at `fail` and beyond it fails; direction by which of the two is larger. */
export function verdictOf(value: number, limit: Pick<Limit, 'watch' | 'fail'>): Verdict {
  const sign = limit.fail >= limit.watch ? 1 : -1;
  if (!Number.isFinite(value) || sign * value >= sign * limit.fail) return 'fail';
  return sign * value >= sign * limit.watch ? 'watch' : 'pass';
}

/** Makes a finding from the table of limits; `why` replaces the table's sentence where the case is more particular. */
export function judge(id: LimitId, value: number, particular: { why?: string; where?: Place } = {}): Finding {
  const limit = LIMITS[id];
  const verdict = verdictOf(value, limit);
  return {
    id,
    label: limit.label,
    value,
    unit: limit.unit,
    verdict,
    limit: limit.watch,
    why: particular.why ?? (verdict === 'pass' ? limit.fine : limit.advice),
    ...(particular.where ? { where: particular.where } : {}),
  };
}

const RANK: Record<Verdict, number> = { pass: 0, watch: 1, fail: 2 };

/** The most serious finding, the earliest of equals; undefined for none. */
export function worstFinding(findings: readonly Finding[]): Finding | undefined {
  return findings.reduce<Finding | undefined>(
    (worst, f) => (worst === undefined || RANK[f.verdict] > RANK[worst.verdict] ? f : worst),
    undefined,
  );
}
