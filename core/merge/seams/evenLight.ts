import { encodedGain } from '../../raster/encodedGain';
import { srgbToLinear } from '../../raster/srgb';
import { type GridFrame } from '../frameOnGrid';

/** linear light below which noise is all there is, and above which it clips */
const [DARK, BRIGHT] = [0.004, 0.9];
/** of how many cells one is looked at */
const SPARSE = 7;

/** Frames as if each were exposed and balanced like the reference: every channel’s light times the median ratio of all that both show. */
export function evenLight(frames: readonly GridFrame[], reference: number): GridFrame[] {
  const own = frames[reference];
  return frames.map((frame, f) => {
    if (f === reference) return frame;
    const planes = frame.planes.map((plane, c) => {
      const ratios: number[] = [];
      for (let i = 0; i < plane.length; i += SPARSE) {
        if (frame.seen[i] === 0 || own.seen[i] === 0) continue;
        const [light, wanted] = [srgbToLinear(plane[i]), srgbToLinear(own.planes[c][i])];
        if (Math.min(light, wanted) > DARK && Math.max(light, wanted) < BRIGHT) ratios.push(wanted / light);
      }
      const ratio = ratios.length > 0 ? ratios.sort((a, b) => a - b)[ratios.length >> 1] : 1;
      return plane.map(encodedGain(Math.log2(ratio)));
    });
    return { ...frame, planes };
  });
}
