import { fromLevel, type Matrix3, toLevel, transform, translation, turnAndScale } from '../raster/matrix3';
import { asCodes, type EncodedImage, halveImage } from '../raster/encodedImage';
import { type Rectangle } from '../raster/raster';
import { coarseStart } from './coarseStart';
import { gradientPoints, type PointLimits } from './gradientPoints';
import { localStructure, logFloor, logLuminance, type Representation } from './logLuminance';
import { keepRegion, luminancePyramid, usableChannel } from './luminance';
import { type MotionModel } from './motionModel';
import { robustSpread, withEquations } from './normalEquations';
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

/** points at the finest level, and at those above it, which only have to lead there */
const POINTS = 60000;
const POINTS_ABOVE = 24000;
const TILES_X = 16;
const TILES_Y = 12;
const LEAST_SCORE = 6;
/** the finished fit is checked against its neighbours at about this width, pixels */
const CHECK_WIDTH = 750;

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
 * Registers a frame to the reference to a small fraction of a pixel across exposure differences of four stops and more.
 *
 * Pyramid; several coarse candidates chosen by a vote of tiles; then inverse-compositional Lucas–Kanade (Baker & Matthews 2004) on
 * exposure-matched log luminance, tone freed per tile; the smallest sufficient motion model by χ²; error from the scatter of the
 * tiles. A frame that fails any check comes back with `fitted: false` and the reason, never with a bent fit.
 */
export function registerPair(
  referenceImage: EncodedImage,
  frameImage: EncodedImage,
  options: PairOptions,
): Registration {
  if (referenceImage.width * referenceImage.height > LARGEST)
    return enlarged(
      registerPair(halveImage(referenceImage), halveImage(frameImage), {
        ...options,
        ...(options.region ? { region: halved(options.region) } : {}),
      }),
    );
  const { stops, region } = options;
  const [reference, frame] = [asCodes(referenceImage), asCodes(frameImage)];
  const finest = options.stopLevel ?? 0;
  const channel = usableChannel(reference, frame, stops);
  const floor = logFloor(stops);
  const R = luminancePyramid(reference, 0, channel);
  if (region) R.forEach((level) => keepRegion(level, region));
  const F = luminancePyramid(frame, stops, channel).slice(0, R.length);
  while (F.length < R.length) R.pop();
  const top = R.length - 1;
  const start = coarseStart(R, F, floor);
  const middle = [(R[top].width - 1) / 2, (R[top].height - 1) / 2] as const;
  const [u, v] = transform(start.map, ...middle);
  // the start may be turned; a frame that may only shift takes its place from the middle of the picture
  const first = options.motion === 'shift' ? translation(u - middle[0], v - middle[1]) : start.map;
  let map = fromLevel(first, top);
  let fit: Refinement | undefined;
  let moving: Representation = logLuminance(F[top], floor);
  let points = gradientPoints(logLuminance(R[top], floor), {
    tilesX: 6,
    tilesY: 4,
    total: 100,
    leastScore: LEAST_SCORE,
    ...atLevel(region, top),
  });
  for (let level = top - 1; level >= finest; level--) {
    const rep = logLuminance(R[level], floor);
    moving = logLuminance(F[level], floor);
    points = gradientPoints(rep, {
      tilesX: TILES_X,
      tilesY: TILES_Y,
      total: level === finest ? POINTS : POINTS_ABOVE,
      leastScore: LEAST_SCORE,
      ...atLevel(region, level),
    });
    const free: MotionModel =
      options.motion === 'shift' ? 'shift' : level >= 2 ? 'similarity' : 'perspective';
    fit = refineAlignment(
      points,
      moving,
      toLevel(map, level),
      free,
      R[level],
      level === 0 ? 0.004 : 0.02,
      12,
    );
    if (fit.solved) map = fromLevel(fit.map, level);
  }
  const failed = (why: string): Registration => ({ ...referenceRegistration(), fitted: false, why });
  if (!fit?.solved) return failed('too little structure is shared with the reference to measure a movement');
  const size = R[finest];
  const covariance = sandwichCovariance(fit.equations, fit.model);
  const predicted = covariance
    ? displacementSpread(covariance, fit.model, fit.coordinates, size) * 2 ** finest
    : Infinity;

  const chosen = chooseModel(fit, covariance, options.motion, size);
  map = fromLevel(chosen.map, finest);

  const finer = Math.round(Math.log2(reference.width / CHECK_WIDTH));
  const checkLevel = Math.min(top, Math.max(1, finest, finer));
  const probe = probeVotes(
    tileCorrelation(
      localStructure(logLuminance(R[checkLevel], floor), 8, true),
      localStructure(logLuminance(F[checkLevel], floor), 8, true),
      toLevel(fromLevel(fit.map, finest), checkLevel),
      10,
      7,
      PROBE_SHIFTS,
      Math.max(1, Math.min(3, Math.round(R[checkLevel].width / 250))),
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
  const { coordinates, equations: last } = fit;
  const equations = withEquations(points, moving, coordinates, (equationsAt) =>
    equationsAt(toLevel(map, finest), last.tone, robustSpread(last.residuals), 'tukey'),
  );
  const tiles = tileResiduals(points, { ...fit, equations }, finest);
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

/** A full-size region as limits of a level. */
function atLevel(region: Rectangle | undefined, level: number): Pick<PointLimits, 'region'> {
  if (!region) return {};
  const scale = 2 ** -level;
  return {
    region: {
      x0: Math.floor(region.x * scale),
      y0: Math.floor(region.y * scale),
      x1: Math.ceil((region.x + region.width) * scale),
      y1: Math.ceil((region.y + region.height) * scale),
    },
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
