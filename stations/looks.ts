import { type View } from '@/core/view/viewScene';
import { type Look, type Session, type Station } from '@/store/session';
import { type Pairing } from '@/ui/table/Table';

/** What each station lets the table show, its own first. */
export const LOOKS: Readonly<Record<Station, readonly Look[]>> = {
  frames: ['shot', 'clipping', 'result'],
  fit: ['residual', 'blink', 'wipe', 'shot'],
  merge: ['result', 'origin', 'wipe', 'blink'],
  layers: ['result', 'mask', 'origin'],
  finish: ['result'],
};

export const LOOK_NAMES: Readonly<Record<Look, string>> = {
  result: 'Result',
  shot: 'Frame',
  clipping: 'Clipping',
  blink: 'Blink',
  wipe: 'Wipe',
  residual: 'Residual',
  origin: 'Origin',
  mask: 'Mask',
};

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
    case 'mask':
      return { view: { kind: 'mask', layer: session.layer } };
    case 'result':
      return { view: { kind: 'result' } };
  }
}
