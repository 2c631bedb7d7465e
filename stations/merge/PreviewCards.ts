import { ToggleButton, ToggleButtonGroup } from 'react-aria-components';
import { styled } from 'styled-components';
import { type PanoramaPreview } from '@/core/merge/panorama/previewPanorama';
import { type Rectangle } from '@/core/raster/raster';
import { showStill } from '@/ui/showStill';
import { COLOUR, focusRing, touchable } from '@/ui/tokens';

/** Cards with a small picture each, of which one is chosen. */
export const PreviewCards = styled(ToggleButtonGroup)`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px;
`;

export const PreviewCard = styled(ToggleButton)`
  ${touchable}
  display: flex;
  flex-direction: column;
  gap: 2px;
  height: auto;
  padding: 4px;
  border: 1px solid ${COLOUR.control};
  border-radius: 3px;
  background: ${COLOUR.raised};
  text-align: left;
  cursor: default;
  canvas {
    width: 100%;
    height: 62px;
    object-fit: contain;
    background: ${COLOUR.sunken};
  }
  small {
    font-variant-numeric: tabular-nums;
  }
  &[data-hovered] {
    background: ${COLOUR.hover};
  }
  &[data-selected] {
    background: ${COLOUR.ink};
    color: ${COLOUR.raised};
  }
  &[data-focus-visible] {
    ${focusRing}
  }
`;

/** opacity of what a crop takes away */
const LOST = 0.28;

/** Puts a preview on a canvas; what lies outside a box is shown faint. */
export function drawPreview(
  canvas: HTMLCanvasElement | null,
  { width, height, rgba }: PanoramaPreview,
  box?: Rectangle,
): void {
  const pixels = new Uint8ClampedArray(rgba);
  if (box)
    for (let y = 0, o = 3; y < height; y++)
      for (let x = 0; x < width; x++, o += 4)
        if (x < box.x || y < box.y || x >= box.x + box.width || y >= box.y + box.height) pixels[o] *= LOST;
  void showStill(canvas, pixels, width, height);
}
