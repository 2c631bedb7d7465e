import { fromLevel, type Matrix3, toLevel, transform, translation, turnAndScale } from '../raster/matrix3';
import { asCodes, type EncodedImage } from '../raster/encodedImage';
import { halveImage } from '../raster/halveImage';
import { type Rectangle } from '../raster/raster';
import { coarseStart } from './coarseStart';
import { type GradientPoints } from './gradientPoints';
import { localStructure } from './localStructure';
import { logFloor, logLuminance, type Representation } from './logLuminance';
import { luminancePyramid, usableChannel } from './luminance';
import { type MotionModel } from './motionModel';
import { robustSpread, withEquations } from './normalEquations';
import { referenceSide, type SideOf, topLevels } from './referenceSide';
import { referenceRegistration, type Registration } from './registration';
import { displacementSpread, type Refinement, refineAlignment, sandwichCovariance } from './refineAlignment';
import { projectToModel, simplestModel } from './simplestModel';
import { PROBE_SHIFTS, probeVotes, tileCorrelation } from './tileCorrelation';
import { summariseResiduals, tileResiduals } from './tileResidual';

/** What to fit and how freely the frame may move. */
export interface PairOptions {
  /** exposure of the frame relative to the reference, EV */
  readonly stops: number;
  /** `auto` takes the smallest model that explains the movement */
  readonly motion: MotionModel | 'auto';
  /** coarsest work only: stop this many levels above full size (previews) */
  readonly stopLevel?: number;
  /** only this part of the reference, full-size pixels, is held still; the rest may drift */
  readonly region?: Rectangle;
}

/**
 * Frames of more pixels than this are fitted at half their size: the fit of 6 MP is good to a hundredth of a pixel (see the tests of
 * known geometry), and the whole would take four times the memory and time.
 */
const LARGEST = 13e6;

const halved = ({ x, y, width, height }: Rectangle): Rectangle => ({
  x: x / 2,
  y: y / 2,
  width: width / 2,
  height: height / 2,
});

/** A registration of halved pictures as one of the pictures themselves. */
function enlarged(half: Registration): Registration {
  const { matrix, bound, residual, tiles } = half;
  return {
    ...half,
    matrix: fromLevel(matrix, 1),
    bound: 2 * bound,
    residual: { typical: 2 * residual.typical, worst: 2 * residual.worst },
    tiles: tiles.map(({ x, y, dx, dy, error }) => ({
      x: 2 * x + 0.5,
      y: 2 * y + 0.5,
      dx: 2 * dx,
      dy: 2 * dy,
      error: 2 * error,
    })),
  };
}

/**
 * Registers a frame to the reference, of the same size, to a small fraction of a pixel across exposure differences of four stops and more.
 *
 * Pyramid; several coarse candidates chosen by a vote of tiles; then inverse-compositional Lucas–Kanade (Baker & Matthews 2004) on
 * exposure-matched log luminance, tone freed per tile; the smallest sufficient motion model by χ²; error from the scatter of the
 * tiles. A frame that fails any check comes back with `fitted: false` and the reason, never with a bent fit.
 * @param sideOf where the reference's side comes from, for callers that keep it from one frame to the next
 */
