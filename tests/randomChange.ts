import { type Dab } from '@/core/cutout/dab';
import { type EditKindName, type EditSettings } from '@/core/edits/editKinds';
import { allLayers, type Layer } from '@/core/layers/layer';
import { BLEND_MODES } from '@/core/layers/blendMode';
import { type Project } from '@/core/recipe/project';
import { JOINS, type Part } from '@/core/region/region';
import { CHANNELS } from '@/core/region/parted/channels';
import { type PartKindName, type PartSettings } from '@/core/region/partKinds';
import { type Change } from '@/store/edits/drafts';
import { setGeometry } from '@/store/edits/geometry';
import {
  addBeneath,
  addFill,
  addFrameLayer,
  addAlternative,
  chooseAlternative,
  copyLayer,
  dropLayer,
  groupLayer,
  moveLayer,
  removeLayer,
  setLayer,
  setPlace,
  ungroupLayer,
} from '@/store/edits/layers';
import { addEdit, copyEdit, editsAt, type EditOwner, newEdit, removeEdit, setEdit } from '@/store/edits/list';
import {
  addPart,
  addStroke,
  clearRegion,
  nameRegion,
  type RegionOwner,
  regionOf,
  removePart,
  setPart,
  setRegion,
  takeRegion,
} from '@/store/edits/regions';
import { setReference, setUsed } from '@/store/edits/frames';
import { setBent, setHow, setMeasure, setMotion } from '@/store/edits/sets';
import { liftPlate, standPlate } from '@/store/edits/stand';
import { type LightRig } from '@/core/ground/light';

/** A source of what is random, 0…1. */
export type Random = () => number;

/** A step of the record. */
export interface RandomChange {
  readonly label: string;
  readonly change: Change;
}

type Draw = <T>(of: readonly T[]) => T;

interface Dice {
  readonly pick: Draw;
  /** between, in steps of a thousandth, as a control gives them */
  readonly within: (least: number, most: number) => number;
  readonly chance: (share: number) => boolean;
}

function diceOf(random: Random): Dice {
  return {
    pick: (of) => of[Math.min(of.length - 1, Math.floor(random() * of.length))],
    within: (least, most) => Math.round(1000 * (least + random() * (most - least))) / 1000,
    chance: (share) => random() < share,
  };
}

type Range = readonly [from: number, to: number];

function sorted(a: number, b: number): Range {
  return a < b ? [a, b] : [b, a];
}

