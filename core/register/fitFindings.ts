import { type Finding, judge, type Place } from '../proof/finding';
import { type Apart } from './parallax/apartOf';
import { radialBend } from './radialBend';
import { type Registration } from './registration';
import { length2 } from '../raster/length';

/** A fitted frame as the findings see it. */
export interface FittedFrame {
  /** how the user calls it */
  readonly name: string;
  readonly registration: Registration;
  readonly isReference: boolean;
  /** how far parts of it are off though the rest fits, where that was looked for and found */
  readonly apart?: Apart;
}

const AROUND = 120;

/** Where a frame is off most: the tile of its largest displacement. */
export function worstPlace(registration: Registration): Place | undefined {
  const tile = registration.tiles.reduce<Registration['tiles'][number] | undefined>(
    (worst, t) => (!worst || length2(t.dx, t.dy) > length2(worst.dx, worst.dy) ? t : worst),
    undefined,
  );
  return tile && { x: tile.x - AROUND, y: tile.y - AROUND, width: 2 * AROUND, height: 2 * AROUND };
}

/**
 * Findings of the fit of a whole set.
 * @param overlap share of the reference's picture that every fitted frame sees, 0…1
 */
export function fitFindings(frames: readonly FittedFrame[], overlap: number): Finding[] {
  const out = frames.filter((f) => !f.registration.fitted);
  const fitted = frames.filter((f) => f.registration.fitted && !f.isReference);
  const findings: Finding[] = [
    judge('fit.leftOut', out.length, {
      why:
        out.length > 0
          ? out.map((f) => `${f.name} is left out: ${f.registration.why}.`).join(' ')
          : undefined,
    }),
  ];
  if (fitted.length === 0) return findings;
  const largest = (of: (r: Registration) => number): FittedFrame =>
    fitted.reduce((a, b) => (of(b.registration) > of(a.registration) ? b : a));
  const typical = largest((r) => r.residual.typical);
  const worst = largest((r) => r.residual.worst);
  const turned = largest((r) => Math.abs(r.turnDegrees));
  const scaled = largest((r) => Math.abs(r.scale - 1));
  findings.push(
    judge('fit.typical', typical.registration.residual.typical),
    judge('fit.worst', worst.registration.residual.worst, { where: worstPlace(worst.registration) }),
    judge('fit.overlap', 100 * overlap),
    judge('fit.turn', Math.abs(turned.registration.turnDegrees)),
    lensFinding(fitted),
    scaleFinding(scaled),
    ...edgesFinding(fitted),
    ...apartFinding(fitted),
  );
  return findings;
}

/** What of a frame lies elsewhere than its fit says: a fit is led by what most of the picture does. */
function apartFinding(fitted: readonly FittedFrame[]): Finding[] {
  const [worst, ...others] = fitted
    .flatMap(({ name, apart }) => (apart ? [{ name, apart }] : []))
    .sort((a, b) => b.apart.px - a.apart.px);
  if (worst === undefined) return [];
  const { px, share, x, y } = worst.apart;
  const too =
    others.length > 0
      ? ` So ${others.length === 1 ? 'is another frame' : `are ${others.length} other frames`}.`
      : '';
  return [
    judge('fit.parallax', px, {
      where: { x: x - AROUND, y: y - AROUND, width: 2 * AROUND, height: 2 * AROUND },
      why: `${Math.max(1, Math.round(100 * share))} % of ${worst.name} is off by up to ${px.toFixed(1)} px though the rest fits: it is nearer or farther, or moved.${too} Bend such frames under “Near and far”; paint what moved in from one frame under Layers.`,
    }),
  ];
}

/** Frames in other light, of which only edges could be compared: what that fit is good to. */
function edgesFinding(fitted: readonly FittedFrame[]): Finding[] {
  const lit = fitted.filter((f) => f.registration.by === 'edges');
  if (lit.length === 0) return [];
  const bound = Math.max(...lit.map((f) => f.registration.bound));
  const names = lit.map((f) => f.name).join(', ');
  return [
    judge('fit.byEdges', bound, {
      why: `${names} ${lit.length === 1 ? 'is' : 'are'} lit so differently that only edges could be compared: the fit is good to ${bound.toFixed(1)} px. Look at “Blink” where fine edges are to meet.`,
    }),
  ];
}

/** change of scale from which a frame has another size, not only another focus */
const OTHER_SIZE = 0.05;

/** A frame of another size is drawn at the reference's: what that costs is said. */
function scaleFinding({ name, registration: { scale } }: FittedFrame): Finding {
  const change = scale - 1;
  const times = (factor: number): string => `${factor.toFixed(2)} ×`;
  const why =
    change <= -OTHER_SIZE
      ? `${name} shows things at ${Math.round(100 * scale)} % of their size in the reference. It is enlarged ${times(1 / scale)} and has no detail finer than ${(1 / scale).toFixed(1)} px of the picture: what is taken from it looks softer. Use a larger original of it, or take it as the reference.`
      : change >= OTHER_SIZE
        ? `${name} shows things ${times(scale)} as large as the reference. It is drawn smaller, and a part of its detail is lost. Take it as the reference to keep it.`
        : undefined;
  return judge('fit.scale', 100 * Math.abs(change), why === undefined ? {} : { why });
}

/** A frame whose lens was corrected apart from the others bends against them: its residual grows from the middle outwards. */
function lensFinding(fitted: readonly FittedFrame[]): Finding {
  const bent = fitted.map((f) => ({ name: f.name, bend: radialBend(f.registration.tiles) }));
  const worst = bent.reduce((a, b) => (Math.abs(b.bend) > Math.abs(a.bend) ? b : a));
  const others = bent.filter((b) => b !== worst && Math.abs(b.bend) >= LENS_BEND);
  return judge('fit.lens', Math.abs(worst.bend), {
    why:
      Math.abs(worst.bend) >= LENS_BEND
        ? `${others.length >= fitted.length / 2 ? 'The reference' : worst.name} bends against the others by ${Math.abs(worst.bend).toFixed(1)} px at the corners: lens correction was applied to some frames only. Develop all with one setting.`
        : undefined,
  });
}

const LENS_BEND = 0.5;
