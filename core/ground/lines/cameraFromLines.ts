import { inverse, Matrix, solve } from 'ml-matrix';
import { type Segment } from '../../raster/straightSegments';
import { azimuthOf, heldBy, type HeldCamera, levelsMeet, offLevel, uprightsMeet } from './levelCamera';
import { type Edge, edgeOf, type LineFamily, meetingOf, missOf, type VanishingPoint } from './lineFamilies';
import { length2 } from '../../raster/length';

/** A line that somebody has drawn: what stands, or lines that run away over level ground beside each other. */
export interface DrawnLine extends Segment {
  readonly family: 'upright' | 'level';
}

/** One number with how far it may be off, one standard deviation. */
export interface Uncertain {
  readonly value: number;
  readonly spread: number;
}

/** How a camera is held, told by lines of its picture. */
export interface CameraFromLines {
  /** row in which the horizon crosses the column of the optical axis, pixels */
  readonly horizon: Uncertain;
  /** degrees, positive where the horizon falls to the right */
  readonly roll: Uncertain;
  /** pixels */
  readonly focal: Uncertain;
  /** what each line is; undefined for one that belongs nowhere */
  readonly families: readonly (LineFamily | undefined)[];
}

export interface CameraFromLinesInput {
  readonly width: number;
  readonly height: number;
  readonly principal: readonly [number, number];
  /** the picture may be a part of a larger one: where its optical axis is, is only guessed */
  readonly cropped?: boolean;
  /** pixels, where it is known: from the file, or as it was set */
  readonly focal?: number;
  readonly drawn?: readonly DrawnLine[];
}

const DEGREE = Math.PI / 180;
/** a picture's lines that are looked at, longest first */
const MOST_LINES = 300;
/** lines that pairs are made of */
const MOST_PAIRED = 70;
/** an upright leans by no more in a picture that somebody holds */
const UPRIGHT = Math.sin(22 * DEGREE);
/** how far a line may point beside the place where its family meets */
const NEAR = Math.sin(1.5 * DEGREE);
/** how far a place may lie off the horizon while the focal length is only guessed */
const OFF_HORIZON = Math.sin(6 * DEGREE);
/** level lines that meet farther away than that, over the long edge, run across the picture */
const FAR = 4;
/** the least sine of the angle to the horizon of a line that says where on it others meet */
const STEEP = Math.sin(5 * DEGREE);
/** two families of level lines run at least so far apart, and so far where they are taken to run at right angles */
const APART = { any: 20 * DEGREE, square: 50 * DEGREE } as const;
/** families of fewer or shorter lines, or that hold less of the length of all that could belong to them, may be chance */
const LEAST = {
  upright: { lines: 5, length: 0.4, share: 0.35 },
  level: { lines: 6, length: 0.5, share: 0.2 },
  // without uprights nothing says which places are on the horizon
  alone: { lines: 15, length: 2, share: 0.4 },
} as const;
/** more than that nobody leans a camera */
const MOST_ROLL = 9 * DEGREE;
/** how straight a line is: what its ends may be off, over the long edge, and what stays of any length */
const END = 0.00025;
const STRAIGHT = 0.12 * DEGREE;
/** lines that miss by more of that count less (Cauchy) */
const STRAY = 2;
/**
 * How people hold cameras, before anything is seen: roll, pitch, the logarithm of a guessed focal length and of a known one, and how far the optical axis lies beside
 * the middle of a whole picture and of a part of one.
 */
const HELD = {
  roll: 4 * DEGREE,
  pitch: 15 * DEGREE,
  focal: 0.35,
  known: 0.01,
  whole: 0.008,
  cropped: 0.25,
} as const;
/** focal length over the long edge that is guessed: a moderate wide angle */
const GUESS = 0.9;
/** logarithm by which a focal length may leave that for two families to be taken to run at right angles */
const MOST_OFF_GUESS = 0.6;
/** share by which that is off where they do not quite */
const SQUARED = 0.05;
/** lines of one picture are not independent: what is told from them may be off by so many times what each says */
const RELATED = 4;

