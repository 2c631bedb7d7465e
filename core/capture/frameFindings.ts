import { type Finding, judge } from '../proof/finding';
import { widestSpacing } from './bracketOf';
import { type ClippedShares } from './clippedShares';

/** What the findings of the frames are made from: one entry a frame of the set, any order. */
export interface MeasuredFrame {
  readonly stops: number;
  readonly clipped: ClippedShares;
}

/** Findings of the set as it was shot: what no frame holds, and the spacing. `unreadable` counts files that did not load. */
export function frameFindings(frames: readonly MeasuredFrame[], unreadable = 0): Finding[] {
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
  return findings;
}
