import { type SetKind } from '@/core/capture/setKind';
import { type Edit } from '@/core/edits/edit';
import { type MaskForm } from '@/core/view/showMask';
import { type View } from '@/core/view/viewScene';
import { type Look, type Session, type Station } from '@/store/session';
import { type ShownScene } from '@/store/benchState';
import { type Pairing } from '@/ui/table/Table';

/** What each station can let the table show, its own first; {@link looksOf} says what applies to a set. */
const LOOKS: Readonly<Record<Station, readonly Look[]>> = {
  frames: ['shot', 'clipping', 'result'],
  fit: ['residual', 'blink', 'wipe', 'shot'],
  merge: ['result', 'origin', 'depth', 'methods', 'fitted', 'wipe', 'blink'],
  layers: ['result', 'mask', 'origin', 'before'],
  match: ['result', 'before', 'mask', 'origin', 'shot'],
  ground: ['result', 'before', 'mask', 'origin'],
  finish: ['finished', 'before', 'mask', 'edges'],
  proof: ['finished', 'clipped', 'before'],
};

/** What Match lets it show while a match is open: what it is made like beside it, how far from it, and as if all of it were taken. */
const LOOKS_OF_MATCH: readonly Look[] = ['result', 'before', 'beside', 'difference', 'full', 'mask', 'shot'];

/** Looks that only some kinds of set have. */
const ONLY_FOR: Readonly<Partial<Record<Look, readonly SetKind[]>>> = {
  methods: ['bracket'],
  depth: ['focus'],
  fitted: ['moments', 'swap'],
};

/**
 * What a station lets the table show for a kind of set, its own first.
 * @param matching whether a match that is solved is open
 */
export function looksOf(station: Station, kind: SetKind, matching = false): readonly Look[] {
  if (station === 'match' && matching) return LOOKS_OF_MATCH;
  // frames of a panorama lie on its canvas by turns: all are compared with each other at once
  if (kind === 'panorama' && station === 'fit') return ['residual', 'origin', 'result', 'shot'];
  if (kind === 'panorama' && station === 'merge') return ['result', 'origin'];
  return LOOKS[station].filter((look) => ONLY_FOR[look]?.includes(kind) ?? true);
}

/** How a mask can be seen. */
export const MASK_FORM_NAMES: Readonly<Record<MaskForm, string>> = {
  hatched: 'Hatched',
  alone: 'Alone, in greys',
  cut: 'Cut out, on grey',
  edge: 'Its edge as a line',
};

export const LOOK_NAMES: Readonly<Record<Look, string>> = {
  result: 'Result',
  finished: 'Finished',
  shot: 'Frame',
  clipping: 'Clipping',
  blink: 'Blink',
  wipe: 'Wipe',
  residual: 'Residual',
  origin: 'Origin',
  depth: 'Depth',
  fitted: 'One frame',
  mask: 'Mask',
  methods: 'Both ways',
  before: 'Before',
  beside: 'Beside',
  difference: 'Apart',
  full: 'As if there',
  edges: 'Edges',
  clipped: 'Clipped',
};

/** Whether a station shows the straightened picture. */
export const showsFinished = (station: Station): boolean => station === 'finish' || station === 'proof';

/** One or two views and how they are joined. */
export interface Shown {
  readonly view: View;
  readonly other?: View;
  readonly pairing?: Pairing;
}

export interface LookSources {
  readonly station: Station;
  readonly session: Session;
  readonly reference: string;
  /** chosen frame for single-frame looks */
  readonly frame: string;
  /** fitted frame that is compared */
  readonly compared: string | undefined;
  /** picture column of the wipe line */
  readonly wipeAt: number;
  /** the picture as it can be drawn */
  readonly shown: ShownScene;
  /** id of the edit that is open */
  readonly edit: string | undefined;
  /** the frame that the open match is like, where it lies on the grid of the picture */
  readonly matched: string | undefined;
  /** the sharpening of the whole */
  readonly sharpen: Extract<Edit, { kind: 'sharpen' }> | undefined;
}

