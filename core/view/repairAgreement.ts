import { gainGrid, OUTSIDE } from '../edits/repair/repairGain';
import { evaluate } from '../graph/evaluate';
import { inLight } from '../graph/light';
import { lightOf, maskOf } from '../graph/wanted';
import { type Rectangle } from '../raster/raster';
import { frameAgreement, type FrameAgreement, type GapLight } from '../repair/frameAgreement';
import { plainWorld } from './followGraph';
import { type DrawnGraph } from './viewScene';

/** How well each of some frames stands in for what a region shows. @param nodes the picture, where the gap is, and the frames, all light on one grid */
export function repairAgreement(
  { nodes, made }: DrawnGraph,
  {
    picture,
    mask,
    frames,
  }: { readonly picture: string; readonly mask: string; readonly frames: readonly string[] },
  gap: Rectangle,
): FrameAgreement[] {
  const { level, area } = gainGrid(gap);
  const world = plainWorld(made);
  const at = { level, area, kernel: 'bilinear' } as const;
  const light = (node: string): GapLight =>
    inLight(lightOf(evaluate(nodes, node, at, world), 'a repair'), false);
  const hidden = maskOf(evaluate(nodes, mask, at, world), 'a repair').plane;
  const inGap = Uint8Array.from(hidden, (v) => (v < OUTSIDE ? 0 : 1));
  return frameAgreement(light(picture), frames.map(light), inGap, area.width, area.height);
}