export function registerPair(
  referenceImage: EncodedImage,
  frameImage: EncodedImage,
  options: PairOptions,
  sideOf: SideOf = referenceSide,
): Registration {
  if (referenceImage.width * referenceImage.height > LARGEST) {
    const own = { ...options, ...(options.region ? { region: halved(options.region) } : {}) };
    return enlarged(registerPair(halveImage(referenceImage), halveImage(frameImage), own, sideOf));
  }
  const { stops, region } = options;
  const [reference, frame] = [asCodes(referenceImage), asCodes(frameImage)];
  const finest = options.stopLevel ?? 0;
  const channel = usableChannel(reference, frame, stops);
  const floor = logFloor(stops);
  const { sizes, points, start: levels, check } = sideOf(reference, { channel, floor, finest, region });
  const F = luminancePyramid(frame, stops, channel);
  const top = sizes.length - 1;
  const start = coarseStart(levels, topLevels(F), floor);
  const middle = [(sizes[top].width - 1) / 2, (sizes[top].height - 1) / 2] as const;
  const [u, v] = transform(start.map, ...middle);
  // the start may be turned; a frame that may only shift takes its place from the middle of the picture
  const first = options.motion === 'shift' ? translation(u - middle[0], v - middle[1]) : start.map;
  let map = fromLevel(first, top);
  let last: { fit: Refinement; points: GradientPoints; moving: Representation } | undefined;
  for (let level = top - 1; level >= finest; level--) {
    const own = points[level];
    if (!own) break;
    const moving = logLuminance(F[level], floor);
    const free: MotionModel =
      options.motion === 'shift' ? 'shift' : level >= 2 ? 'similarity' : 'perspective';
    const tolerance = level === 0 ? 0.004 : 0.02;
    const fit = refineAlignment(own, moving, toLevel(map, level), free, sizes[level], tolerance, 12);
    if (fit.solved) map = fromLevel(fit.map, level);
    last = { fit, points: own, moving };
  }
  const failed = (why: string): Registration => ({ ...referenceRegistration(), fitted: false, why });
  if (!last?.fit.solved)
    return failed('too little structure is shared with the reference to measure a movement');
  const { fit } = last;
  const size = sizes[finest];
  const covariance = sandwichCovariance(fit.equations, fit.model);
  const predicted = covariance
    ? displacementSpread(covariance, fit.model, fit.coordinates, size) * 2 ** finest
    : Infinity;

  const chosen = chooseModel(fit, covariance, options.motion, size);
  map = fromLevel(chosen.map, finest);

  const probe = probeVotes(
    tileCorrelation(
      localStructure(logLuminance(check, floor), 8, true),
      localStructure(logLuminance(F[check.level], floor), 8, true),
      toLevel(fromLevel(fit.map, finest), check.level),
      10,
      7,
      PROBE_SHIFTS,
      Math.max(1, Math.min(3, Math.round(check.width / 250))),
    ),
  );
  // a drawn region holds fewer places to ask
  const [least, leastClear] = region ? [2, 1] : [8, 4];
  const agreed = probe.votes >= least && probe.votes >= 0.55 * probe.informative;
  const inner = Math.max(probe.atFit, probe.inner);
  const clearPeak =
    probe.atFit > 0.15 &&
    probe.atFit >= inner &&
    probe.outer < 0.75 * probe.atFit &&
    probe.votes >= leastClear;
  if (!agreed && !clearPeak)
    return failed('it does not show the same view as the reference, or shares too little of it');
  if (start.second > 0.9 * start.vote)
    return failed('two different positions fit it equally well (a repeating pattern)');
  if (fit.lastStep >= 0.03) return failed('the fit did not settle');
  if (!(predicted < 0.15 * 2 ** finest))
    return failed('its position cannot be measured to a tenth of a pixel');

  const { turnDegrees, scale } = turnAndScale(map, (reference.width - 1) / 2, (reference.height - 1) / 2);
  // measured at the map that will be used, which a forced model may have moved away from the free fit
  const { coordinates, equations: free } = fit;
  const equations = withEquations(last.points, last.moving, coordinates, (equationsAt) =>
    equationsAt(toLevel(map, finest), free.tone, robustSpread(free.residuals), 'tukey'),
  );
  const tiles = tileResiduals(last.points, { ...fit, equations }, finest);
  return {
    matrix: map,
    model: chosen.model,
    fitted: true,
    why: '',
    turnDegrees,
    scale,
    bound: 2.5 * predicted + 0.003,
    residual: summariseResiduals(tiles),
    tiles,
  };
}

function chooseModel(
  fit: Refinement,
  covariance: ReturnType<typeof sandwichCovariance>,
  motion: PairOptions['motion'],
  size: { width: number; height: number },
): { model: MotionModel; map: Matrix3 } {
  if (motion === 'perspective' || motion === fit.model) return { model: fit.model, map: fit.map };
  if (motion === 'auto') return simplestModel(fit, covariance, size);
  const projected = covariance ? projectToModel(fit, covariance, motion, size) : undefined;
  return projected ? { model: motion, map: projected.map } : { model: fit.model, map: fit.map };
}
