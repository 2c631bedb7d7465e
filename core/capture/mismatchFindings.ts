import { type Finding, judge } from '../proof/finding';
import { type MeasuredFrame } from './measuredFrame';
import { type SetMeasures } from './setMeasures';

/** A fact that all frames of a set share. */
interface SharedFact {
  readonly name: string;
  readonly of: (frame: MeasuredFrame) => string | undefined;
}

const SHARED: readonly SharedFact[] = [
  { name: 'size', of: (f) => `${Math.max(f.width, f.height)} × ${Math.min(f.width, f.height)}` },
  {
    name: 'orientation',
    of: (f) => (f.width === f.height ? undefined : f.width > f.height ? 'lying' : 'upright'),
  },
  { name: 'camera', of: (f) => f.facts.camera },
  { name: 'lens', of: (f) => f.facts.lens },
  { name: 'aperture', of: (f) => (f.facts.aperture ? `f/${f.facts.aperture.toFixed(1)}` : undefined) },
  {
    name: 'focal length',
    of: (f) => (f.facts.focalLength ? `${Math.round(f.facts.focalLength)} mm` : undefined),
  },
  { name: 'white balance setting', of: (f) => f.facts.whiteBalance },
];

/** The value that most frames have. */
function usual(values: readonly (string | undefined)[]): string | undefined {
  const counts = new Map<string, number>();
  for (const v of values) if (v !== undefined) counts.set(v, (counts.get(v) ?? 0) + 1);
  return [...counts.entries()].sort((a, b) => b[1] - a[1])[0]?.[0];
}

/** What of a set does not belong together: settings that differ, a colour that differs, an exposure that is not what the file says. */
export function mismatchFindings(frames: readonly MeasuredFrame[], set?: SetMeasures): Finding[] {
  const sentences: string[] = [];
  for (const { name, of } of SHARED) {
    const values = frames.map(of);
    const common = usual(values);
    frames.forEach((f, i) => {
      if (values[i] !== undefined && values[i] !== common)
        sentences.push(`${f.name} differs in ${name}: ${values[i]} instead of ${common}.`);
    });
  }
  const findings = [
    judge(
      'frames.mismatch',
      sentences.length,
      sentences.length > 0
        ? {
            why: `${sentences.slice(0, 3).join(' ')} Prepare the whole set alike, or leave the odd frame out.`,
          }
        : {},
    ),
  ];
  if (!set) return findings;
  const median = (values: number[]): number => values.sort((a, b) => a - b)[values.length >> 1];
  const known = set.balance.flatMap((b, i) => (b ? [{ i, b }] : []));
  if (known.length > 1) {
    const middle = [median(known.map((k) => k.b[0])), median(known.map((k) => k.b[1]))];
    const off = known.map(({ i, b }) => ({
      i,
      by: Math.max(Math.abs(b[0] - middle[0]), Math.abs(b[1] - middle[1])),
    }));
    const worst = off.reduce((a, b) => (b.by > a.by ? b : a));
    findings.push(
      judge(
        'frames.balance',
        worst.by,
        worst.by >= 0.15
          ? {
              why: `${frames[worst.i].name} has another white balance than the rest: it differs by ${worst.by.toFixed(2)} stops in red or blue. Develop the set with one setting, or let Marsh even it out.`,
            }
          : {},
      ),
    );
  }
  const named = frames.flatMap((f, i) => {
    const measured = set.stops[i];
    return f.stopsSource === 'exif' && measured !== undefined ? [{ i, off: measured - f.stops }] : [];
  });
  if (named.length > 1) {
    const middle = median(named.map((n) => n.off));
    const worst = named.reduce((a, b) => (Math.abs(b.off - middle) > Math.abs(a.off - middle) ? b : a));
    const by = Math.abs(worst.off - middle);
    findings.push(
      judge(
        'frames.exposure',
        by,
        by >= 0.35
          ? {
              why: `${frames[worst.i].name} is ${by.toFixed(1)} EV ${worst.off > middle ? 'lighter' : 'darker'} than its file says. The light changed, or it was developed differently.`,
            }
          : {},
      ),
    );
  }
  return findings;
}
