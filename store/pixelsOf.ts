import { type ViewScene } from '@/core/view/viewScene';

/** A number for each set of levels that was seen; levels are never changed once they are shown. */
const numbers = new WeakMap<object, number>();
let last = 0;

function numberOf(levels: object): number {
  const known = numbers.get(levels) ?? ++last;
  numbers.set(levels, known);
  return known;
}

/** Names the pixels that a scene's layers are made from and where they lie: two scenes with one name have the same. */
export function pixelsOf({ width, height, merge, frames }: Omit<ViewScene, 'pixels'>): string {
  return [
    `${width} ${height} ${merge ? numberOf(merge.levels) : 0}`,
    ...frames.map(({ id, levels, matrix }) => `${id} ${numberOf(levels)} ${matrix?.join() ?? ''}`),
  ].join(';');
}