const EDITS: { readonly [K in EditKindName]: (d: Dice) => EditSettings[K] } = {
  repair: ({ pick, within }) => ({
    from: pick(['frame', 'around', 'smooth']),
    frame: pick(['dark', 'mid', 'light']),
    seed: Math.round(within(0, 9)),
    within: '',
    chosen: true,
  }),
  chart: ({ within }) => ({
    frame: 'dark',
    corners: [
      [4, 4],
      [40, 5],
      [39, 30],
      [5, 29],
    ],
    colours: Array.from({ length: 24 }, () => ({
      light: [within(0.05, 0.9), within(0.05, 0.9), within(0.05, 0.9)] as const,
      clipped: false,
    })),
    matrix: [within(0.7, 1.4), within(-0.1, 0.1), 0, 0, within(0.7, 1.4), 0, 0, within(-0.1, 0.1), 1],
  }),
  neutral: ({ within }) => ({
    x: within(5, 60),
    y: within(5, 40),
    before: [within(60, 200), within(60, 200), within(60, 200)],
    gains: [within(0.7, 1.4), within(0.7, 1.4), within(0.7, 1.4)],
  }),
  exposure: ({ within }) => ({ stops: within(-2, 2) }),
  match: ({ within }) => ({
    to: 'another',
    matrix: [1.1, -0.1, 0, 0, 1, 0, 0.05, 0, 0.95],
    curves: [0, 1, 2].map(() => {
      const by = within(-0.08, 0.08);
      return Array.from({ length: 11 }, (_, i) => -0.1775 + 0.1475 * i + by);
    }),
    ...{ tone: within(0, 1), contrast: within(0, 1), colour: within(0, 1) },
  }),
  zones: ({ within }) => ({
    zones: [
      { at: -4, by: within(-0.8, 0.8) },
      { at: -1, by: within(-0.8, 0.8) },
      { at: 1, by: within(-0.8, 0.8) },
    ],
  }),
  saturation: ({ within }) => ({ factor: within(0, 2) }),
  hues: ({ within }) => ({
    hues: [20, 110, 250].map((at) => ({
      ...{ at, turn: within(-60, 60), chroma: within(0, 2), light: within(-1, 1) },
    })),
  }),
  tint: ({ within }) => ({
    points: [-4, 1].map((at) => ({ at, hue: within(0, 360), strength: within(0, 0.08) })),
  }),
  toneMap: ({ within }) => ({ strength: within(0, 1), detail: within(0.5, 2) }),
  noise: ({ within }) => ({ strength: within(0, 1) }),
  vignette: ({ within }) => ({
    ...{ x: within(0, 1), y: within(0, 0.7), across: within(0.1, 0.6), down: within(0.1, 0.6) },
    ...{ stops: within(0, 3), inner: within(0, 1) },
  }),
  glow: ({ within }) => ({
    ...{ amount: within(0, 1), from: within(-2, 2) },
    ...{ reach: within(2, 60), warmth: within(-1, 1) },
  }),
  veil: ({ within }) => ({ amount: within(0, 1), radius: within(1, 30) }),
  overTime: ({ within, pick }) => ({
    how: pick(['mean', 'middle', 'streaks'] as const),
    reach: within(1, 30),
  }),
  detail: ({ within }) => ({ fine: within(-1, 1), middle: within(-1, 1), broad: within(-1, 1) }),
  deblur: ({ within }) => ({
    ...{ radius: within(0.4, 2), steps: Math.floor(within(0, 6)) },
    ringing: within(0, 0.4),
  }),
  soften: ({ within }) => ({ radius: within(0, 3) }),
  grain: ({ within }) => ({
    ...{ strength: within(0, 6), size: within(0, 1.5), colour: within(0, 1) },
    shape: [1.2, 1.2, 1.1, 1, 1, 0.9, 0.8, 0.7],
  }),
  sharpen: ({ within }) => ({ radius: within(0.5, 3), amount: within(0, 2), edge: within(0, 1) }),
};

const softRange = ({ within }: Dice, least: number, most: number) => {
  const [from, to] = sorted(within(least, most), within(least, most));
  return { from, to, soft: within(0.02, 0.3) };
};

const PARTS: { readonly [K in Exclude<PartKindName, 'named'>]: (d: Dice) => PartSettings[K] } = {
  strokes: (d) => ({ strokes: [strokeOf(d)] }),
  thing: ({ within, pick }) => ({
    dabs: [pick(['not', 'this']), 'this'].map((is): Dab => ({
      is: is === 'not' ? 'not' : 'this',
      size: within(0.005, 0.05),
      points: [[within(0, 1), within(0, 0.7)] as const],
    })),
  }),
  parted: (d) => ({
    ...PARTS.thing(d),
    channel: d.pick(CHANNELS),
    weights: [d.within(-0.5, 0.5), d.within(-0.5, 0.5), d.within(-0.5, 0.5)],
    ...softRange(d, -20, 100),
    ...{ overlap: d.within(0, 1), byTone: d.within(0, 1) },
  }),
  tone: (d) => softRange(d, -6, 2),
  colour: (d) => {
    const [from, to] = sorted(d.within(0, 0.1), d.within(0.1, 0.4));
    return { hue: d.within(0, 360), width: d.within(10, 90), soft: d.within(5, 60), from, to };
  },
  same: ({ within, chance }) => ({
    ...{ x: within(0, 1), y: within(0, 0.7), size: within(0.005, 0.05) },
    ...{ within: within(1, 12), anyLight: chance(0.5) },
  }),
  saturation: (d) => softRange(d, 0, 1),
  distance: (d) => softRange(d, 0, 1),
  sharpness: (d) => softRange(d, 0, 1),
  motion: (d) => softRange(d, 0, 3),
  noise: (d) => softRange(d, 0, 1),
  gradient: ({ within }) => ({ x0: within(0, 1), y0: within(0, 0.7), x1: within(0, 1), y1: within(0, 0.7) }),
  ellipse: ({ within }) => ({
    ...{ x: within(0, 1), y: within(0, 0.7), across: within(0.05, 0.5), down: within(0.05, 0.5) },
    ...{ turn: within(0, 360), soft: within(0, 1) },
  }),
  polygon: ({ within }) => ({
    corners: [0, 1, 2, 3].map(() => [within(0, 1), within(0, 0.7)] as const),
  }),
};

