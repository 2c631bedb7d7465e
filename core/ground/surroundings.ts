import { labOf } from '../colour/deltaE';
import { type EncodedImage } from '../raster/encodedImage';
import { srgbToLinear } from '../raster/srgb';
import { type LightColour } from './light';
import { length2 } from '../raster/length';

const colourAt = ({ data, white }: EncodedImage, i: number): LightColour => [
  srgbToLinear(data[3 * i] / white),
  srgbToLinear(data[3 * i + 1] / white),
  srgbToLinear(data[3 * i + 2] / white),
];

/** Mean linear colour of a picture where a test holds; black where it holds nowhere. */
function meanColour(
  image: EncodedImage,
  [x0, y0, x1, y1]: readonly [number, number, number, number],
  counts: (x: number, y: number) => boolean,
): LightColour {
  const sum = [0, 0, 0];
  let n = 0;
  for (let y = Math.max(0, Math.floor(y0)); y <= Math.min(image.height - 1, y1); y++)
    for (let x = Math.max(0, Math.floor(x0)); x <= Math.min(image.width - 1, x1); x++) {
      if (!counts(x, y)) continue;
      const colour = colourAt(image, y * image.width + x);
      for (let c = 0; c < 3; c++) sum[c] += colour[c];
      n++;
    }
  return n === 0 ? [0, 0, 0] : [sum[0] / n, sum[1] / n, sum[2] / n];
}

/** The mean colour of the ground round a foot, as it is seen. */
export function groundColour(
  image: EncodedImage,
  [x, y]: readonly [number, number],
  heightPx: number,
  horizon: number,
): LightColour {
  const across = Math.max(8, heightPx / 3);
  const down = across / 3;
  return meanColour(
    image,
    [x - across, Math.max(horizon, y - down), x + across, y + down],
    (px, py) => length2((px - x) / across, (py - y) / down) < 1,
  );
}

/** Stops that bring a plate half the way to the lightness of what it stands before. */
export function halfWay(
  picture: EncodedImage,
  plate: EncodedImage,
  [x, y]: readonly [number, number],
  heightPx: number,
): number {
  const beside = meanColour(picture, [x - heightPx, y - heightPx, x + heightPx, y], () => true);
  const { width, height, alpha } = plate;
  const own = meanColour(
    plate,
    [0, 0, width - 1, height - 1],
    (px, py) => !alpha || alpha[3 * (py * width + px)] > 127,
  );
  const lightness = (c: LightColour): number => labOf(...c)[0];
  const wanted = (lightness(own) + lightness(beside)) / 2;
  // CIE 15: L* back to Y
  const back = (l: number): number => (l > 8 ? ((l + 16) / 116) ** 3 : (l * 27) / 24389);
  const stops = Math.log2(back(wanted) / Math.max(1e-4, back(lightness(own))));
  return Math.max(-4, Math.min(4, stops));
}