/** The views that a look stands for at a station. */
export function viewsOf(look: Look, from: LookSources): Shown {
  const { station, session, reference, frame, compared, wipeAt } = from;
  const pair = (pairing: Pairing): Shown =>
    station === 'merge'
      ? { view: { kind: 'fitted', frame: reference }, other: { kind: 'result' }, pairing }
      : {
          view: { kind: 'fitted', frame: reference },
          other: { kind: 'fitted', frame: compared ?? reference },
          pairing,
        };
  switch (look) {
    case 'shot':
      return { view: { kind: 'shot', frame, clipping: false } };
    case 'clipping':
      return { view: { kind: 'shot', frame, clipping: true } };
    case 'blink':
      return pair({ kind: 'blink' });
    case 'wipe':
      return pair({ kind: 'wipe', at: wipeAt });
    case 'residual':
      return { view: { kind: 'residual', frame: compared ?? reference, gain: session.gain } };
    case 'origin':
      return { view: { kind: 'origin' } };
    case 'depth':
      return { view: { kind: 'depth' } };
    case 'fitted':
      return { view: { kind: 'fitted', frame: frame === reference ? reference : (compared ?? reference) } };
    case 'mask': {
      const mask = maskOf(from);
      return { view: mask ?? { kind: 'result' } };
    }
    case 'result':
    // what it is like lies on a table of its own
    case 'beside':
      return { view: { kind: 'result' } };
    case 'difference':
      return { view: differenceOf(from) };
    case 'full': {
      const { before } = from.shown;
      return { view: before ? { kind: 'node', node: before.result, late: false } : { kind: 'result' } };
    }
    case 'finished':
      return { view: { kind: 'finished' } };
    case 'edges': {
      const edges = edgesOf(from);
      return { view: edges ?? { kind: 'finished' } };
    }
    case 'clipped':
      return { view: { kind: 'proof' } };
    case 'methods': {
      const { methods } = from.shown;
      if (!methods) return { view: { kind: 'result' } };
      const own: View = { kind: 'node', node: methods.own, late: false };
      return methods.rival === undefined
        ? { view: own }
        : {
            view: own,
            other: { kind: 'node', node: methods.rival, late: false },
            pairing: { kind: 'wipe', at: wipeAt },
          };
    }
    case 'before': {
      const finished = showsFinished(station);
      return {
        view: beforeView(from, finished),
        other: { kind: finished ? 'finished' : 'result' },
        pairing: { kind: 'wipe', at: wipeAt },
      };
    }
  }
}

/** How far the picture lies from what the open match is like, or from what it was without it. */
function differenceOf({ shown: { built, before }, matched }: LookSources): View {
  const node = built?.compiled.result;
  if (node === undefined || !before) return { kind: 'result' };
  return {
    kind: 'difference',
    node,
    to: matched === undefined ? { node: before.result } : { frame: matched },
  };
}

/** The picture before what is compared. */
function beforeView({ shown: { before } }: LookSources, finished: boolean): View {
  if (!before) return { kind: 'reference', finished };
  return { kind: 'node', node: finished ? before.finished : before.result, late: finished };
}

/** Where the chosen layer, or the edit that is open, is. */
function maskOf({ session, shown, edit, station }: LookSources): View | undefined {
  const compiled = shown.built?.compiled;
  if (!compiled) return undefined;
  const { maskForm: form } = session;
  if (station !== 'layers' && edit !== undefined) {
    const nodes = compiled.edits.get(edit);
    return nodes?.mask === undefined ? undefined : { kind: 'mask', mask: nodes.mask, late: nodes.late, form };
  }
  const mask = compiled.layers.find((l) => l.id === session.layer)?.mask;
  return mask === undefined ? undefined : { kind: 'mask', mask, late: false, form };
}

/** What the sharpening of the whole is made on. */
function edgesOf({ shown, sharpen }: LookSources): View | undefined {
  const nodes = sharpen && shown.built?.compiled.edits.get(sharpen.id);
  const node = nodes?.before ?? shown.built?.compiled.finished;
  return sharpen && node !== undefined ? { kind: 'edges', node, sharpen: sharpen.settings } : undefined;
}
