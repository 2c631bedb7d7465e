import { type GroundCamera } from './groundView';

/** Row in which the horizon crosses a column, pixels. */
export const horizonAt = (
  { horizon, principal: [cx], roll = 0 }: Pick<GroundCamera, 'horizon' | 'principal' | 'roll'>,
  x: number,
): number => (roll === 0 ? horizon : horizon + Math.tan((roll * Math.PI) / 180) * (x - cx));
