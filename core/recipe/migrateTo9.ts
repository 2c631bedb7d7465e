import { type Edit } from '../edits/edit';
import { type Rank } from '../edits/rank';
import { type Registration } from '../register/registration';
import { FIRST_SET } from './emptyProject';
import { type Frame, type FrameSet, type MadeFact } from './project';
import { setGraph } from './setGraph';
import { viewsOf } from './views';

type Fields = Readonly<Record<string, unknown>>;

/** A value's members; none where it has none: what is missing is for the check to refuse. */
const fields = (value: unknown): Fields =>
  value !== null && typeof value === 'object' && !Array.isArray(value) ? (value as Fields) : {};

const list = (value: unknown): readonly unknown[] => (Array.isArray(value) ? value : []);

const without = (value: unknown, ...names: readonly string[]): Fields =>
  Object.fromEntries(Object.entries(fields(value)).filter(([name]) => !names.includes(name)));

/** Changes of tone and colour as version 8 kept them: neutral, then zones, then saturation. */
function adjustEdits(adjust: unknown, at: string): Edit[] {
  const { neutral, zones, saturation } = fields(adjust);
  const edit = (kind: string, settings: unknown): Edit =>
    ({ id: `${at}-${kind}`, kind, settings, amount: 1, on: true }) as unknown as Edit;
  return [
    ...(neutral === undefined ? [] : [edit('neutral', neutral)]),
    ...(movesZones(adjust) ? [edit('zones', { zones })] : []),
    ...(saturation === undefined || saturation === 1 ? [] : [edit('saturation', { factor: saturation })]),
  ];
}

const movesZones = (adjust: unknown): boolean => list(fields(adjust).zones).some((z) => fields(z).by !== 0);

const ranked = (edits: readonly Edit[], rank: Rank | undefined): Edit[] =>
  edits.map((e) => (rank === undefined ? e : { ...e, rank }));

function exposureEdit(stops: unknown, at: string, rank: Rank | undefined): Edit[] {
  if (stops === 0 || stops === undefined) return [];
  const edit = { id: `${at}-exposure`, kind: 'exposure', settings: { stops }, amount: 1, on: true } as Edit;
  return ranked([edit], rank);
}

/** Where a layer was shown: everywhere or nowhere, then strokes in order; kept to a range of tones, feathered, led along edges, turned inside out. */
function maskRegion(mask: unknown, layer: unknown): Fields | undefined {
  const { base, strokes, range, feather, follow, inverted } = fields(mask);
  const drawn = list(strokes);
  if (base === 'shown' && drawn.length === 0 && range === undefined && inverted === false) return undefined;
  const part = (how: string, kind: string, settings: unknown): Fields => ({
    how,
    part: { kind, settings },
    turned: false,
    on: true,
  });
  // strokes on what is shown take away: what they reveal again, they take away less
  const turned = drawn.map((s) => ({
    ...fields(s),
    action: fields(s).action === 'hide' ? 'reveal' : 'hide',
  }));
  return {
    id: `${String(fields(layer).id)}-where`,
    name: '',
    parts: [
      ...(base === 'shown'
        ? drawn.length > 0
          ? [part('remove', 'strokes', { strokes: turned })]
          : []
        : [part('add', 'strokes', { strokes: drawn })]),
      ...(range === undefined ? [] : [part('keep', 'tone', range)]),
    ],
    grow: 0,
    feather,
    follow,
    invert: inverted,
  };
}

function migratedLayer(value: unknown, plates: ReadonlyMap<unknown, unknown>, ofSet: unknown): Fields {
  const layer = fields(value);
  const { source, visible, stops, mask, adjust } = layer;
  const { kind, frame } = fields(source);
  const plate = plates.get(frame);
  const at = String(layer.id);
  const own = adjustEdits(adjust, at);
  // what was changed in everything from the set was changed in cut-outs as well, before their own changes
  const before = plate ? adjustEdits(ofSet, `${at}-set`) : [];
  const inOrder = before.length > 0 && own.length > 0 ? 'tone' : undefined;
  const toned = movesZones(adjust) || (plate !== undefined && movesZones(ofSet));
  const where = maskRegion(mask, layer);
  return {
    ...{ id: layer.id, name: layer.name, opacity: layer.opacity, blend: layer.blend },
    kind: 'picture',
    source: kind === 'merge' ? { kind: 'set', set: FIRST_SET } : { kind: plate ? 'plate' : 'frame', frame },
    shown: visible,
    linear: false,
    ...(where ? { where } : {}),
    edits: [
      ...ranked([...before, ...own], inOrder),
      ...exposureEdit(stops, at, toned || inOrder ? 'finish' : undefined),
    ],
    ...(plate ? { place: plate } : {}),
    alternatives: [],
  };
}

/** The whole's changes: those of the match, then noise, exposure and sharpening at last, after the picture was set straight. */
function wholeEdits(match: unknown, finish: unknown): Edit[] {
  const { exposure, noise, sharpen, straighten } = fields(finish);
  const whole = adjustEdits(fields(match).whole, 'whole');
  // where nothing lies between, they are where their kinds belong
  const late = whole.length > 0 || Object.keys(fields(straighten)).length > 0;
  return [...whole, ...finishEdits({ exposure, noise, sharpen }, late)];
}

function finishEdits({ exposure, noise, sharpen }: Fields, late: boolean): Edit[] {
  const edit = (kind: string, settings: unknown, rank?: Rank): Edit =>
    ({
      id: `whole-${kind}`,
      kind,
      settings,
      amount: 1,
      on: true,
      ...(rank ? { rank } : {}),
    }) as unknown as Edit;
  return [
    ...(noise === 0 ? [] : [edit('noise', { strength: noise }, late ? 'detail' : undefined)]),
    ...exposureEdit(exposure, 'whole', late ? 'finish' : undefined),
    ...(fields(sharpen).amount === 0 ? [] : [edit('sharpen', sharpen)]),
  ];
}

