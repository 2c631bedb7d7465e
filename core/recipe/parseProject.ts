import {
  array,
  boolean,
  lazy,
  mixed,
  number,
  object,
  type ObjectShape,
  string,
  tuple,
  ValidationError,
} from 'yup';
import { Problem } from '../proof/problem';
import { SET_KINDS } from '../capture/setKind';
import { MOMENT_TASTES } from '../merge/moments/momentTastes';
import { PROJECTIONS } from '../merge/panorama/projection';
import { type Matrix3 } from '../raster/matrix3';
import { BLEND_MODES } from '../layers/blendMode';
import { CROP_RATIOS } from '../finish/finish';
import { migrateProject } from './migrateProject';
import { type Project, PROJECT_VERSION } from './project';

const strict = <S extends ObjectShape>(shape: S) => object(shape).noUnknown().strict(true).required();
const real = () =>
  number()
    .strict(true)
    .required()
    .test('finite', '${path} must be a finite number', (v) => v === undefined || Number.isFinite(v));
const between = (low: number, high: number) => real().min(low).max(high);
const count = () => between(0, 1e12).integer();
const text = (most: number) => string().strict(true).defined().max(most);
const oneOf = <T extends string>(values: readonly T[]) =>
  mixed<T>()
    .oneOf([...values])
    .required();
const id = () => text(80).min(1);

const rectangle = { x: real(), y: real(), width: between(1, 1e6), height: between(1, 1e6) };
const optionalRectangle = () => object(rectangle).noUnknown().strict(true).default(undefined).optional();

const facts = object({
  seconds: between(0, 1e6).optional(),
  aperture: between(0, 1000).optional(),
  iso: between(0, 1e8).optional(),
  focalLength: between(0, 1e5).optional(),
  taken: text(40).optional(),
  camera: text(80).optional(),
  lens: text(80).optional(),
  whiteBalance: mixed<'auto' | 'set'>().oneOf(['auto', 'set']).optional(),
})
  .noUnknown()
  .strict(true);

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
    light: between(0, 1),
    dark: between(0, 1),
    lightAt: optionalRectangle(),
    darkAt: optionalRectangle(),
  }),
  measures: object({ darkNoise: between(0, 255).optional(), sharpness: between(0, 1).optional() })
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
    x: real(),
    y: real(),
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
const line = tuple([real(), real(), real(), real()]);
const sharpen = strict({ radius: between(0.3, 20), amount: between(0, 5), edge: between(0, 4) });
const measures = strict({ contrast: between(0, 1), saturation: between(0, 1), exposedness: between(0, 1) });
const tone = strict({ strength: between(0, 1), detail: between(0, 3) });
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
        noise: between(0, 1),
        sharpen,
        ratio: oneOf(Object.keys(CROP_RATIOS)),
        upright: boolean().strict(true).required(),
      })
        .default(undefined)
        .optional();
  }
});

