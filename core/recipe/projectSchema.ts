import { array, boolean, lazy, mixed, object, tuple } from 'yup';
import { SET_KINDS } from '../capture/setKind';
import { MOMENT_TASTES } from '../merge/moments/momentTastes';
import { PROJECTIONS } from '../merge/panorama/projection';
import { BLEND_MODES } from '../layers/blendMode';
import { CROP_RATIOS } from '../finish/finish';
import { PROJECT_VERSION } from './project';
import { PROJECT_LIMITS } from './projectLimits';
import {
  between,
  count,
  date,
  homography,
  id,
  numbers,
  oneOf,
  place,
  points,
  rotation,
  rows,
  share,
  strict,
  text,
} from './schemaParts';

const rectangle = { x: place(), y: place(), width: between(1, 1e6), height: between(1, 1e6) };
const optionalRectangle = () => object(rectangle).noUnknown().strict(true).default(undefined).optional();

const facts = object({
  seconds: between(0, 1e6).optional(),
  aperture: between(0, 1000).optional(),
  iso: between(0, 1e8).optional(),
  focalLength: between(0, 1e5).optional(),
  taken: date().optional(),
  camera: text(80).optional(),
  lens: text(80).optional(),
  whiteBalance: mixed<'auto' | 'set'>().oneOf(['auto', 'set']).optional(),
})
  .noUnknown()
  .strict(true)
  .default(undefined)
  .required();

const frame = strict({
  id: id(),
  file: text(255),
  hash: text(64).matches(/^[0-9a-f]{64}$/, 'must be a SHA-256'),
  bytes: count(),
  width: between(16, 30000).integer(),
  height: between(16, 30000).integer(),
  depth: mixed<8 | 16 | 32>().oneOf([8, 16, 32]).required(),
  facts,
  stops: between(-40, 40),
  stopsSource: oneOf(['exif', 'measured']),
  clipped: strict({
    light: share(),
    dark: share(),
    lightAt: optionalRectangle(),
    darkAt: optionalRectangle(),
  }),
  measures: object({ darkNoise: between(0, 255).optional(), sharpness: share().optional() })
    .noUnknown()
    .strict(true)
    .required(),
  used: boolean().strict(true).required(),
  plate: object({
    x: between(-4, 5),
    y: between(-4, 5),
    size: between(0.002, 8),
    turn: between(-360, 360),
    mirrored: boolean().strict(true).required(),
  })
    .noUnknown()
    .strict(true)
    .default(undefined)
    .optional(),
});

const adjust = object({
  neutral: object({
    x: place(),
    y: place(),
    before: tuple([between(0, 255), between(0, 255), between(0, 255)]).required(),
    gains: tuple([between(0.01, 100), between(0.01, 100), between(0.01, 100)]).required(),
  })
    .noUnknown()
    .strict(true)
    .default(undefined)
    .optional(),
  zones: array(strict({ at: between(-20, 20), by: between(-10, 10) }))
    .max(20)
    .required(),
  saturation: between(0, 4),
})
  .noUnknown()
  .strict(true)
  .required();
const line = tuple([place(), place(), place(), place()]);
const sharpen = strict({ radius: between(0.3, 20), amount: between(0, 5), edge: between(0, 4) });
const measures = strict({ contrast: share(), saturation: share(), exposedness: share() });
const tone = strict({ strength: share(), detail: between(0, 3) });
const motion = oneOf(['auto', 'shift', 'similarity', 'perspective']);
const method = oneOf(['fusion', 'radiance']);
const response = oneOf(['srgb', 'recovered']);
const match = strict({ set: adjust, whole: adjust });

const settings = lazy((value: { of?: unknown } | undefined) => {
  switch (value?.of) {
    case 'fit':
      return strict({ of: oneOf(['fit']), motion });
    case 'merge':
      return strict({ of: oneOf(['merge']), method, merge: measures, tone, response });
    case 'match':
      return strict({ of: oneOf(['match']), match });
    default:
      return strict({
        of: oneOf(['finish']),
        exposure: between(-10, 10),
        noise: share(),
        sharpen,
        ratio: oneOf(Object.keys(CROP_RATIOS)),
        upright: boolean().strict(true).required(),
      })
        .default(undefined)
        .optional();
  }
});

const stroke = strict({
  action: oneOf(['reveal', 'hide']),
  size: between(0, 2),
  softness: share(),
  flow: share(),
  points: points(),
});

const layer = strict({
  id: id(),
  name: text(120),
  source: lazy((value: { kind?: unknown } | undefined) =>
    value?.kind === 'merge'
      ? strict({ kind: oneOf(['merge']) })
      : strict({ kind: oneOf(['frame']), frame: id() }),
  ),
  visible: boolean().strict(true).required(),
  opacity: share(),
  blend: oneOf(BLEND_MODES),
  stops: between(-10, 10),
  mask: strict({
    base: oneOf(['hidden', 'shown']),
    strokes: array(stroke).max(PROJECT_LIMITS.strokes).required(),
    range: object({ from: between(-30, 30), to: between(-30, 30), soft: between(0, 20) })
      .noUnknown()
      .strict(true)
      .default(undefined)
      .optional(),
    feather: between(0, 0.2),
    follow: between(0, 0.2),
    inverted: boolean().strict(true).required(),
  }),
  adjust,
});

