import { type Rectangle } from '../raster/raster';
import { fillFrom } from '../repair/fillFrom';
import { type FillOffsets } from '../repair/fillOffsets';
import { drawMask, drawPicture } from './drawPicture';
import { plainWorld } from './followGraph';
import { type DrawnGraph } from './viewScene';

/** What the gap of a repair is copied from. @param nodes the picture, where the gap is, and where it may be taken from */
export function fillRepair(
  drawn: DrawnGraph,
  nodes: { readonly picture: string; readonly mask: string; readonly within?: string },
  around: Rectangle,
  seed: number,
): FillOffsets | undefined {
  const world = plainWorld(drawn.made);
  const { picture, mask, within } = nodes;
  const share = (node: string) => (level: number, area: Rectangle) =>
    drawMask(drawn, node, level, area, 'bilinear', world);
  return fillFrom(
    {
      around,
      picture: (level, area) => drawPicture(drawn, picture, level, area, 'bilinear', world),
      gap: share(mask),
      ...(within === undefined ? {} : { within: share(within) }),
    },
    seed,
  );
}
