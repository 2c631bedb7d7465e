import { operator } from '../../graph/operator';
import { factOf, lightOf } from '../../graph/wanted';
import { kernels, planeBytes, uploadPlanes } from '../../kernels/kernels';
import { type ToneBase, toneMapKernel, toneMapPlanes, type ToneWish } from '../../merge/radiance/toneMap';
import { between, share, strict } from '../../recipe/schemaParts';
import { type EditKind } from '../editKind';

const mapTones = operator<ToneWish>({
  kind: 'mapTones',
  version: 1,
  gives: 'light',
  works: 'linear',
  run: ([input, fact], wish, { level, area }) => {
    const tile = lightOf(input, 'a tone map');
    const whole = factOf(fact, 'a tone map').value as ToneBase;
    const base = { ...whole, cell: whole.cell / 2 ** level };
    const k = kernels();
    if (!k) {
      const planes = tile.planes.map((p) => p.slice());
      toneMapPlanes(planes, area, base, wish);
      return { ...tile, planes, encoded: true };
    }
    const [{ length }] = tile.planes;
    const planes = k.borrow(() => {
      const at = uploadPlanes(k, tile.planes);
      const plane = planeBytes(length);
      toneMapKernel(k, at, plane, area, base, wish);
      return [0, 1, 2].map((c) => k.floats(at + c * plane, length).slice());
    });
    return { ...tile, planes, encoded: true };
  },
});

/** A radiance map brought to the range of a print or screen. It is an edit of the set like any other: what is done before it sees all of the light. */
export const toneMap: EditKind<ToneWish> = {
  kind: 'toneMap',
  rank: 'tone',
  plain: { strength: 0.75, detail: 1 },
  schema: strict({ strength: share(), detail: between(0, 3) }),
  changes: () => true,
  says: ({ strength, detail }) =>
    `${Math.round(100 * strength)} % of the range pressed${detail === 1 ? '' : `, detail × ${Number(detail.toFixed(2))}`}`,
  operators: [mapTones],
  compile: (graph, input, wish, { toneBase }) =>
    toneBase ? { changed: graph.add('mapTones', wish, [input, toneBase]) } : undefined,
};