function strokeOf({ pick, within, chance }: Dice) {
  const points = [0, 1, 2].map(() => [within(0, 1), within(0, 0.7), within(0.3, 1)] as const);
  return {
    ...{ action: pick(['reveal', 'hide'] as const), size: within(0.03, 0.3), softness: within(0, 1) },
    ...{ flow: within(0.2, 1), points },
    ...(chance(0.3) ? { inside: true } : {}),
  };
}

function rigOf({ within, chance }: Dice): LightRig {
  const colour = () => [within(0, 2), within(0, 2), within(0, 2)] as const;
  const direction = () => ({ azimuth: within(-180, 180), elevation: within(4, 80) });
  return {
    ...(chance(0.8) ? { sun: { ...direction(), colour: colour() } } : {}),
    ...{ sky: colour(), bounce: colour() },
    lamps: chance(0.3) ? [{ ...direction(), distance: within(0.5, 9), colour: colour() }] : [],
  };
}

/** A plate on the ground, its foot below the horizon or not. */
function standOf(id: string, dice: Dice): Change {
  const { within, chance } = dice;
  return standPlate(id, {
    space: {
      camera: {
        focal: within(0.5, 3),
        principal: [0.5, 0.35],
        horizon: within(-0.1, 0.3),
        height: within(0.5, 3),
      },
      light: rigOf(dice),
      ...(chance(0.5) ? { air: { colour: [0.6, 0.7, 0.8] as const, beta: within(0, 0.05) } } : {}),
    },
    stand: {
      ...{ foot: [within(0.3, 0.6), within(0.4, 0.7)] as const, light: rigOf(dice), water: chance(0.4) },
      ...{ relight: within(0, 1), shadow: within(0, 1) },
    },
    place: { x: within(0.3, 0.7), y: within(0.2, 0.5), size: within(0.2, 0.6), turn: 0, mirrored: false },
  });
}

function partOf(dice: Dice): Part {
  const kind = dice.pick(Object.keys(PARTS) as (keyof typeof PARTS)[]);
  return { kind, settings: PARTS[kind](dice) } as Part;
}

const NEEDS_EDIT = 'Expose';

/**
 * The next step of someone who tries everything: edits and regions anywhere, layers of every kind, groups, versions, places, frames and how they
 * are fitted and merged. What it gives can be done at once in the state it is given.
 * @param id of anything new
 */
