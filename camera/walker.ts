import { type SceneView } from './sceneView';

/** A walker with a lantern, as placed in a flat picture of the scene. */
export interface Walker {
  /** where the feet are, scene pixels */
  readonly x: number;
  readonly y: number;
  /** metres from the camera */
  readonly distance: number;
  /** place in the stride, 0…1 */
  readonly stride: number;
  /** angle of the arm with the lantern from hanging straight down, degrees; forwards is positive */
  readonly arm: number;
  /** way covered while the shutter is open, metres to the right */
  readonly moves: number;
}

interface Part {
  /** from and to, metres: x to the right of the feet, y up */
  readonly a: readonly [number, number];
  readonly b: readonly [number, number];
  /** half widths at both ends, metres */
  readonly ra: number;
  readonly rb: number;
  /** reflectance of cloth or skin */
  readonly tint: readonly [number, number, number];
}

// dark cloth against a bright evening sky: a silhouette with a lit rim
const COAT = [0.014, 0.0145, 0.017] as const;
const TROUSERS = [0.011, 0.0105, 0.011] as const;
const BOOTS = [0.006, 0.0055, 0.005] as const;
const SKIN = [0.12, 0.068, 0.045] as const;
const HAT = [0.016, 0.013, 0.01] as const;

const turned = (length: number, degrees: number): [number, number] => [
  length * Math.sin((degrees * Math.PI) / 180),
  -length * Math.cos((degrees * Math.PI) / 180),
];
const add = (p: readonly [number, number], q: readonly [number, number]): [number, number] => [
  p[0] + q[0],
  p[1] + q[1],
];

/** The limbs of a stride; a figure of 1.76 m seen a little from the side. */
function bodyOf({ stride, arm }: Walker): { parts: Part[]; lantern: [number, number] } {
  const swing = 26 * Math.sin(2 * Math.PI * stride);
  const hip: [number, number] = [0, 0.9];
  const leg = (degrees: number): Part[] => {
    const knee = add(hip, turned(0.44, degrees));
    const foot = add(knee, turned(0.42, degrees - Math.max(0, -degrees) * 0.9));
    return [
      { a: hip, b: knee, ra: 0.1, rb: 0.07, tint: TROUSERS },
      { a: knee, b: foot, ra: 0.065, rb: 0.05, tint: TROUSERS },
      { a: foot, b: add(foot, [0.13, -0.02]), ra: 0.055, rb: 0.04, tint: BOOTS },
    ];
  };
  const shoulder: [number, number] = [0.02, 1.42];
  const limb = (degrees: number, bend: number): { parts: Part[]; hand: [number, number] } => {
    const elbow = add(shoulder, turned(0.3, degrees));
    const hand = add(elbow, turned(0.27, degrees + bend));
    return {
      parts: [
        { a: shoulder, b: elbow, ra: 0.075, rb: 0.06, tint: COAT },
        { a: elbow, b: hand, ra: 0.055, rb: 0.045, tint: COAT },
        { a: hand, b: hand, ra: 0.045, rb: 0.045, tint: SKIN },
      ],
      hand,
    };
  };
  const front = limb(arm, 22);
  const back = limb(-swing * 0.8, 14);
  return {
    parts: [
      ...back.parts,
      ...leg(-swing),
      ...leg(swing),
      { a: [0, 0.78], b: [0.02, 1.36], ra: 0.2, rb: 0.17, tint: COAT },
      { a: [0.02, 1.36], b: [0.03, 1.46], ra: 0.15, rb: 0.07, tint: COAT },
      { a: [0.04, 1.58], b: [0.05, 1.64], ra: 0.09, rb: 0.095, tint: SKIN },
      { a: [0.0, 1.68], b: [0.08, 1.7], ra: 0.11, rb: 0.1, tint: HAT },
      { a: [-0.09, 1.665], b: [0.19, 1.655], ra: 0.025, rb: 0.02, tint: HAT },
      ...front.parts,
    ],
    lantern: add(front.hand, [0.01, -0.16]),
  };
}

const STEPS = 7;
/** the lantern's glow ends so far from it, metres */
const GLOW = 0.7;
/** radiance of the lantern's glass, and how it lights the coat */
const FLAME = [30, 15, 5] as const;
/** light from the low sun on the left and from the sky */
const SUN = [0.5, 0.26, 0.1] as const;
const SKY = [0.14, 0.13, 0.14] as const;

