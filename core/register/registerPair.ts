import {
  fromLevel,
  IDENTITY,
  invert,
  type Matrix3,
  multiply,
  normalise,
  toLevel,
  transform,
  translation,
  turnAndScale,
} from '../raster/matrix3';
import { asCodes, type EncodedImage } from '../raster/encodedImage';
import { halveImage } from '../raster/halveImage';
import { type Rectangle } from '../raster/raster';
import { coarseStart } from './coarseStart';
import { type Landmarks, landmarks } from './features/landmarks';
import { planarStarts } from './features/planarStart';
import { edgePicture } from './edgePicture';
import { equalSoftness } from './equalSoftness';
import { type GradientPoints, gradientPoints } from './gradientPoints';
import { localStructure } from './localStructure';
import { logFloor, logLuminance, type Representation } from './logLuminance';
import { laidOver } from './laidOver';
import { luminance, luminancePyramid, usableChannel } from './luminance';
import { type MotionModel } from './motionModel';
import { robustSpread, withEquations } from './normalEquations';
import { atLevel, pointsAt, referenceSide, type SideOf, topLevels } from './referenceSide';
import { referenceRegistration, type Registration } from './registration';
import { displacementSpread, type Refinement, refineAlignment, sandwichCovariance } from './refineAlignment';
import { reversed } from './reversed';
import { closest, projectToModel, simplestModel } from './simplestModel';
import { PROBE_SHIFTS, probeVotes, tileCorrelation } from './tileCorrelation';
import { summariseResiduals, tileResiduals } from './tileResidual';
import { length2 } from '../raster/length';

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
  /** where the frame is known to lie about, reference pixel → frame pixel, full size */
  readonly start?: Matrix3;
  /** how sharp a place is may differ between the two, as between frames of other focus: both are made equally soft before they are compared */
  readonly softness?: 'differs';
  /** the light may have changed between the two, as from noon to dusk: where tones find nothing, edges are compared */
  readonly light?: 'differs';
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
 * Registers a frame to the reference to a small fraction of a pixel across exposure differences of four stops and more.
 *
 * First as if it lay nearly on it ({@link registerNear}); where that finds nothing, or the sizes differ, landmarks say where it may lie, and
 * the frame drawn there is fitted the same way. A frame that fails any check comes back with `fitted: false` and the reason, never with a
 * bent fit.
 * @param sideOf where the reference's side comes from, for callers that keep it from one frame to the next
 */
export function registerPair(
  reference: EncodedImage,
  frame: EncodedImage,
  options: PairOptions,
  sideOf: SideOf = referenceSide,
): Registration {
  if (Math.max(reference.width * reference.height, frame.width * frame.height) > LARGEST) {
    const { region, start } = options;
    const own = {
      ...options,
      ...(region ? { region: halved(region) } : {}),
      ...(start ? { start: toLevel(start, 1) } : {}),
    };
    return enlarged(registerPair(halveImage(reference), halveImage(frame), own, sideOf));
  }
  const fit = registerLight(reference, frame, options, sideOf);
  if (fit.fitted || options.light !== 'differs') return fit;
  const byEdges = registerEdges(edgePicture(reference), edgePicture(frame), { ...options, stops: 0 });
  const bound = LESS_SURE * byEdges.bound;
  return byEdges.fitted && bound < LEAST_SURE ? { ...byEdges, bound, by: 'edges' } : fit;
}

/** The fit of edges, from either side: points are taken where the reference has them, and of two lights one shows more. */
function registerEdges(reference: EncodedImage, frame: EncodedImage, options: PairOptions): Registration {
  const fit = registerLight(reference, frame, options);
  // a part that is held, and a place that is known, are the reference's
  if (fit.fitted || options.region || options.start) return fit;
  const other = registerLight(frame, reference, options);
  return other.fitted ? reversed(other, reference.width, reference.height) : fit;
}

/** how much less sure a fit by edges is than their scatter says, as light moves them: 3.6 at most of the relit pictures of the benchmarks */
const LESS_SURE = 4;
/** bound from which such a fit is none, pixels of what is compared: of the half above 13 MP */
const LEAST_SURE = 1;