function migratedSettings(value: unknown): unknown {
  const settings = fields(value);
  switch (settings.of) {
    case 'match': {
      const { set, whole } = fields(settings.match);
      return {
        of: 'edits',
        kinds: ['neutral', 'zones', 'saturation'],
        set: adjustEdits(set, 'set'),
        whole: adjustEdits(whole, 'whole'),
      };
    }
    case 'finish':
      return {
        of: 'edits',
        kinds: ['noise', 'exposure', 'sharpen'],
        set: [],
        whole: finishEdits(settings, false),
        ratio: settings.ratio,
        upright: settings.upright,
      };
    default:
      return value;
  }
}

/** How a registration was named in version 8: by everything that it depended on. */
function fitKey8(
  reference: Frame,
  frame: Frame,
  set: Partial<Pick<FrameSet, 'motion' | 'region' | 'kind' | 'prepare'>>,
): string {
  const { kind = 'bracket', region, motion = 'auto', prepare } = set;
  const how = kind === 'bracket' ? '' : `/${kind}`;
  const held = region
    ? `/${[region.x, region.y, region.width, region.height].map(Math.round).join(',')}`
    : '';
  const { lens } = prepare ?? {};
  const bent = lens ? `/lens ${[lens.distortion, lens.vignette, lens.red, lens.blue].join(' ')}` : '';
  return `${reference.hash.slice(0, 16)}>${frame.hash.slice(0, 16)}@${(frame.stops - reference.stops).toFixed(3)}/${motion}${held}${how}${bent}`;
}

/** What was measured, under the names that the graph gives it. */
function madeOf(
  set: FrameSet,
  frames: readonly Frame[],
  kept: unknown,
  panorama: unknown,
): Record<string, MadeFact> {
  const known = kept as Readonly<Record<string, Registration>>;
  const reference = frames.find((f) => f.id === set.reference);
  if (!reference) return {};
  const { fits, views, border } = setGraph({ set, frames });
  const made: Record<string, MadeFact> = {};
  const used = frames.filter((f) => f.used);
  const own = (f: Frame): Registration | undefined => known[fitKey8(reference, f, set)];
  for (const { head, frames: bracket } of viewsOf({ set, frames }))
    for (const f of bracket) {
      const fit = known[fitKey8(head, f, { prepare: set.prepare })];
      const hash = views.get(head.id)?.fits.get(f.id);
      if (fit && hash) made[hash] = { of: 'fit', fit };
    }
  const all = used.flatMap((f): [string, Registration][] => {
    const fit = own(f);
    return fit ? [[f.id, fit]] : [];
  });
  const { mesh, ...turned } = fields(panorama);
  if (all.length < used.length || (set.kind === 'panorama' && !panorama)) return made;
  made[fits.hash] = {
    of: 'fits',
    fits: Object.fromEntries(all),
    ...(set.kind === 'panorama' ? { panorama: turned } : {}),
  } as MadeFact;
  if (border && mesh) made[border] = { of: 'mesh', mesh } as MadeFact;
  return made;
}

/**
 * Version 8 to 9: the picture becomes a document. The one set is the first of several; masks are regions, adjustments and the finish are edits.
 * Edits know where they belong; where version 8 did them in another order, they say so, so that the picture stays the same.
 */
export function migrateTo9(project: Fields): Fields {
  const { set, layers, match, finish, frames, fits, panorama, log } = project;
  const { tone, ...kept } = fields(set);
  const all = list(frames).map(fields);
  const plates = new Map(all.filter((f) => f.plate !== undefined).map((f) => [f.id, f.plate]));
  const isRadiance = kept.method === 'radiance';
  const ofSet = adjustEdits(fields(match).set, 'set');
  const newSet = {
    ...kept,
    id: FIRST_SET,
    name: 'Set 1',
    frames: all.filter((f) => f.plate === undefined).map((f) => f.id),
    edits: [
      ...(isRadiance ? [{ id: 'set-toneMap', kind: 'toneMap', settings: tone, amount: 1, on: true }] : []),
      // a balance was taken after the tone map
      ...ranked(ofSet, isRadiance ? 'tone' : undefined),
    ],
  };
  const newFrames = all.map((f) => without(f, 'plate'));
  const { straighten, ratio, upright, crop } = fields(finish);
  return {
    ...without(project, 'set', 'match', 'finish', 'fits', 'panorama'),
    version: 9,
    frames: Array.isArray(frames) ? newFrames : frames,
    sets: [newSet],
    base: FIRST_SET,
    regions: [],
    layers: Array.isArray(layers) ? layers.map((l) => migratedLayer(l, plates, fields(match).set)) : layers,
    edits: wholeEdits(match, finish),
    geometry: { straighten, ratio, upright, ...(crop === undefined ? {} : { crop }) },
    made: measured(),
    log: Array.isArray(log)
      ? log.map((entry) => {
          const { settings, ...rest } = fields(entry);
          return settings === undefined ? rest : { ...rest, settings: migratedSettings(settings) };
        })
      : log,
  };

  function measured(): Record<string, MadeFact> {
    const own = new Set(newSet.frames);
    try {
      const members = newFrames.filter((f) => own.has(f.id)) as unknown as Frame[];
      return madeOf(newSet as unknown as FrameSet, members, fields(fits), panorama);
    } catch {
      // a recipe that is not whole is refused by the check; what was measured can be measured again
      return {};
    }
  }
}
