import { type Rectangle } from '@/core/raster/raster';
import { sharesOf } from '@/core/view/renderShare';
import { sceneForView } from '@/core/view/sceneForView';
import { type View, type ViewScene } from '@/core/view/viewScene';
import { type WorkerPool } from './workerPool';

/**
 * A view drawn by all workers of a pool, each its own tiles, which it keeps for the next change.
 * @returns R G B A of the area, opaque
 */
export async function renderTogether(
  pool: WorkerPool,
  scene: ViewScene,
  view: View,
  level: number,
  area: Rectangle,
): Promise<Uint8ClampedArray<ArrayBuffer>> {
  const own = sceneForView(scene, view);
  const shares = sharesOf(view, area, pool.size);
  const shared = new Uint8ClampedArray(new SharedArrayBuffer(4 * area.width * area.height));
  await Promise.all(
    shares.map((share) =>
      // asked for before the page draws what else changed
      pool.run((tasks) => tasks.viewShare(own, view, level, area, `table ${view.kind}`, share, shared), {
        ...{ kin: `tiles ${share.index}`, atOnce: true },
      }),
    ),
  );
  // what a canvas takes must not be shared
  return new Uint8ClampedArray(shared);
}