/** The fit of two pictures as they are: nearly on each other, or led by landmarks. */
function registerLight(
  reference: EncodedImage,
  frame: EncodedImage,
  options: PairOptions,
  sideOf: SideOf = referenceSide,
): Registration {
  const { start } = options;
  if (start) return registerNear(reference, laidOver(frame, start, reference), options, sideOf, start);
  const same = reference.width === frame.width && reference.height === frame.height;
  if (!same) return registerFar(reference, frame, options, sideOf) ?? failedFit(otherSize(reference, frame));
  if (options.motion === 'shift') return registerNear(reference, frame, options, sideOf);
  // a start that hardly any tile votes for is followed only where landmarks know no better one
  const sure = registerNear(reference, frame, options, sideOf, IDENTITY, LEAST_VOTE);
  if (sure.fitted) return sure;
  const far = registerFar(reference, frame, options, sideOf);
  if (far) return far;
  return sure.why === WEAK ? registerNear(reference, frame, options, sideOf) : sure;
}

/** votes of the tiles that a start of the right place has, and a wrong one has not: 0.68 and more against 0.12 and less on 96 pairs of photographs */
const LEAST_VOTE = 0.25;
const WEAK = 'nothing of it was found where it would lie';

const failedFit = (why: string): Registration => ({ ...referenceRegistration(), fitted: false, why });

const otherSize = (r: EncodedImage, f: EncodedImage): string =>
  `it is ${f.width} × ${f.height} pixels, the reference ${r.width} × ${r.height}, and nothing in it was found again there`;

/** what drawing a frame on the reference's grid may leave, pixels */
const DRAWN_SLACK = 0.04;
/** long edge at which landmarks are sought, pixels at most */
const LANDMARK_EDGE = 1000;

/** Landmarks of a picture. @param stops of its exposure against the other's */
function landmarksOf(image: EncodedImage, stops: number): Landmarks {
  let level = 0;
  let small = asCodes(image);
  for (; Math.max(small.width, small.height) > LANDMARK_EDGE; level++) small = halveImage(small);
  return landmarks(logLuminance(luminance(small, stops, 'all'), logFloor(stops)), level);
}

/** The fit of a frame that is laid where landmarks say; undefined where none of their proposals holds. */
function registerFar(
  reference: EncodedImage,
  frame: EncodedImage,
  options: PairOptions,
  sideOf: SideOf,
): Registration | undefined {
  const longEdge = Math.max(reference.width, reference.height);
  const starts = planarStarts(landmarksOf(reference, 0), landmarksOf(frame, options.stops), longEdge);
  const { width, height } = reference;
  for (const { matrix: free } of starts) {
    // what may only turn and grow must not start bent: it would stay so
    const matrix = options.motion === 'similarity' ? closest(free, 'similarity', width, height) : free;
    const laid = laidOver(frame, matrix, reference);
    const fit = registerNear(reference, laid, options, sideOf, matrix);
    if (fit.fitted) return fit;
  }
  return undefined;
}

/** pixels of a level at most at which two pictures are made equally soft */
const EVENED_PIXELS = 1.7e6;
/** levels from the finest one on at which they are */
const EVENED = 3;
/** least gradient²/noise of a point of what was made equally soft: gradients are lower there */
const EVEN_SCORE = 1;

/** The finest level at which pictures are made equally soft. */
function evenedLevel({ width, height }: EncodedImage): number {
  let level = 0;
  for (let pixels = width * height; pixels > EVENED_PIXELS; pixels /= 4) level++;
  return level;
}

/**
 * Registers a frame of the same size that lies nearly on the reference.
 *
 * Pyramid; several coarse candidates chosen by a vote of tiles; then inverse-compositional Lucas–Kanade (Baker & Matthews 2004) on
 * exposure-matched log luminance, tone freed per tile; the smallest sufficient motion model by χ²; error from the scatter of the
 * tiles.
 * @param leastVote a start of fewer votes is not followed
 * @param base the frame was drawn on the reference's grid by this map; the fit is that of the frame itself
 */
