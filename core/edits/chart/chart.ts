import { array, boolean, mixed } from 'yup';
import { operator } from '../../graph/operator';
import { type ChartCorners, type PatchColour } from '../../match/chart/chartColours';
import { type PatchLight } from '../../match/chart/chartPatches';
import { chartDifferences } from '../../match/chart/chartProfile';
import { areNumbers, numbers, strict, text } from '../../recipe/schemaParts';
import { type EditKind } from '../editKind';
import { pixelwise } from '../pixelwise';

/** White balance and colours from a chart of 24 patches that was in a frame. */
export interface ChartSettings {
  /** id of the frame that it was read in; empty while none was */
  readonly frame: string;
  /** see {@link ChartCorners}, full-size pixels of that frame; empty while there is none */
  readonly corners: ChartCorners;
  /** what its patches show, row by row; empty while there is none */
  readonly colours: readonly PatchColour[];
  /** 3 × 3 on linear light, row by row */
  readonly matrix: readonly number[];
}

type Mixing = Pick<ChartSettings, 'matrix'>;

const IDENTITY = [1, 0, 0, 0, 1, 0, 0, 0, 1] as const;

const mixChannels = operator<Mixing>({
  kind: 'mixChannels',
  version: 1,
  gives: 'light',
  ...pixelwise<Mixing>({
    plain: ({ matrix }) => {
      const m = Float32Array.from(matrix);
      return (planes) => {
        const [R, G, B] = planes.map((p) => p.slice());
        for (let i = 0; i < R.length; i++)
          planes.forEach((plane, c) => {
            plane[i] = m[3 * c] * R[i] + m[3 * c + 1] * G[i] + m[3 * c + 2] * B[i];
          });
      };
    },
    within: (k, { matrix }) => {
      const m = k.upload(Float32Array.from(matrix));
      return (at, plane, count) => k.mixChannels(at, plane, count, m);
    },
  }),
});

const PATCHES = 24;
const corner = () =>
  mixed<readonly [number, number]>((v): v is readonly [number, number] => areNumbers(v, 2)).required();
const light = () => mixed<PatchLight>((v): v is PatchLight => areNumbers(v, 3)).required();

export const chart: EditKind<ChartSettings> = {
  kind: 'chart',
  rank: 'light',
  plain: { frame: '', corners: [], colours: [], matrix: IDENTITY },
  schema: strict({
    frame: text(200),
    corners: array(corner())
      .test(
        'four',
        '${path} must be four corners',
        (v) => v === undefined || v.length === 0 || v.length === 4,
      )
      .required(),
    colours: array(strict({ light: light(), clipped: boolean().strict(true).required() }))
      .test(
        'patches',
        '${path} must be 24 patches',
        (v) => v === undefined || v.length === 0 || v.length === PATCHES,
      )
      .required(),
    matrix: numbers(9).test(
      'nine',
      '${path} must be 3 × 3 numbers up to 100',
      (v) => v === undefined || (v.length === 9 && v.every((e) => Math.abs(e ?? 0) <= 100)),
    ),
  }),
  changes: ({ matrix }) => matrix.some((v, i) => v !== IDENTITY[i]),
  says: ({ colours, matrix }) => {
    const { before, after } = chartDifferences(colours, matrix);
    return `ΔE ${before.toFixed(1)} → ${after.toFixed(1)}`;
  },
  operators: [mixChannels],
  compile: (graph, input, { matrix }) => ({ changed: graph.add('mixChannels', { matrix }, [input]) }),
};
