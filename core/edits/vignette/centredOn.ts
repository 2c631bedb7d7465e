import { type VignetteSettings } from './vignette';

/** share of the way from the middle to the border in which nothing gets darker */
const WITHIN = 0.8;

/** An ellipse about the middle of a picture. */
export function centredOn({
  width,
  height,
}: {
  readonly width: number;
  readonly height: number;
}): Pick<VignetteSettings, 'x' | 'y' | 'across' | 'down'> {
  const long = Math.max(width, height);
  const [x, y] = [width / 2 / long, height / 2 / long];
  return { x, y, across: WITHIN * x, down: WITHIN * y };
}