const point = tuple([real(), real(), between(0, 1)]).required();
const stroke = strict({
  action: oneOf(['reveal', 'hide']),
  size: between(0, 2),
  softness: between(0, 1),
  flow: between(0, 1),
  points: array(point).min(1).max(20000).required(),
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
  opacity: between(0, 1),
  blend: oneOf(BLEND_MODES),
  stops: between(-10, 10),
  mask: strict({
    base: oneOf(['hidden', 'shown']),
    strokes: array(stroke).max(5000).required(),
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

const matrix = mixed<Matrix3>(
  (value): value is Matrix3 => Array.isArray(value) && value.length === 9 && value.every(Number.isFinite),
);

const registration = strict({
  matrix: matrix.required(),
  model: oneOf(['shift', 'similarity', 'perspective']),
  fitted: boolean().strict(true).required(),
  why: text(400),
  turnDegrees: real(),
  scale: real(),
  bound: real(),
  residual: strict({ typical: real(), worst: real() }),
  tiles: array(strict({ x: real(), y: real(), dx: real(), dy: real(), error: real() }))
    .max(2000)
    .required(),
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

const rotation = mixed<Matrix3>(
  (value): value is Matrix3 =>
    Array.isArray(value) &&
    value.length === 9 &&
    value.every((v) => typeof v === 'number' && Math.abs(v) <= 1.001),
);

const mesh = object({
  projection: oneOf(Object.keys(PROJECTIONS)),
  left: real(),
  top: real(),
  across: between(1e-6, 1e3),
  down: between(1e-6, 1e3),
  columns: between(2, 400),
  rows: between(2, 400),
  places: array(real()).max(80000).required(),
  stretch: real(),
  bow: real(),
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
    rotations: array(rotation.nullable()).max(400).required(),
    pairs: array(
      strict({
        a: between(0, 400),
        b: between(0, 400),
        overlap: between(0, 1),
        matches: between(0, 1e6),
        agreeing: between(0, 1e6),
        residual: real(),
        parallax: real(),
        where: object({ x: real(), y: real() }).noUnknown().strict(true).default(undefined).optional(),
      }),
    )
      .max(80000)
      .required(),
  }),
  mesh,
})
  .noUnknown()
  .strict(true);

const fits = lazy((value: unknown) =>
  object(
    Object.fromEntries(
      Object.keys(value && typeof value === 'object' ? value : {}).map((key) => [key, registration]),
    ),
  ).required(),
);

const project = strict({
  format: oneOf(['marsh-project']),
  version: mixed<typeof PROJECT_VERSION>().oneOf([PROJECT_VERSION]).required(),
  id: id(),
  title: text(200),
  task: text(400).optional(),
  created: text(40),
  changed: text(40),
  frames: array(frame).max(400).required(),
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
    movers: array(strict({ x: real(), y: real(), frame: text(80) }))
      .max(1000)
      .required(),
    views: array(strict({ head: id(), frames: array(id()).max(20).required() }))
      .max(400)
      .required(),
  }),
  layers: array(layer).max(200).required(),
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
    noise: between(0, 1),
    sharpen,
  }),
  printRegion: optionalRectangle(),
  watchPoints: array(strict({ id: id(), x: real(), y: real() }))
    .max(6)
    .required(),
  fits,
  panorama: panorama.default(undefined).optional(),
  log: array(
    strict({
      time: text(40),
      text: text(400),
      seconds: between(0, 1e6).optional(),
      findings: array(
        strict({ label: text(80), value: real(), unit: text(12), verdict: oneOf(['pass', 'watch', 'fail']) }),
      )
        .max(40)
        .optional(),
      settings,
    }),
  )
    .max(5000)
    .required(),
});

/**
 * The one gate through which a stored project comes back: every field checked, unknown ones refused.
 * @param where the file or shelf it came from, for the sentence
 * @throws Problem naming the first thing that is wrong
 */
export function parseProject(value: unknown, where: string): Project {
  const version = value && typeof value === 'object' && 'version' in value ? value.version : undefined;
  if (typeof version === 'number' && version > PROJECT_VERSION)
    throw new Problem(`“${where}” was written by a newer Marsh (version ${version}). Open it with that one.`);
  let checked: Project;
  try {
    checked = project.validateSync(migrateProject(value), {
      strict: true,
      abortEarly: true,
    }) as unknown as Project;
  } catch (thrown) {
    const detail = thrown instanceof ValidationError ? thrown.errors[0] : 'it is not a project';
    throw new Problem(`“${where}” is not a whole Marsh project: ${detail}. Open another copy.`);
  }
  const ids = new Set(checked.frames.map((f) => f.id));
  const lost = checked.layers.find((l) => l.source.kind === 'frame' && !ids.has(l.source.frame));
  if (lost)
    throw new Problem(
      `“${where}” is not a whole Marsh project: the frame of layer “${lost.name}” is missing.`,
    );
  if (ids.size !== checked.frames.length || (checked.frames.length > 0 && !ids.has(checked.set.reference)))
    throw new Problem(
      `“${where}” is not a whole Marsh project: its frames do not belong together. Open another copy.`,
    );
  return checked;
}