function registerNear(
  referenceImage: EncodedImage,
  frameImage: EncodedImage,
  options: PairOptions,
  sideOf: SideOf,
  base: Matrix3 = IDENTITY,
  leastVote = -Infinity,
): Registration {
  const { stops, region } = options;
  const [reference, frame] = [asCodes(referenceImage), asCodes(frameImage)];
  const evens = options.softness === 'differs';
  const finest = Math.max(options.stopLevel ?? 0, evens ? evenedLevel(reference) : 0);
  const channel = usableChannel(reference, frame, stops);
  const floor = logFloor(stops);
  const pointsFrom = evens ? finest + EVENED : finest;
  const wish = { channel, floor, finest, region, ...(evens ? { pointsFrom } : {}) };
  const { sizes, points, light, start: levels, check } = sideOf(reference, wish);
  const F = luminancePyramid(frame, stops, channel);
  const top = sizes.length - 1;
  const start = coarseStart(levels, topLevels(F), floor);
  if (start.vote < leastVote) return failedFit(WEAK);
  const middle = [(sizes[top].width - 1) / 2, (sizes[top].height - 1) / 2] as const;
  const [u, v] = transform(start.map, ...middle);
  // the start may be turned; a frame that may only shift takes its place from the middle of the picture
  const first = options.motion === 'shift' ? translation(u - middle[0], v - middle[1]) : start.map;
  let map = fromLevel(first, top);
  /** what is compared at a level: the reference's points and the frame */
  const atLevelOf = (level: number) => {
    const held = light[level];
    if (!held) {
      const own = points[level];
      return own && { own, moving: logLuminance(F[level], floor) };
    }
    const even = equalSoftness(held, F[level], toLevel(map, level), floor);
    const limits = { ...pointsAt(level === finest), leastScore: EVEN_SCORE, ...atLevel(region, level) };
    return { own: gradientPoints(even.reference, limits), moving: even.frame };
  };
  let last: { fit: Refinement; points: GradientPoints; moving: Representation } | undefined;
  for (let level = top - 1; level >= finest; level--) {
    const sides = atLevelOf(level);
    if (!sides) break;
    const { own, moving } = sides;
    const free: MotionModel =
      options.motion === 'shift' || (evens && options.motion === 'similarity')
        ? options.motion
        : level >= 2
          ? 'similarity'
          : 'perspective';
    const tolerance = level === 0 ? 0.004 : 0.02;
    const fit = refineAlignment(
      own,
      moving,
      toLevel(map, level),
      free,
      sizes[level],
      tolerance,
      evens ? 24 : 12,
    );
    if (fit.solved) map = fromLevel(fit.map, level);
    last = { fit, points: own, moving };
  }
  if (!last?.fit.solved)
    return failedFit('too little structure is shared with the reference to measure a movement');
  const { fit } = last;
  const size = sizes[finest];
  const covariance = sandwichCovariance(fit.equations, fit.model);
  const predicted = covariance
    ? displacementSpread(covariance, fit.model, fit.coordinates, size) * 2 ** finest
    : Infinity;

  // the increments lie on the reference's side: what they are worth holds for the whole map, too
  const wholeFit = { ...fit, map: multiply(toLevel(base, finest), fit.map) };
  const slack = base === IDENTITY ? 0 : (DRAWN_SLACK * Math.max(1, length2(base[0], base[3]))) / 2 ** finest;
  const chosen = chooseModel(wholeFit, covariance, options.motion, size, slack);
  const whole = normalise(fromLevel(chosen.map, finest));
  map = base === IDENTITY ? whole : multiply(invert(base), whole);

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
    return failedFit('it does not show the same view as the reference, or shares too little of it');
  if (start.second > 0.9 * start.vote)
    return failedFit('two different positions fit it equally well (a repeating pattern)');
  if (fit.lastStep >= 0.03) return failedFit('the fit did not settle');
  if (!(predicted < 0.15 * 2 ** finest))
    return failedFit('its position cannot be measured to a tenth of a pixel');

  const { turnDegrees, scale } = turnAndScale(whole, (reference.width - 1) / 2, (reference.height - 1) / 2);
  // measured at the map that will be used, which a forced model may have moved away from the free fit
  const { coordinates, equations: free } = fit;
  const equations = withEquations(last.points, last.moving, coordinates, (equationsAt) =>
    equationsAt(toLevel(map, finest), free.tone, robustSpread(free.residuals), 'tukey'),
  );
  const tiles = tileResiduals(last.points, { ...fit, equations }, finest);
  return {
    matrix: whole,
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
  slack: number,
): { model: MotionModel; map: Matrix3 } {
  if (motion === 'perspective' || motion === fit.model) return { model: fit.model, map: fit.map };
  if (motion === 'auto') return simplestModel(fit, covariance, size, slack);
  const projected = covariance ? projectToModel(fit, covariance, motion, size) : undefined;
  return projected ? { model: motion, map: projected.map } : { model: fit.model, map: fit.map };
}