/** The scene with a walker in it: drawn part by part, lit from the sun's side and by the lantern, blurred by the way during the exposure. */
export function withWalker(scene: SceneView, walker: Walker): SceneView {
  const { light, field } = scene;
  if (field.kind !== 'flat') throw new RangeError('a walker is placed in a flat picture');
  const focal = light.width / 2 / Math.tan((field.across * Math.PI) / 360);
  const perMetre = focal / walker.distance;
  const { parts, lantern } = bodyOf(walker);
  const planes = light.planes.map((p) => p.slice());
  const distance = scene.distance?.slice();
  const steps = walker.moves === 0 ? 1 : STEPS;
  const reach = 1.2 + Math.abs(walker.moves);
  const x0 = Math.max(0, Math.floor(walker.x - reach * perMetre));
  const x1 = Math.min(light.width - 1, Math.ceil(walker.x + reach * perMetre));
  const y0 = Math.max(0, Math.floor(walker.y - 2 * perMetre));
  const y1 = Math.min(light.height - 1, Math.ceil(walker.y + 0.3 * perMetre));
  const colour = [0, 0, 0];
  for (let y = y0; y <= y1; y++)
    for (let x = x0; x <= x1; x++) {
      const at = y * light.width + x;
      let covered = 0;
      const sum = [0, 0, 0];
      for (let s = 0; s < steps; s++) {
        const shift = steps > 1 ? walker.moves * (s / (steps - 1) - 0.5) : 0;
        const u = (x - walker.x) / perMetre - shift;
        const v = (walker.y - y) / perMetre;
        const alpha = figureAt(parts, lantern, u, v, perMetre, colour);
        covered += alpha / steps;
        for (let c = 0; c < 3; c++) sum[c] += (alpha * colour[c]) / steps;
        // the lantern's own glow on the damp air around it
        const d2 = (u - lantern[0]) ** 2 + (v - lantern[1]) ** 2;
        const glow = Math.max(0, 1 / (d2 + 0.006) - 1 / (GLOW * GLOW));
        for (let c = 0; c < 3; c++) sum[c] += (FLAME[c] * 0.00011 * glow) / steps;
      }
      for (let c = 0; c < 3; c++) planes[c][at] = planes[c][at] * (1 - covered) + sum[c];
      if (distance && covered > 0.5) distance[at] = walker.distance;
    }
  return { ...scene, light: { ...light, planes }, ...(distance ? { distance } : {}) };
}

/** Opacity and radiance of the figure at a place in metres. */
function figureAt(
  parts: readonly Part[],
  lantern: readonly [number, number],
  u: number,
  v: number,
  perMetre: number,
  colour: number[],
): number {
  let alpha = 0;
  colour.fill(0);
  for (const part of parts) {
    const [dx, dy] = [part.b[0] - part.a[0], part.b[1] - part.a[1]];
    const length = dx * dx + dy * dy;
    const t =
      length > 0 ? Math.max(0, Math.min(1, ((u - part.a[0]) * dx + (v - part.a[1]) * dy) / length)) : 0;
    const [ex, ey] = [u - part.a[0] - t * dx, v - part.a[1] - t * dy];
    const r = part.ra + t * (part.rb - part.ra);
    const off = Math.hypot(ex, ey);
    const own = Math.max(0, Math.min(1, (r - off) * perMetre + 0.5));
    if (own <= 0) continue;
    // a rounded surface: its normal leans outwards towards the outline
    const lean = Math.min(1, off / r);
    const nx = off > 0 ? (ex / off) * lean : 0;
    const ny = off > 0 ? (ey / off) * lean : 0;
    const cloth = 0.85 + 0.3 * weave(u * 90, v * 70);
    const [lx, ly] = [lantern[0] - u, lantern[1] - v];
    const d2 = lx * lx + ly * ly + 0.03;
    const facing = Math.max(0, 0.45 + (nx * lx + ny * ly) / Math.sqrt(d2));
    const left = Math.max(0, -nx) ** 1.5;
    const up = 0.45 + 0.55 * Math.max(0, ny);
    for (let c = 0; c < 3; c++) {
      const lit =
        part.tint[c] * cloth * (SUN[c] * left * 2.5 + SKY[c] * up + (FLAME[c] * 0.02 * facing) / d2);
      colour[c] = colour[c] * (1 - own) + lit * own;
    }
    alpha = alpha + (1 - alpha) * own;
  }
  const glass = Math.hypot(u - lantern[0], (v - lantern[1]) * 0.8);
  const flame = Math.max(0, Math.min(1, (0.04 - glass) * perMetre + 0.5));
  for (let c = 0; c < 3; c++) colour[c] = colour[c] * (1 - flame) + FLAME[c] * flame;
  alpha += (1 - alpha) * flame;
  return alpha;
}

/** A cloth-like grain, 0…1. */
function weave(u: number, v: number): number {
  const hash = Math.sin(Math.floor(u) * 12.9898 + Math.floor(v) * 78.233) * 43758.5453;
  return hash - Math.floor(hash);
}
