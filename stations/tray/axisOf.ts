import { format } from 'date-fns';
import { timeOf } from '@/core/capture/arrangeSet';
import { type SetKind } from '@/core/capture/setKind';
import { type Frame, type SetScope } from '@/core/recipe/project';
import { panoramaOf } from '@/core/recipe/setFrames';
import { standIns } from '@/core/recipe/views';
import { anglesOf, isColumn } from '@/core/register/rotation/anglesOf';
import { formatStops } from '@/ui/formatFinding';

/** The line that a tray lays its frames on. */
export interface TrayAxis {
  /** what it counts */
  readonly name: string;
  /** [frame] place; all frames have one */
  readonly values: readonly number[];
  readonly ticks: readonly { readonly at: number; readonly text: string }[];
  /** a place in words */
  readonly say: (value: number) => string;
}

/** The axis that matters for a kind: stops, angle, clock, or the order from near to far. */
export function axisOf(scope: SetScope, frames: readonly Frame[], zero: number): TrayAxis {
  return AXES[scope.set.kind](scope, frames, zero);
}

type Axis = (scope: SetScope, frames: readonly Frame[], zero: number) => TrayAxis;

const stops: Axis = (_, frames, zero) => {
  const values = frames.map((f) => f.stops - zero);
  const low = Math.floor(Math.min(0, ...values));
  const high = Math.ceil(Math.max(0, ...values));
  const all = Array.from({ length: high - low + 1 }, (_unused, i) => low + i);
  return {
    name: 'exposure',
    values,
    ticks: all.map((at) => ({
      at,
      text: high - low > 10 && at % 2 !== 0 ? '' : at > 0 ? `+${at}` : at < 0 ? `−${-at}` : '0 EV',
    })),
    say: (v) => formatStops(v),
  };
};

const order =
  (name: string): Axis =>
  (_, frames) => ({
    name,
    values: frames.map((_unused, i) => i),
    ticks: frames.map((_unused, i) => ({
      at: i,
      text: i === 0 ? 'first' : i === frames.length - 1 ? 'last' : '',
    })),
    say: (v) => `place ${v + 1}`,
  });

/** a gap so many times the usual one parts the frames into heaps */
const HEAPS = 40;

const median = (values: readonly number[]): number =>
  values.slice().sort((a, b) => a - b)[values.length >> 1] ?? 0;

const clock: Axis = (scope, frames, zero) => {
  const times = frames.map((f) => timeOf(f.facts));
  if (times.some((t) => t === undefined)) return order('order')(scope, frames, zero);
  const values = times.map((t) => t ?? 0);
  const [low, high] = [Math.min(...values), Math.max(...values)];
  // two nights would stand in two heaps
  const gaps = values.slice(1).map((v, i) => v - values[i]);
  if (Math.max(0, ...gaps) > HEAPS * Math.max(1, median(gaps))) return order('order')(scope, frames, zero);
  // the file's clock, whatever the zone of this machine
  const pattern = high - low < 120 ? 'HH:mm:ss' : 'HH:mm';
  const say = (v: number): string => {
    const local = new Date(v * 1000);
    return format(new Date(local.getTime() + local.getTimezoneOffset() * 60000), pattern);
  };
  const ticks = high > low ? [low, (low + high) / 2, high] : [low];
  return { name: 'clock', values, ticks: ticks.map((at) => ({ at, text: say(at) })), say };
};

const angle: Axis = (scope, frames, zero) => {
  const panorama = panoramaOf(scope);
  const found = panorama ? anglesOf(panorama.fit) : [];
  const standsFor = standIns(scope);
  const values = frames.map((f) => found[panorama?.frames.indexOf(standsFor(f.id)) ?? -1] ?? NaN);
  const known = values.filter(Number.isFinite);
  if (known.length === 0) return order('order')(scope, frames, zero);
  const middle = known.reduce((a, b) => a + b, 0) / known.length;
  const span = Math.max(...known) - Math.min(...known);
  const step = span > 90 ? 30 : span > 45 ? 15 : span > 15 ? 5 : 2;
  const low = Math.ceil(Math.min(...known) / step);
  const count = Math.floor(Math.max(...known) / step) - low + 1;
  const say = (v: number): string => `${v < -0.05 ? '−' : ''}${Math.abs(v).toFixed(step < 5 ? 1 : 0)}°`;
  return {
    name: panorama && isColumn(panorama.fit) ? 'tilt' : 'turn',
    // a stray has no angle: it stands in the middle, greyed
    values: values.map((v) => (Number.isFinite(v) ? v : middle)),
    ticks: Array.from({ length: Math.max(0, count) }, (_unused, i) => {
      const at = (low + i) * step;
      return { at, text: say(at) };
    }),
    say,
  };
};

const AXES: Readonly<Record<SetKind, Axis>> = {
  bracket: stops,
  developments: stops,
  focus: order('focus'),
  panorama: angle,
  moments: clock,
  swap: clock,
  stack: clock,
};
