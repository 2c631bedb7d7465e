import { describe, expect, test } from '@jest/globals';
import { environmentPicture, GRADES, graded } from '@/tests/knownGrade';
import { type EncodedImage } from '../raster/encodedImage';
import { applyMatch } from './applyMatch';
import { type FrameOnGrid, matchNeighbours } from './matchNeighbours';

const [W, H] = [240, 100];

/** Columns of a picture as a frame on its grid. */
function frameOf({ data, white }: EncodedImage, from: number, to: number): FrameOnGrid {
  const planes = [0, 1, 2].map((c) =>
    Float32Array.from({ length: W * H }, (_, i) => data[3 * i + c] / white),
  );
  const shows = Uint8Array.from({ length: W * H }, (_, i) => (i % W >= from && i % W < to ? 1 : 0));
  return { planes, shows, stops: 0 };
}

/** The middle one of three frames that overlap, graded. */
const threeOf = (picture: EncodedImage, odd: EncodedImage): FrameOnGrid[] => [
  frameOf(picture, 0, 110),
  frameOf(odd, 60, 180),
  frameOf(picture, 130, W),
];

describe('a frame beside its neighbours', () => {
  // real environments carried by the registry (npm @pmndrs/assets 1.7.0, CC0)
  test.each(['park', 'lobby', 'city'])(
    '%s: a tone curve that gains cannot take back is taken back',
    (name) => {
      const picture = environmentPicture(name, W, H);
      for (const grade of ['S-curve', 'faded', 'more chroma']) {
        const odd = graded(picture, GRADES[grade]);
        const own = matchNeighbours(threeOf(picture, odd))[1];
        if (!own) throw new Error('nothing is shared');
        expect({ name, grade, kept: own.matched / own.evened < 0.5 }).toEqual({ name, grade, kept: true });
        // what no neighbour shows is brought back, too
        const back = applyMatch(odd, own.map, 255);
        const off = (image: EncodedImage): number => {
          let sum = 0;
          for (let i = 0; i < W * H * 3; i++)
            if ((i / 3) % W >= 110 && (i / 3) % W < 130) sum += Math.abs(image.data[i] - picture.data[i]);
          return sum / (20 * H * 3);
        };
        expect(off(back)).toBeLessThan(0.5 * off(odd));
      }
    },
  );

  test('darker and warmer is said, and needs no more than gains', () => {
    const picture = environmentPicture('park', W, H);
    const [, darker] = matchNeighbours(threeOf(picture, graded(picture, GRADES.darker)));
    expect(darker?.stops).toBeCloseTo(Math.log2(0.6), 1);
    expect(darker?.evened).toBeLessThan(1);
    const [, warmer] = matchNeighbours(threeOf(picture, graded(picture, GRADES.warmer)));
    expect([warmer?.red, warmer?.blue].map((v) => Math.round(20 * (v ?? 0)) / 20)).toEqual([
      Math.round(20 * Math.log2(1.22)) / 20,
      Math.round(20 * Math.log2(0.78)) / 20,
    ]);
  });

  test('of more than two the odd one is named, and the others keep to each other', () => {
    const picture = environmentPicture('lobby', W, H);
    const odd = graded(picture, GRADES['S-curve']);
    const whole = [picture, picture, odd, picture, picture].map((p) => frameOf(p, 0, W));
    const found = matchNeighbours(whole).map((m) => m?.apart ?? NaN);
    expect(found[2]).toBeGreaterThan(2);
    for (const k of [0, 1, 3, 4]) expect(found[k]).toBeLessThan(0.1);
  });

  test('an exposure that is meant is no difference', () => {
    const picture = environmentPicture('park', W, H);
    const darker = frameOf(graded(picture, GRADES.darker), 0, W);
    const found = matchNeighbours([
      frameOf(picture, 0, W),
      { ...darker, stops: Math.log2(0.6) },
      frameOf(picture, 0, W),
    ]);
    expect(Math.abs(found[1]?.stops ?? 1)).toBeLessThan(0.02);
  });

  test('frames that share nothing are not compared', () => {
    const picture = environmentPicture('park', W, H);
    expect(matchNeighbours([frameOf(picture, 0, 80), frameOf(picture, 120, W), undefined])).toEqual([
      undefined,
      undefined,
      undefined,
    ]);
  });
});