/**
 * How a camera is held, from straight lines of its picture: uprights meet in one place, level lines that run beside each other in places on the horizon. Families are
 * found by the pairs of lines that most others agree with; then turn, tilt and focal length are solved together from all of them (Caprile and Torre, *Using Vanishing
 * Points for Camera Calibration*, 1990; Criminisi, Reid, Zisserman, *Single View Metrology*, 2000), where two families of level lines are taken to run at right angles
 * if that alone can tell the focal length.
 * @returns undefined where too few lines agree
 */
export function cameraFromLines(
  segments: readonly Segment[],
  { width, height, principal, cropped = false, focal: known, drawn = [] }: CameraFromLinesInput,
): CameraFromLines | undefined {
  const long = Math.max(width, height);
  const edges = segments.map((s) => edgeOf(s, principal, long));
  const order = edges.map((_, i) => i).sort((a, b) => edges[b].length - edges[a].length);
  const looked = order.slice(0, MOST_LINES).map((i) => edges[i]);
  const focal = known === undefined ? GUESS : known / long;
  const byHand = (family: LineFamily): Edge[] =>
    drawn.filter((d) => d.family === family).map((d) => edgeOf(d, principal, long));

  const standing = looked.filter(({ normal }) => Math.abs(normal[1]) < UPRIGHT);
  const handUprights = byHand('upright');
  const uprights =
    handUprights.length >= 2 ? handUprights : familyOf(standing, standing, 'upright', () => true);
  const first = uprights && heldBy(meetingOfAll(uprights), focal);
  // what is left of the uprights may still be level lines that run towards a steep place
  const rest = looked.filter((e) => !uprights?.includes(e));
  const onHorizon = held(focal, first, cropped);
  const handLevels = byHand('level');
  const levels =
    handLevels.length >= 2
      ? handLevels
      : familyOf(rest, rest, uprights ? 'level' : 'alone', onHorizon, first?.roll);
  const start = first ?? { roll: 0, pitch: 0, focal };
  const along = levels && azimuthOf(meetingOfAll(levels), start);
  const others = rest.filter((e) => !levels?.includes(e));
  const second =
    along === undefined
      ? undefined
      : familyOf(
          others,
          rest,
          'level',
          (v) =>
            onHorizon(v) &&
            (known !== undefined || isNear(v)) &&
            apart(azimuthOf(v, start), along) > APART[known === undefined ? 'square' : 'any'],
          first?.roll,
        );
  if (!uprights && !levels) return undefined;

  const solve = (across: readonly Edge[] | undefined): SolvedHeld => {
    const families: Family[] = [];
    if (uprights) families.push({ edges: uprights, at: 0 });
    if (levels) families.push({ edges: levels, at: 1 });
    if (across) families.push({ edges: across, at: 2 });
    const azimuth = across ? azimuthOf(meetingOfAll(across), start) : Math.PI / 2;
    return solveHeld(
      families,
      { ...start, along: along ?? 0, across: azimuth },
      { known: known !== undefined, cropped },
    );
  };
  const both = solve(second);
  // a lens that nobody has says that the two do not run at right angles, or not level
  const odd = second && Math.abs(Math.log(both.camera.focal / focal)) > MOST_OFF_GUESS;
  const across = odd ? undefined : second;
  const solved = odd ? solve(undefined) : both;
  const { roll, pitch, focal: solvedFocal } = solved.camera;
  const { axis } = solved;
  // row of the horizon in the column of the axis, and what of each number moves it
  const tan = Math.tan(pitch);
  const row = (solvedFocal * tan) / Math.cos(roll);
  const [sRoll, , sFocal] = solved.spread;
  const rowSpread = solved.spreadOf([
    (solvedFocal * tan * Math.sin(roll)) / Math.cos(roll) ** 2,
    (solvedFocal * (1 + tan * tan)) / Math.cos(roll),
    row,
    1,
  ]);
  const at = new Map<Edge, LineFamily>();
  for (const e of uprights ?? []) at.set(e, 'upright');
  for (const e of levels ?? []) at.set(e, 'level');
  for (const e of across ?? []) at.set(e, 'across');
  return rowSpread < solvedFocal * HELD.pitch && sRoll < HELD.roll
    ? {
        horizon: { value: principal[1] + long * (row + axis), spread: long * rowSpread },
        roll: { value: roll / DEGREE, spread: sRoll / DEGREE },
        focal: {
          value: solvedFocal * long,
          spread: solvedFocal * long * (across && known === undefined ? length2(sFocal, SQUARED) : sFocal),
        },
        families: edges.map((e) => at.get(e)),
      }
    : undefined;
}

