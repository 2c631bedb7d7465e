import { type At } from './tile';

/** A place with so many pixels more on every side. */
export function grownAt(at: At, by: number): At {
  if (by === 0) return at;
  const { x, y, width, height } = at.area;
  return { ...at, area: { x: x - by, y: y - by, width: width + 2 * by, height: height + 2 * by } };
}
