import { allLayers, type Layer } from '@/core/layers/layer';
import { type Place, placedCorners } from '@/core/layers/place';
import { longEdgeOf, pictureGrid } from '@/core/recipe/pictureGrid';
import { type Project } from '@/core/recipe/project';
import { sizeOfLayer } from './PlaceSection';

/** Ends and middle of a range. */
const lines = (values: readonly number[]): number[] => {
  const [low, high] = [Math.min(...values), Math.max(...values)];
  return [low, (low + high) / 2, high];
};

/** The least shift that brings one of some lines onto one of others, where one is near enough. */
function pull(own: readonly number[], others: readonly number[], reach: number): number {
  let best = Infinity;
  for (const a of own) for (const b of others) if (Math.abs(b - a) < Math.abs(best)) best = b - a;
  return Math.abs(best) <= reach ? best : 0;
}

/**
 * A place held by the edges and the middle of the picture, and by those of other layers, where it comes near enough.
 * @param reach full-size pixels
 */
export function snapped(project: Project, layer: Layer, place: Place, reach: number): Place {
  const grid = pictureGrid(project);
  const own = sizeOfLayer(project, layer);
  if (!grid || !own) return place;
  const corners = placedCorners(place, own, grid);
  const others = allLayers(project.layers).flatMap((l) => {
    const size = l.id !== layer.id && l.shown && l.place ? sizeOfLayer(project, l) : undefined;
    return size && l.place ? [placedCorners(l.place, size, grid)] : [];
  });
  const edge = {
    x: [-0.5, grid.width / 2 - 0.5, grid.width - 0.5],
    y: [-0.5, grid.height / 2 - 0.5, grid.height - 0.5],
  };
  const dx = pull(
    lines(corners.map((c) => c[0])),
    [...edge.x, ...others.flatMap((o) => lines(o.map((c) => c[0])))],
    reach,
  );
  const dy = pull(
    lines(corners.map((c) => c[1])),
    [...edge.y, ...others.flatMap((o) => lines(o.map((c) => c[1])))],
    reach,
  );
  const long = longEdgeOf(project);
  return { ...place, x: place.x + dx / long, y: place.y + dy / long };
}
