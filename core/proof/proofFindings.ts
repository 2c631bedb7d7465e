import { clippedShares } from '../capture/clippedShares';
import { type EncodedImage } from '../raster/encodedImage';
import { type Rectangle } from '../raster/raster';
import { type Finding, judge, type Place } from './finding';
import { darkFloorShare } from './measure/darkFloor';
import { lumaOf } from '../raster/lumaOf';
import { horizonOf } from './measure/horizon';
import { lampsOf } from './measure/lamps';

/** Largest share of the picture that a lamp may take and still clip. */
export const LAMP_SHARE = 0.0004;

/**
 * Findings of the finished picture by itself.
 * @param picture the finished, cropped picture at a reduced size @param crop where it lies, full-size pixels of the straightened picture
 * @param print region whose darks must stay printable; the whole crop when absent
 * @param bands largest steps of smooth patches, codes of 255, with their places
 */
export function proofFindings(
  picture: EncodedImage,
  crop: Rectangle,
  print: Rectangle | undefined,
  bands: readonly { readonly step: number; readonly where: Place }[],
): Finding[] {
  const cell = crop.width / picture.width;
  const placed = (where: Place | undefined): { where?: Place } =>
    where
      ? {
          where: {
            x: crop.x + where.x * cell,
            y: crop.y + where.y * cell,
            width: where.width * cell,
            height: where.height * cell,
          },
        }
      : {};
  const lamps = lampsOf(picture, LAMP_SHARE);
  const full = channelsFull(picture);
  const dark = clippedShares(picture);
  const small = print && {
    x: (print.x - crop.x) / cell,
    y: (print.y - crop.y) / cell,
    width: print.width / cell,
    height: print.height / cell,
  };
  const floor = darkFloorShare(
    picture,
    small ?? { x: 0, y: 0, width: picture.width, height: picture.height },
  );
  const worst = bands.reduce<{ step: number; where?: Place }>((a, b) => (b.step > a.step ? b : a), {
    step: 0,
  });
  const line = horizonOf(lumaOf(picture), picture.width, picture.height);
  return [
    judge('proof.burnt', 100 * lamps.burnt, {
      ...placed(lamps.burnt > 0 ? lamps.where : undefined),
      ...(lamps.burnt === 0 && lamps.count > 0
        ? { why: `${lamps.count} small ${lamps.count === 1 ? 'lamp clips' : 'lamps clip'}, as lamps may.` }
        : {}),
    }),
    judge('proof.red', 100 * full[0]),
    judge('proof.green', 100 * full[1]),
    judge('proof.blue', 100 * full[2]),
    judge('proof.black', 100 * dark.dark, placed(dark.darkAt)),
    judge('proof.darkFloor', 100 * floor, print ? { where: print } : {}),
    judge('proof.banding', worst.step, worst.where ? { where: worst.where } : {}),
    ...(line
      ? [
          judge(
            'proof.tilt',
            Math.abs(line.tilt),
            placed({ x: 0, y: line.y - 8, width: picture.width, height: 16 }),
          ),
        ]
      : []),
  ];
}

/** Share of the pixels in which one channel alone is full. */
function channelsFull({ data, white }: EncodedImage): [number, number, number] {
  const counts: [number, number, number] = [0, 0, 0];
  const high = (254 / 255) * white;
  for (let i = 0; i < data.length; i += 3) {
    const full = [0, 1, 2].filter((c) => data[i + c] >= high);
    if (full.length === 1) counts[full[0] as 0 | 1 | 2]++;
  }
  const n = data.length / 3;
  return [counts[0] / n, counts[1] / n, counts[2] / n];
}
