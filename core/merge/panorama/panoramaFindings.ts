import { type Finding, judge } from '../../proof/finding';
import { type PanoramaFit } from '../../register/rotation/fitPanorama';
import { chooseProjection, type PanoramaCanvas } from './canvas';
import { type PanoramaPlan } from './planPanorama';
import { type SeamStep } from './seamStep';
import { length2 } from '../../raster/length';

/** Findings of the fit of a panorama. @param names how the user calls the frames */
export function turnFindings(
  fit: PanoramaFit,
  names: readonly string[],
  within: readonly { readonly name: string; readonly why: string }[] = [],
): Finding[] {
  const strays = [
    ...names
      .filter((_, i) => !fit.rotations[i])
      .map((name) => ({ name, why: 'it shares nothing with the other frames' })),
    ...within,
  ];
  const findings: Finding[] = [
    judge('fit.leftOut', strays.length, {
      why:
        strays.length > 0
          ? strays.map(({ name, why }) => `${name} is left out: ${why}.`).join(' ')
          : undefined,
    }),
  ];
  if (fit.pairs.length === 0) return findings;
  const neighbours = fit.pairs.filter((p) => isNeighbour(fit, p.a, p.b));
  const worst = (of: (p: (typeof fit.pairs)[number]) => number): (typeof fit.pairs)[number] =>
    fit.pairs.reduce((a, b) => (of(b) > of(a) ? b : a));
  const least = (neighbours.length > 0 ? neighbours : fit.pairs).reduce((a, b) =>
    b.overlap < a.overlap ? b : a,
  );
  const [residual, parallax] = [worst((p) => p.residual), worst((p) => p.parallax)];
  const between = ({ a, b }: { a: number; b: number }): string => `${names[a]} and ${names[b]}`;
  findings.push(
    judge('fit.pairOverlap', 100 * least.overlap, {
      why: `${between(least)} share ${Math.round(100 * least.overlap)} % of the frame, with ${least.agreeing} matched places.`,
    }),
    judge('fit.typical', residual.residual),
    judge('fit.parallax', parallax.parallax, {
      ...(parallax.where
        ? {
            where: {
              x: parallax.where.x - 60,
              y: parallax.where.y - 60,
              width: 120,
              height: 120,
              frame: parallax.a,
            },
          }
        : {}),
      ...(parallax.parallax >= 2
        ? {
            why: `Near and far disagree by ${parallax.parallax.toFixed(1)} px between ${between(parallax)}: the camera did not turn about its entrance pupil. Seams go around it where they can.`,
          }
        : {}),
    }),
  );
  return findings;
}

/** A pair without a frame between the two. */
function isNeighbour({ rotations }: PanoramaFit, a: number, b: number): boolean {
  const ahead = (i: number): readonly number[] | undefined => rotations[i]?.slice(6, 9);
  const [p, q] = [ahead(a), ahead(b)];
  if (!p || !q) return false;
  const apart = (u: readonly number[], v: readonly number[]): number =>
    Math.acos(Math.min(1, u[0] * v[0] + u[1] * v[1] + u[2] * v[2]));
  const own = apart(p, q);
  return !rotations.some((_, i) => {
    const r = i === a || i === b ? undefined : ahead(i);
    return r && apart(p, r) < own && apart(q, r) < own;
  });
}

/** Findings of a drawn panorama. @param kept share of the canvas's picture that the crop keeps, 0…1 @param names how the user calls the frames */
export function drawnFindings(
  fit: PanoramaFit,
  plan: PanoramaPlan,
  seams: SeamStep,
  kept: number,
  names: readonly string[],
): Finding[] {
  const { choices } = chooseProjection(fit);
  const own = choices.find((c) => c.kind === plan.canvas.projection);
  const used = plan.gains.stops.filter((_, i) => fit.rotations[i]).map((s) => s[1]);
  const spread = used.length > 0 ? Math.max(...used) - Math.min(...used) : 0;
  return [
    judge(
      'merge.seam',
      Math.max(0, seams.across - Math.max(seams.beside, seams.within)),
      seams.where ? { where: seams.where } : {},
    ),
    judge('merge.evened', spread),
    balanceFinding(fit, plan, names),
    judge('merge.vignette', Math.abs(plan.gains.vignette)),
    judge('merge.stretch', own ? own.stretch : 0),
    judge('merge.kept', 100 * kept),
    ...bentFindings(plan.canvas),
  ];
}

/** What bending the border to a rectangle did to the picture. */
function bentFindings({ mesh, width, height }: PanoramaCanvas): Finding[] {
  if (!mesh) return [];
  return [judge('merge.bent', mesh.stretch), judge('merge.bow', mesh.bow * length2(width, height))];
}

/** How far one frame's white balance lay off the others', by what had to be evened out. */
function balanceFinding(fit: PanoramaFit, { gains }: PanoramaPlan, names: readonly string[]): Finding {
  const used = gains.stops.map((_, i) => i).filter((i) => fit.rotations[i]);
  const casts = used.map((i) => [0, 2].map((c) => gains.stops[i][c] - gains.stops[i][1]));
  const middle = [0, 1].map(
    (k) => casts.map((cast) => cast[k]).sort((a, b) => a - b)[casts.length >> 1] ?? 0,
  );
  let [worst, off] = [0, 0];
  casts.forEach((cast, i) => {
    const apart = Math.max(...cast.map((v, k) => Math.abs(v - middle[k])));
    if (apart > off) [worst, off] = [used[i], apart];
  });
  return judge(
    'merge.balance',
    off,
    off > 0.1
      ? {
          why: `${names[worst]} had another white balance than the rest, by ${off.toFixed(2)} EV; it is evened out. Lock white balance, or develop all frames alike.`,
        }
      : {},
  );
}