/** Whether level lines may meet at a place: on the horizon as far as it is known, or where somebody who holds a camera has it. */
function held(
  focal: number,
  first: HeldCamera | undefined,
  cropped: boolean,
): (v: VanishingPoint) => boolean {
  if (first && !cropped) return (v) => Math.abs(offLevel(v, first)) < OFF_HORIZON;
  const plain = { roll: first?.roll ?? 0, pitch: 0, focal };
  return (v) => Math.abs(offLevel(v, plain)) < Math.sin(2 * HELD.pitch);
}

const apart = (a: number, b: number): number => {
  const by = Math.abs(a - b) % Math.PI;
  return Math.min(by, Math.PI - by);
};

/** How much a line speaks for a place. */
const votesFor = (e: Edge, v: VanishingPoint): number =>
  e.length * Math.exp(-0.5 * (missOf(e, v) / NEAR) ** 2);

/**
 * The lines that meet in one place, if they are more than chance.
 * @param among lines that it is made of @param all what could belong to such a family
 */
function familyOf(
  among: readonly Edge[],
  all: readonly Edge[],
  kind: keyof typeof LEAST,
  may: (v: VanishingPoint) => boolean,
  roll = 0,
): readonly Edge[] | undefined {
  const paired = among.slice(0, MOST_PAIRED);
  const steep = among.filter((e) => isSteep(e, roll));
  let [best, most]: [VanishingPoint | undefined, number] = [undefined, 0];
  for (let i = 0; i < paired.length; i++)
    for (let j = 0; j < i; j++) {
      const v = meetingOf(paired[i], paired[j]);
      if (length2(v[0], v[1]) < 1e-9) continue;
      if (kind === 'upright' ? !mayStand(v) : !may(v)) continue;
      // lines that lie along the horizon point to every place on it
      const tells = kind !== 'upright' && isNear(v) ? steep : among;
      let votes = 0;
      for (const e of tells) votes += votesFor(e, v);
      if (votes > most) [best, most] = [v, votes];
    }
  if (!best) return undefined;
  let own = among.filter((e) => Math.abs(missOf(e, best)) < NEAR);
  for (let k = 0; k < 3; k++) {
    if (own.length < 2) return undefined;
    const v = meetingOfAll(own);
    own = among.filter((e) => Math.abs(missOf(e, v)) < NEAR);
  }
  const counts = kind !== 'upright' && isNear(best) ? (e: Edge): boolean => isSteep(e, roll) : () => true;
  const lengthOf = (edges: readonly Edge[]): number =>
    edges.filter(counts).reduce((sum, e) => sum + e.length, 0);
  const [total, length] = [lengthOf(all), lengthOf(own)];
  const least = LEAST[kind];
  return own.filter(counts).length >= least.lines && length >= least.length && length >= least.share * total
    ? own
    : undefined;
}

/** Whether level lines that meet there run away, and not across the picture. */
const isNear = ([x, y, w]: VanishingPoint): boolean => length2(x, y) < FAR * Math.abs(w);

/** Whether a line runs across the horizon, and across level should its lean not be known well. */
const isSteep = ({ normal }: Edge, roll: number): boolean =>
  Math.min(Math.abs(normal[0]), Math.abs(normal[0] * Math.cos(roll) + normal[1] * Math.sin(roll))) > STEEP;

