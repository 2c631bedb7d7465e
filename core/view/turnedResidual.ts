import { reducedCanvas } from '../merge/panorama/canvas';
import { type DrawnFrame, frameOnCanvas, reducedLens } from '../merge/panorama/frameOnCanvas';
import { encodedGain } from '../raster/encodedGain';
import { levelAtHand } from '../raster/awayPixels';
import { type Rectangle } from '../raster/raster';
import { type TurnedSet } from './viewScene';

/** lighter and darker than this a frame tells nothing, encoded */
const HIGH = 0.96;
const LOW = 0.03;

/** What two frames of a panorama show differently. */
export interface TurnedResidual {
  /** [pixel] the earlier frame minus the later, encoded green at the reference's exposure */
  readonly difference: Float32Array;
  /** [pixel] 1 where there are two frames to compare, neither too dark nor too light */
  readonly compared: Uint8Array;
}

/** The deepest frame found so far at each pixel: which, how deep, what it shows. */
interface Deepest {
  readonly frame: Int16Array;
  readonly inside: Float32Array;
  readonly green: Float32Array;
  readonly tells: Uint8Array;
}

/**
 * What turned frames show differently where they overlap: of each place the two frames that lie deepest inside their own borders.
 * @param area in pixels of the paper halved `level` times
 */
export function turnedResidual(
  { fit, canvas, frames }: TurnedSet,
  level: number,
  area: Rectangle,
): TurnedResidual {
  const paper = reducedCanvas(canvas, level);
  const n = area.width * area.height;
  const nobody = (): Deepest => ({
    frame: new Int16Array(n).fill(-1),
    inside: new Float32Array(n).fill(-1),
    green: new Float32Array(n),
    tells: new Uint8Array(n),
  });
  const [first, second] = [nobody(), nobody()];
  fit.rotations.forEach((rotation, f) => {
    const { levels, stops } = frames[f];
    if (!rotation || !levels) return;
    const own = levelAtHand(levels, level);
    const lens = reducedLens(fit.lens, own);
    const drawn = frameOnCanvas(levels[own], lens, rotation, paper, area, {
      kernel: level === 0 ? 'lanczos' : 'bilinear',
      radius: false,
    });
    if (drawn) takeDeepest(first, second, drawn, f, encodedGain(-stops));
  });
  const difference = new Float32Array(n);
  const compared = new Uint8Array(n);
  for (let i = 0; i < n; i++) {
    if (second.frame[i] < 0 || !first.tells[i] || !second.tells[i]) continue;
    compared[i] = 1;
    const sign = first.frame[i] < second.frame[i] ? 1 : -1;
    difference[i] = sign * (first.green[i] - second.green[i]);
  }
  return { difference, compared };
}

function takeDeepest(
  first: Deepest,
  second: Deepest,
  { planes: [red, green, blue], inside }: DrawnFrame,
  frame: number,
  match: (encoded: number) => number,
): void {
  const put = (to: Deepest, i: number): void => {
    to.frame[i] = frame;
    to.inside[i] = inside[i];
    to.green[i] = match(green[i]);
    const most = Math.max(red[i], green[i], blue[i]);
    to.tells[i] = most < HIGH && most > LOW ? 1 : 0;
  };
  for (let i = 0; i < inside.length; i++) {
    if (inside[i] < 0 || inside[i] <= second.inside[i]) continue;
    if (inside[i] <= first.inside[i]) {
      put(second, i);
      continue;
    }
    second.frame[i] = first.frame[i];
    second.inside[i] = first.inside[i];
    second.green[i] = first.green[i];
    second.tells[i] = first.tells[i];
    put(first, i);
  }
}
