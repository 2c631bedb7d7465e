import { cameraOn } from '@/core/ground/cameraOn';
import { groundView } from '@/core/ground/groundView';
import { horizonAt } from '@/core/ground/horizonAt';
import { shadowTip } from '@/core/ground/shadowTip';
import { type Space } from '@/core/ground/space';
import { type PictureGrid } from '@/core/recipe/pictureGrid';
import { type PlateOnGround } from '@/store/standingPlates';

type Pixel = readonly [x: number, y: number];

/** Something that can be pulled on the picture, where it is, full-size pixels. */
export type GroundHandle =
  | { readonly kind: 'foot' | 'tip'; readonly layer: string; readonly at: Pixel }
  | { readonly kind: 'horizon'; readonly at: Pixel; readonly slope: number };

/** Where the shadow of a plate ends, pixel of the picture; undefined where it has no end that is seen. */
export function tipOf(space: Space, { stood, tall, grid }: PlateOnGround): Pixel | undefined {
  const { sun } = space.light;
  const tip = sun && stood && tall ? shadowTip(stood.at, tall, sun) : undefined;
  return tip && groundView(cameraOn(space.camera, grid)).seenAt(tip);
}

/** All that can be pulled: the horizon last, so that what lies on it is nearer at hand. */
export function groundHandles(
  space: Space,
  plates: readonly PlateOnGround[],
  grid: PictureGrid,
): GroundHandle[] {
  const ofPlates = plates.flatMap((plate): GroundHandle[] => {
    const { layer, foot, stood } = plate;
    if (!foot) return [];
    const tip = stood && !layer.stand?.water ? tipOf(space, plate) : undefined;
    return [
      { kind: 'foot', layer: layer.id, at: foot },
      ...(tip ? [{ kind: 'tip', layer: layer.id, at: tip } as const] : []),
    ];
  });
  const camera = cameraOn(space.camera, grid);
  const slope = horizonAt(camera, 1) - horizonAt(camera, 0);
  const middle = grid.width / 2;
  return [...ofPlates, { kind: 'horizon', at: [middle, horizonAt(camera, middle)], slope }];
}

/** Rows across which a pull takes the horizon, wherever it is touched. */
const distanceTo = (handle: GroundHandle, [x, y]: Pixel): number =>
  handle.kind === 'horizon'
    ? Math.abs(handle.at[1] + handle.slope * (x - handle.at[0]) - y)
    : Math.hypot(handle.at[0] - x, handle.at[1] - y);

/** The handle that is nearest to a place, within reach. @param reach full-size pixels */
export function handleAt(
  handles: readonly GroundHandle[],
  at: Pixel,
  reach: number,
): GroundHandle | undefined {
  const near = handles.filter((h) => distanceTo(h, at) <= reach);
  const first = near.filter((h) => h.kind !== 'horizon');
  const from = first.length > 0 ? first : near;
  return from.reduce<GroundHandle | undefined>(
    (best, h) => (best && distanceTo(best, at) <= distanceTo(h, at) ? best : h),
    undefined,
  );
}