/** Whether uprights may meet at a place: far above or below. */
const mayStand = ([x, y, w]: VanishingPoint): boolean =>
  Math.abs(x) < Math.abs(y) * Math.tan(MOST_ROLL) &&
  Math.abs(w) < Math.abs(y) / (2 * GUESS) / Math.tan(20 * DEGREE);

/** The place that a family's lines point to, with the least weighted squares of what they miss it by. */
function meetingOfAll(edges: readonly Edge[]): VanishingPoint {
  const [a, b] = farthestApart(edges);
  let v = meetingOf(a, b);
  for (let k = 0; k < 6; k++) {
    const size = Math.hypot(...v);
    v = [v[0] / size, v[1] / size, v[2] / size];
    // steps in the two directions square to it
    const bases = squareTo(v);
    const [normal, right] = [Matrix.zeros(2, 2), Matrix.zeros(2, 1)];
    for (const e of edges) {
      const miss = missOf(e, v);
      const weight = e.length / Math.max(Math.abs(miss), NEAR / 4);
      const slope = bases.map((d) => (missOf(e, moved(v, d, 1e-5)) - miss) / 1e-5);
      for (const i of [0, 1]) {
        right.set(i, 0, right.get(i, 0) - weight * slope[i] * miss);
        for (const j of [0, 1]) normal.set(i, j, normal.get(i, j) + weight * slope[i] * slope[j]);
      }
    }
    for (const i of [0, 1]) normal.set(i, i, normal.get(i, i) * 1.0001 + 1e-12);
    const step = solve(normal, right).to1DArray();
    v = moved(moved(v, bases[0], step[0]), bases[1], step[1]);
  }
  return v;
}

const moved = (v: VanishingPoint, d: VanishingPoint, by: number): VanishingPoint => [
  v[0] + by * d[0],
  v[1] + by * d[1],
  v[2] + by * d[2],
];

function squareTo([x, y, w]: VanishingPoint): readonly [VanishingPoint, VanishingPoint] {
  const a: VanishingPoint = Math.abs(w) < 0.7 ? [-x * w, -y * w, x * x + y * y] : [0, w, -y];
  const size = Math.hypot(...a);
  const u: VanishingPoint = [a[0] / size, a[1] / size, a[2] / size];
  return [u, [y * u[2] - w * u[1], w * u[0] - x * u[2], x * u[1] - y * u[0]]];
}

/** Two long lines of a family that lie far from each other. */
function farthestApart(edges: readonly Edge[]): readonly [Edge, Edge] {
  const first = edges.reduce((a, b) => (b.length > a.length ? b : a));
  const far = (e: Edge): number =>
    e.length *
    Math.abs(
      first.normal[0] * (e.middle[0] - first.middle[0]) + first.normal[1] * (e.middle[1] - first.middle[1]),
    );
  const second = edges.filter((e) => e !== first).reduce((a, b) => (far(b) > far(a) ? b : a));
  return [first, second];
}

/** Lines that meet in one place: 0 uprights, 1 and 2 level ones. */
interface Family {
  readonly edges: readonly Edge[];
  readonly at: 0 | 1 | 2;
}

type Start = HeldCamera & { readonly along: number; readonly across: number };

interface SolvedHeld {
  readonly camera: HeldCamera;
  /** how far below the place where it is guessed the optical axis lies */
  readonly axis: number;
  /** of roll, pitch, and the logarithm of the focal length */
  readonly spread: readonly [number, number, number];
  /** of something that changes with the three and the axis so fast */
  readonly spreadOf: (slopes: readonly number[]) => number;
}

