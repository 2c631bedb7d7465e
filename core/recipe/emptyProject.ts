import { type Edit } from '../edits/edit';
import { PLAIN_LAYER } from '../layers/layer';
import { PAPER_MEASURES } from '../merge/mertensWeight';
import { type FrameSet, type Geometry, type OtherMerge, type Project } from './project';

/** of the recipe as it is stored; earlier ones are brought up to it by {@link migrateProject} */
export const PROJECT_VERSION = 9;

/** How sets of other kinds are merged that came before there was a choice. */
export const PLAIN_OTHER: OtherMerge = {
  projection: 'auto',
  border: 'crop',
  stack: 'clip',
  background: 'keep',
  backgroundForm: 'curve',
  focus: 'auto',
  moments: 'evening',
  bend: false,
  views: 'merged',
};

/** The set that every project starts with. */
export const FIRST_SET = 'set';
/** The layer that every project starts with: that set. */
export const FIRST_LAYER = 'merge';

/** A set without frames. */
export function emptySet(id: string, name: string): FrameSet {
  return {
    id,
    name,
    frames: [],
    kind: 'bracket',
    kindChosen: false,
    reference: '',
    referenceChosen: false,
    why: '',
    motion: 'auto',
    prepare: { balance: 'shot' },
    method: 'fusion',
    merge: PAPER_MEASURES,
    response: 'srgb',
    // sets of earlier versions have their joints as they were
    other: { ...PLAIN_OTHER, seams: 'cut' },
    movers: [],
    views: [],
    edits: [],
  };
}

/** Noise is halved (common practice: half of what removes everything; all of it looks plastic). */
const HALF_THE_NOISE: Edit = {
  id: 'noise',
  kind: 'noise',
  settings: { strength: 0.5 },
  amount: 1,
  on: true,
};

/** Whole, as it lies. */
export const PLAIN_GEOMETRY: Geometry = { straighten: {}, ratio: 'free', upright: false };

/** A project without frames. `now` is ISO 8601. */
export function emptyProject(id: string, title: string, now: string): Project {
  return {
    format: 'marsh-project',
    version: PROJECT_VERSION,
    id,
    title,
    created: now,
    changed: now,
    frames: [],
    sets: [emptySet(FIRST_SET, 'Set 1')],
    base: FIRST_SET,
    regions: [],
    layers: [
      {
        ...PLAIN_LAYER,
        id: FIRST_LAYER,
        name: 'Merge',
        kind: 'picture',
        source: { kind: 'set', set: FIRST_SET },
      },
    ],
    edits: [HALF_THE_NOISE],
    geometry: PLAIN_GEOMETRY,
    watchPoints: [],
    made: {},
    log: [],
  };
}