const registration = strict({
  matrix: homography(),
  model: oneOf(['shift', 'similarity', 'perspective']),
  fitted: boolean().strict(true).required(),
  why: text(400),
  turnDegrees: between(-360, 360),
  scale: between(0, 1e3),
  bound: between(0, 1e6),
  residual: strict({ typical: between(0, 1e6), worst: between(0, 1e6) }),
  tiles: rows(['x', 'y', 'dx', 'dy', 'error'], 2000),
});

const other = strict({
  projection: oneOf(['auto', ...Object.keys(PROJECTIONS)]),
  border: oneOf(['crop', 'warp']),
  stack: oneOf(['mean', 'median', 'clip', 'max', 'min']),
  background: oneOf(['keep', 'subtract', 'divide']),
  focus: oneOf(['auto', 'depth', 'pyramid']),
  backgroundForm: oneOf(['curve', 'mesh']),
  moments: oneOf(Object.keys(MOMENT_TASTES)),
  bend: boolean().strict(true).required(),
  views: oneOf(['merged', 'apart']),
});

const mesh = object({
  projection: oneOf(Object.keys(PROJECTIONS)),
  left: place(),
  top: place(),
  across: between(1e-6, 1e3),
  down: between(1e-6, 1e3),
  columns: between(2, 400).integer(),
  rows: between(2, 400).integer(),
  places: numbers(80000),
  stretch: place(),
  bow: place(),
})
  .noUnknown()
  .strict(true)
  .test(
    'lattice',
    'has as many places as vertices',
    (m) => m === undefined || m.places.length === 2 * m.columns * m.rows,
  )
  .default(undefined)
  .optional();

const panorama = object({
  frames: array(id()).max(400).required(),
  fit: strict({
    lens: strict({
      focalPx: between(1, 1e7),
      k1: between(-2, 2),
      width: between(1, 1e6),
      height: between(1, 1e6),
    }),
    // a stray has none; JSON keeps its place as null
    rotations: array(rotation()).max(400).required(),
    pairs: array(
      strict({
        a: count(),
        b: count(),
        overlap: share(),
        matches: between(0, 1e6),
        agreeing: between(0, 1e6),
        residual: between(0, 1e6),
        parallax: between(0, 1e6),
        where: object({ x: place(), y: place() }).noUnknown().strict(true).default(undefined).optional(),
      }),
    )
      .max(20000)
      .required(),
  }),
  mesh,
})
  .noUnknown()
  .strict(true);

const MOST_FITS = 4000;

const fits = lazy((value: unknown) => {
  const keys = Object.keys(value && typeof value === 'object' ? value : {});
  if (keys.length > MOST_FITS)
    return mixed().test('count', `\${path} must have at most ${MOST_FITS} items`, () => false);
  return object(Object.fromEntries(keys.map((key) => [key, registration]))).required();
});

/** A whole project of the present version, field by field; unknown fields are refused. */
export const PROJECT_SCHEMA = strict({
  format: oneOf(['marsh-project']),
  version: mixed<typeof PROJECT_VERSION>().oneOf([PROJECT_VERSION]).required(),
  id: id(),
  title: text(200),
  task: text(400).optional(),
  created: date(),
  changed: date(),
  frames: array(frame).max(PROJECT_LIMITS.frames).required(),
  set: strict({
    kind: oneOf(SET_KINDS),
    kindChosen: boolean().strict(true).required(),
    reference: text(80),
    referenceChosen: boolean().strict(true).required(),
    why: text(400),
    motion,
    region: optionalRectangle(),
    prepare: strict({
      balance: oneOf(['shot', 'even']),
      lens: object({
        distortion: between(-0.5, 0.5),
        vignette: between(-4, 4),
        red: between(-0.05, 0.05),
        blue: between(-0.05, 0.05),
      })
        .noUnknown()
        .strict(true)
        .default(undefined)
        .optional(),
    }),
    method,
    merge: measures,
    tone,
    response,
    other,
    movers: array(strict({ x: place(), y: place(), frame: text(80) }))
      .max(PROJECT_LIMITS.movers)
      .required(),
    views: array(strict({ head: id(), frames: array(id()).max(20).required() }))
      .max(400)
      .required(),
  }),
  layers: array(layer).max(PROJECT_LIMITS.layers).required(),
  match,
  finish: strict({
    ratio: oneOf(Object.keys(CROP_RATIOS)),
    upright: boolean().strict(true).required(),
    crop: optionalRectangle(),
    exposure: between(-10, 10),
    straighten: object({
      level: line.default(undefined).optional(),
      uprights: tuple([line.required(), line.required()]).default(undefined).optional(),
    })
      .noUnknown()
      .strict(true)
      .required(),
    noise: share(),
    sharpen,
  }),
  printRegion: optionalRectangle(),
  watchPoints: array(strict({ id: id(), x: place(), y: place() }))
    .max(PROJECT_LIMITS.watchPoints)
    .required(),
  fits,
  panorama: panorama.default(undefined).optional(),
  log: array(
    strict({
      time: date(),
      text: text(400),
      seconds: between(0, 1e6).optional(),
      findings: array(
        strict({
          label: text(80),
          value: between(-1e12, 1e12),
          unit: text(12),
          verdict: oneOf(['pass', 'watch', 'fail']),
        }),
      )
        .max(40)
        .optional(),
      settings,
    }),
  )
    .max(5000)
    .required(),
});
