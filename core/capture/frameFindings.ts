import { type Finding, judge } from '../proof/finding';
import { type LimitId } from '../proof/limits';
import { widestSpacing } from './bracketOf';
import { type MeasuredFrame } from './measuredFrame';
import { mismatchFindings } from './mismatchFindings';
import { type SetKind } from './setKind';
import { type SetMeasures } from './setMeasures';

/**
 * Findings of the set as it was shot: what no frame holds, spacing, noise and sharpness, dust, and what does not fit together.
 * @param unreadable files that did not load
 * @param kind what the set is for: what it differs in by nature is not held against it
 * @param set what was measured of the frames against each other, in their order; absent while it is not
 */
export function frameFindings(
  frames: readonly MeasuredFrame[],
  unreadable = 0,
  set?: SetMeasures,
  kind: SetKind = 'bracket',
): Finding[] {
  const silent: readonly string[] = BESIDE_THE_POINT[kind];
  return allFindings(frames, unreadable, set).filter((f) => !silent.includes(f.id));
}

/** What a kind of set differs in by its nature is no fault of it. */
const BESIDE_THE_POINT: Readonly<Record<SetKind, readonly LimitId[]>> = {
  bracket: [],
  developments: ['frames.spacing', 'frames.exposure', 'frames.balance', 'frames.dust'],
  focus: ['frames.spacing', 'frames.sharpness'],
  panorama: ['frames.spacing', 'frames.exposure', 'frames.balance'],
  moments: ['frames.spacing', 'frames.exposure', 'frames.balance'],
  swap: ['frames.spacing'],
  stack: ['frames.spacing'],
};

function allFindings(
  frames: readonly MeasuredFrame[],
  unreadable: number,
  set: SetMeasures | undefined,
): Finding[] {
  const findings: Finding[] = [];
  if (unreadable > 0) findings.push(judge('frames.unreadable', unreadable));
  if (frames.length === 0) return findings;
  const indices = frames.map((_, i) => i);
  const darkest = indices.reduce((a, b) => (frames[b].stops < frames[a].stops ? b : a), 0);
  const lightest = indices.reduce((a, b) => (frames[b].stops > frames[a].stops ? b : a), 0);
  const { light, lightAt } = frames[darkest].clipped;
  const { dark, darkAt } = frames[lightest].clipped;
  findings.push(
    judge('frames.burnt', 100 * light, lightAt ? { where: { ...lightAt, frame: darkest } } : {}),
    judge('frames.black', 100 * dark, darkAt ? { where: { ...darkAt, frame: lightest } } : {}),
  );
  if (frames.length > 1) findings.push(judge('frames.spacing', widestSpacing(frames.map((f) => f.stops))));
  findings.push(...noiseFindings(frames), ...sharpnessFindings(frames));
  if (set) findings.push(...dustFindings(set));
  if (frames.length > 1) findings.push(...mismatchFindings(frames, set));
  return findings;
}

/** Noise of the cleanest darks, and the frame that holds them: noise over light, so that a longer exposure may win. */
function noiseFindings(frames: readonly MeasuredFrame[]): Finding[] {
  const known = frames.filter((f) => f.measures.darkNoise !== undefined && f.clipped.dark < 0.2);
  if (known.length === 0) return [];
  const relative = (f: MeasuredFrame): number => (f.measures.darkNoise ?? 0) / 2 ** (f.stops / 2.4);
  const cleanest = known.reduce((a, b) => (relative(b) < relative(a) ? b : a));
  const noise = cleanest.measures.darkNoise ?? 0;
  return [
    judge('frames.noise', noise, {
      why: `${cleanest.name} holds the cleanest darks: σ ${noise.toFixed(1)} of 255 in tones around code 60.`,
    }),
  ];
}

function sharpnessFindings(frames: readonly MeasuredFrame[]): Finding[] {
  const known = frames.filter(
    (f) => f.measures.sharpness !== undefined && f.clipped.light < 0.25 && f.clipped.dark < 0.25,
  );
  if (known.length < 2) return [];
  const of = (f: MeasuredFrame): number => f.measures.sharpness ?? 0;
  const softest = known.reduce((a, b) => (of(b) < of(a) ? b : a));
  const values = known.map(of).sort((a, b) => a - b);
  const typical = values[values.length >> 1];
  const share = (100 * of(softest)) / typical;
  return [
    judge(
      'frames.sharpness',
      share,
      share < 82
        ? {
            why: `${softest.name} is less sharp than the others: shaken or out of focus. Leave it out, or use it for its tones only.`,
          }
        : {},
    ),
  ];
}

function dustFindings({ dust }: SetMeasures): Finding[] {
  const first = dust[0];
  return [
    judge(
      'frames.dust',
      dust.length,
      first ? { where: { x: first.x - 60, y: first.y - 60, width: 120, height: 120, frame: 0 } } : {},
    ),
  ];
}