/** Roll, pitch, focal length and directions at once, by Gauss–Newton with weights after Cauchy and what is known beforehand as measures of their own. */
function solveHeld(
  families: readonly Family[],
  start: Start,
  { known, cropped }: { readonly known: boolean; readonly cropped: boolean },
): SolvedHeld {
  const squared = !known && families.some((f) => f.at === 1) && families.some((f) => f.at === 2);
  let p = [start.roll, start.pitch, Math.log(start.focal), 0, start.along, start.across];
  const focal0 = p[2];
  const count = squared ? 5 : 6;
  const missAll = (own: readonly number[]): { readonly r: number[]; readonly robust: number[] } => {
    const camera = { roll: own[0], pitch: own[1], focal: Math.exp(own[2]) };
    const r: number[] = [];
    const robust: number[] = [];
    for (const { edges, at } of families) {
      const [x, y, w] =
        at === 0
          ? uprightsMeet(camera)
          : levelsMeet(camera, at === 1 ? own[4] : squared ? own[4] + Math.PI / 2 : own[5]);
      const v = [x, y + own[3] * w, w] as const;
      for (const e of edges) {
        const sigma = length2(STRAIGHT, END / e.length);
        const miss = missOf(e, v) / sigma;
        r.push(miss);
        robust.push(1 / (1 + (miss / STRAY) ** 2));
      }
    }
    r.push(own[0] / HELD.roll, own[1] / HELD.pitch, (own[2] - focal0) / (known ? HELD.known : HELD.focal));
    r.push(own[3] / (cropped ? HELD.cropped : HELD.whole));
    robust.push(RELATED ** 2, RELATED ** 2, RELATED ** 2, RELATED ** 2);
    // a direction that no family has
    r.push((own[4] - start.along) / 0.2, (own[5] - start.across) / 0.2);
    robust.push(1e-6, 1e-6);
    return { r, robust };
  };
  const cost = (own: readonly number[]): number => {
    const { r, robust } = missAll(own);
    const hand = r.length - 6;
    return r.reduce(
      (sum, v, i) => sum + (i < hand ? STRAY ** 2 * Math.log1p((v / STRAY) ** 2) : robust[i] * v * v),
      0,
    );
  };
  let normal = Matrix.eye(count);
  let damp = 1e-3;
  let now = cost(p);
  for (let k = 0; k < 40; k++) {
    const { r, robust } = missAll(p);
    const slopes = Array.from({ length: count }, (_, j) => {
      const next = missAll(p.map((v, i) => (i === j ? v + 1e-6 : v)));
      return next.r.map((v, i) => (v - r[i]) / 1e-6);
    });
    normal = Matrix.zeros(count, count);
    const right = Matrix.zeros(count, 1);
    r.forEach((miss, i) => {
      for (let a = 0; a < count; a++) {
        right.set(a, 0, right.get(a, 0) - robust[i] * slopes[a][i] * miss);
        for (let b = 0; b < count; b++)
          normal.set(a, b, normal.get(a, b) + robust[i] * slopes[a][i] * slopes[b][i]);
      }
    });
    const damped = normal.clone();
    for (let a = 0; a < count; a++) damped.set(a, a, damped.get(a, a) * (1 + damp) + 1e-12);
    const step = solve(damped, right).to1DArray();
    const next = p.map((v, i) => v + (step[i] ?? 0));
    const then = cost(next);
    if (then < now) {
      const gained = now - then;
      [p, now, damp] = [next, then, Math.max(1e-9, damp / 5)];
      if (gained < 1e-9 * now) break;
    } else if (damp > 1e6) break;
    else damp *= 8;
  }
  const covariance = inverse(normal);
  const spreadOf = (slopes: readonly number[]): number => {
    let sum = 0;
    for (const a of slopes.keys())
      for (const b of slopes.keys()) sum += slopes[a] * slopes[b] * covariance.get(a, b);
    return RELATED * Math.sqrt(Math.max(0, sum));
  };
  return {
    camera: { roll: p[0], pitch: p[1], focal: Math.exp(p[2]) },
    axis: p[3],
    spread: [spreadOf([1, 0, 0]), spreadOf([0, 1, 0]), spreadOf([0, 0, 1])],
    spreadOf,
  };
}