export function randomChange(project: Project, random: Random, id: string): RandomChange {
  const dice = diceOf(random);
  const { pick, within, chance } = dice;
  const layers = allLayers(project.layers);
  const set = pick(project.sets);
  const owners: EditOwner[] = [
    { kind: 'whole' },
    ...project.sets.map(({ id: s }) => ({ kind: 'set', id: s }) as const),
    ...layers.map((l) => ({ kind: 'layer', id: l.id }) as const),
  ];
  const at = pick(owners);
  const edits = editsAt(project, at);
  const expose = {
    label: NEEDS_EDIT,
    change: addEdit(at, newEdit(id, 'exposure', EDITS.exposure(dice))),
  };
  const anEdit = (make: (edit: (typeof edits)[number]) => RandomChange): RandomChange =>
    edits.length > 0 ? make(pick(edits)) : expose;
  const layer = layers.length > 0 ? pick(layers) : undefined;
  const aLayer = (make: (l: Layer) => RandomChange): RandomChange => (layer ? make(layer) : expose);
  const regions: RegionOwner[] = [
    ...layers.map((l) => ({ kind: 'layer', layer: l.id }) as const),
    ...edits.map((e) => ({ kind: 'edit', at, edit: e.id }) as const),
    ...project.regions.map((r) => ({ kind: 'named', region: r.id }) as const),
  ];
  const aRegion = (make: (owner: RegionOwner) => RandomChange): RandomChange =>
    regions.length > 0 ? make(pick(regions)) : expose;
  const frames = project.sets.flatMap((s) => s.frames);

  const steps: readonly (readonly [weight: number, () => RandomChange])[] = [
    [
      6,
      () => {
        const kind = pick(Object.keys(EDITS) as EditKindName[]);
        // a tone map is made of a radiance map, at its set
        if (kind === 'toneMap') return expose;
        return { label: `Add ${kind}`, change: addEdit(at, newEdit(id, kind, EDITS[kind](dice))) };
      },
    ],
    [
      6,
      () =>
        anEdit((e) => ({
          label: 'Settings',
          change: setEdit(at, e.id, { settings: EDITS[e.kind](dice) }),
        })),
    ],
    [4, () => anEdit((e) => ({ label: 'Amount', change: setEdit(at, e.id, { amount: within(0, 1) }) }))],
    [4, () => anEdit((e) => ({ label: 'On or off', change: setEdit(at, e.id, { on: !e.on }) }))],
    [2, () => anEdit((e) => ({ label: 'Take an edit away', change: removeEdit(at, e.id) }))],
    [2, () => anEdit((e) => ({ label: 'Use it elsewhere', change: copyEdit(at, e.id, pick(owners), id) }))],
    [
      8,
      () =>
        aRegion((owner) => ({
          label: 'Add a part',
          change: addPart(owner, pick(JOINS), partOf(dice)),
        })),
    ],
    [4, () => aRegion((owner) => ({ label: 'Stroke', change: addStroke(owner, strokeOf(dice)) }))],
    [
      4,
      () =>
        aRegion((owner) => {
          const count = regionOf(project, owner)?.parts.length ?? 0;
          const which = Math.floor(within(0, Math.max(0, count - 1)));
          return chance(0.3)
            ? { label: 'Take a part away', change: removePart(owner, which) }
            : {
                label: 'Change a part',
                change: setPart(owner, which, { how: pick(JOINS), turned: chance(0.5), on: chance(0.8) }),
              };
        }),
    ],
    [
      4,
      () =>
        aRegion((owner) => ({
          label: 'Shape a region',
          change: setRegion(owner, {
            feather: chance(0.5) ? within(0, 0.1) : 0,
            grow: chance(0.3) ? within(-0.03, 0.03) : 0,
            follow: chance(0.3) ? within(0, 0.05) : 0,
            ...(chance(0.3) ? { smooth: within(0, 0.02) } : {}),
            invert: chance(0.3),
          }),
        })),
    ],
    [
      1,
      () =>
        aRegion((owner) => ({
          label: 'Everywhere',
          change: clearRegion(owner, pick(['everywhere', 'nowhere'] as const)),
        })),
    ],
    [1, () => aRegion((owner) => ({ label: 'Name it', change: nameRegion(owner, id, `Place ${id}`) }))],
    [
      1,
      () =>
        aRegion((owner) =>
          project.regions.length > 0
            ? { label: 'Take a named one', change: takeRegion(owner, pick(project.regions).id) }
            : expose,
        ),
    ],
    [
      2,
      () => ({
        label: 'Fill',
        change: addFill(id, 'Fill', { kind: 'colour', colour: [within(0, 1), within(0, 1), within(0, 1)] }),
      }),
    ],
    [2, () => ({ label: 'Adjustment', change: addBeneath(id, 'Adjustment') })],
    [
      2,
      () => {
        const frame = project.frames.find((f) => f.id === pick(frames));
        return frame ? { label: 'Frame as layer', change: addFrameLayer(id, frame) } : expose;
      },
    ],
    [
      6,
      () =>
        aLayer((l) => ({
          label: 'Layer',
          change: setLayer(l.id, {
            opacity: within(0, 1),
            blend: pick(BLEND_MODES),
            linear: chance(0.2),
            shown: chance(0.85),
          }),
        })),
    ],
    [
      2,
      () => {
        const plate = layers.find((l) => l.kind === 'picture' && l.source.kind === 'plate');
        if (!plate) return expose;
        return chance(0.7)
          ? { label: 'Stand', change: standOf(plate.id, dice) }
          : { label: 'Lift', change: liftPlate(plate.id) };
      },
    ],
    [2, () => aLayer((l) => ({ label: 'Move', change: moveLayer(l.id, pick([-1, 1] as const)) }))],
    [2, () => aLayer((l) => ({ label: 'Group', change: groupLayer(l.id, id, 'Group') }))],
    [1, () => aLayer((l) => ({ label: 'Ungroup', change: ungroupLayer(l.id) }))],
    [
      2,
      () =>
        aLayer((l) => ({
          label: 'Drop',
          change: dropLayer(l.id, {
            target: pick(layers).id,
            where: pick(['before', 'after', 'in'] as const),
          }),
        })),
    ],
    [
      1,
      () =>
        aLayer((l) => {
          let n = 0;
          return { label: 'Copy', change: copyLayer(l.id, () => `${id}-${n++}`) };
        }),
    ],
    [
      2,
      () =>
        aLayer((l) => ({
          label: 'Place',
          change: setPlace(l.id, {
            x: within(0.2, 0.8),
            y: within(0.1, 0.6),
            size: within(0.2, 1),
            turn: within(-30, 30),
            mirrored: chance(0.3),
            corners: chance(0.5)
              ? undefined
              : [
                  [within(0, 0.1), 0],
                  [0, within(0, 0.1)],
                  [0, 0],
                  [within(-0.1, 0), 0],
                ],
          }),
        })),
    ],
    [1, () => aLayer((l) => ({ label: 'Version', change: addAlternative(l.id, `${id}-v`, 'One', 'Two') }))],
    [
      1,
      () =>
        aLayer((l) =>
          l.alternatives.length > 0
            ? { label: 'Other version', change: chooseAlternative(l.id, pick(l.alternatives).id) }
            : expose,
        ),
    ],
    [
      1,
      () =>
        aLayer((l) =>
          l.kind === 'picture' && l.source.kind === 'set'
            ? expose
            : { label: 'Remove', change: removeLayer(l.id) },
        ),
    ],
    [
      2,
      () => ({
        label: 'Ratio',
        change: setGeometry({ ratio: pick(['free', '1:1', '4:5'] as const), crop: undefined }),
      }),
    ],
    [
      1,
      () => ({
        label: 'Level',
        change: setGeometry({ straighten: chance(0.5) ? {} : { level: [5, 20, 55, 20 + within(-2, 2)] } }),
      }),
    ],
    [1, () => ({ label: 'Reference', change: setReference(pick(frames)) })],
    [
      1,
      () => {
        const own = set.frames.filter((f) => f !== set.reference);
        const frame = own.length > 0 ? project.frames.find((f) => f.id === pick(own)) : undefined;
        return frame ? { label: 'Use', change: setUsed(frame.id, !frame.used) } : expose;
      },
    ],
    [
      1,
      () => ({ label: 'Motion', change: setMotion(set.id, pick(['auto', 'shift', 'similarity'] as const)) }),
    ],
    [
      1,
      () => ({
        label: 'Bend',
        change: setBent(
          set.id,
          set.frames.filter(() => chance(0.5)),
        ),
      }),
    ],
    [1, () => ({ label: 'Contrast', change: setMeasure(set.id, 'contrast', within(0, 1)) })],
    [
      1,
      () => ({ label: 'Method', change: setHow(set.id, { method: pick(['fusion', 'radiance'] as const) }) }),
    ],
    [
      1,
      () => ({
        label: 'Balance',
        change: setHow(set.id, { prepare: { ...set.prepare, balance: pick(['shot', 'even'] as const) } }),
      }),
    ],
  ];
  let left = random() * steps.reduce((sum, [weight]) => sum + weight, 0);
  const step = steps.find(([weight]) => (left -= weight) < 0) ?? steps[0];
  return step[1]();
}
